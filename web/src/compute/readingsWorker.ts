/** Reads a large table of readings. */
import { type ReadOptions, readingsFromText } from '../model/readings/readingsFromText.ts'
import { serve } from './serve.ts'

export interface TableRequest extends ReadOptions {
  text: string
}

serve(({ text, ...options }: TableRequest) => readingsFromText(text, options))
