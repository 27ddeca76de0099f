import { useEffect, useMemo, useRef, useState } from 'react'
import { type ReadOptions, readingsFromText, type ReadTable } from './readingsFromText.ts'
import type { TableReply, TableRequest } from './readingsWorker.ts'

/** A table longer than this is read in a worker, characters. */
const LARGE = 30_000

/** What a table of readings says; null while there is none, or while a large one is being read. */
export function useReadingsTable(text: string, options: ReadOptions): ReadTable | null {
  const large = text.length > LARGE
  const small = useMemo(
    () => (large || text.trim() === '' ? null : readingsFromText(text, options)),
    [text, options, large],
  )
  const [reply, setReply] = useState<TableReply | null>(null)
  const latest = useRef(0)
  useEffect(() => {
    if (!large) return
    const request = ++latest.current
    const worker = new Worker(new URL('./readingsWorker.ts', import.meta.url), { type: 'module' })
    worker.onmessage = ({ data }: MessageEvent<TableReply>) => setReply(data)
    worker.postMessage({ request, text, ...options } satisfies TableRequest)
    return () => {
      worker.terminate()
      setReply(null)
    }
  }, [text, options, large])
  return large ? (reply?.table ?? null) : small
}
