/** Reads a sweep file off the page's own thread: a file of 20 MB must not freeze it. */
import { type OnePortSweep, readTouchstone, REFERENCE_OHM } from '@saltline/core'

export type ReadReply = { ok: true; sweep: OnePortSweep } | { ok: false; message: string }

self.onmessage = async ({ data }: MessageEvent<File>) => {
  let reply: ReadReply
  try {
    reply = { ok: true, sweep: readTouchstone(await data.text(), REFERENCE_OHM) }
  } catch (error) {
    reply = { ok: false, message: error instanceof Error ? error.message : String(error) }
  }
  self.postMessage(reply)
}
