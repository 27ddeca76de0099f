/** Reads a large table of readings off the page's own thread. */
import { type ReadOptions, readingsFromText, type ReadTable } from './readingsFromText.ts'

export interface TableRequest extends ReadOptions {
  request: number
  text: string
}
export interface TableReply {
  request: number
  table: ReadTable
}

self.onmessage = ({ data }: MessageEvent<TableRequest>) => {
  const { request, text, ...options } = data
  self.postMessage({ request, table: readingsFromText(text, options) } satisfies TableReply)
}
