import type { ColumnMapping } from '@saltline/core'
import { useEffect, useRef, useState } from 'react'
import type { ReadReply } from './reading.ts'

interface Reading {
  /** What the file is; null while it is being read. */
  file: ReadReply | null
  /** What the mapping makes of a table; null while it is being made, or there is no table. */
  mapped: ReadReply | null
  /** Makes a sweep of the table by another mapping. */
  map: (mapping: ColumnMapping) => void
}

/** Reads a file in a worker. Another file, or leaving, stops it. */
export function useReadSweep(file: File): Reading {
  const worker = useRef<Worker | null>(null)
  const [read, setRead] = useState<{ of: File; file: ReadReply; mapped: ReadReply | null } | null>(
    null,
  )
  useEffect(() => {
    const own = new Worker(new URL('./readWorker.ts', import.meta.url), { type: 'module' })
    worker.current = own
    own.onmessage = ({ data }: MessageEvent<ReadReply>) =>
      setRead((old) =>
        old?.of === file && old.file.kind === 'table'
          ? { ...old, mapped: data }
          : { of: file, file: data, mapped: null },
      )
    own.postMessage({ file })
    return () => own.terminate()
  }, [file])
  const current = read?.of === file ? read : null
  return {
    file: current?.file ?? null,
    mapped: current?.mapped ?? null,
    map: (mapping) => worker.current?.postMessage({ mapping }),
  }
}
