import { useMemo } from 'react'
import { type ReadOptions, readingsFromText, type ReadTable } from '@saltline/contract/table'
import { useTask } from './useTask.ts'

/** A table longer than this is read in a worker, characters. */
const LARGE = 30_000

/** What a table of readings says; null while there is none, or while a large one is being read. */
export function useReadingsTable(text: string, options: ReadOptions | null): ReadTable | null {
  const large = text.length > LARGE
  const small = useMemo(
    () => (large || !options || text.trim() === '' ? null : readingsFromText(text, options)),
    [text, options, large],
  )
  const request = useMemo(
    () => (large && options ? { text, ...options } : null),
    [text, options, large],
  )
  const { result } = useTask('readings', request)
  return large ? result : small
}
