/** Reads a large table of readings. */
import { type ReadOptions, readingsFromText, type ReadTable } from '@saltline/contract/table'
import type { Task } from '../task.ts'

export interface TableRequest extends ReadOptions {
  text: string
}

export const readingsTask: Task<TableRequest, ReadTable> = ({ text, ...options }) =>
  readingsFromText(text, options)
