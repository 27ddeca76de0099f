import { useMemo } from 'react'
import {
  type ReadOptions,
  readingsFromText,
  type ReadTable,
} from '../model/readings/readingsFromText.ts'
import type { TableRequest } from './readingsWorker.ts'
import { useWorker } from './useWorker.ts'

/** A table longer than this is read in a worker, characters. */
const LARGE = 30_000

const begin = () => new Worker(new URL('./readingsWorker.ts', import.meta.url), { type: 'module' })

/** What a table of readings says; null while there is none, or while a large one is being read. */
export function useReadingsTable(text: string, options: ReadOptions): ReadTable | null {
  const large = text.length > LARGE
  const small = useMemo(
    () => (large || text.trim() === '' ? null : readingsFromText(text, options)),
    [text, options, large],
  )
  const request = useMemo(() => (large ? { text, ...options } : null), [text, options, large])
  const { run } = useWorker<TableRequest, ReadTable>(begin, request)
  return large ? (run?.state === 'done' ? run.value : null) : small
}
