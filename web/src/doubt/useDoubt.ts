import { useCallback, useEffect, useRef, useState } from 'react'
import type { DoubtReply, DoubtRequest } from './doubtWorker.ts'

type Done = Exclude<DoubtReply, { progress: number }>

export interface Doubt {
  /** The result of this very request; null until it is there. */
  result: Done | null
  /** Share that is done, 0 … 1; null while nothing runs. */
  progress: number | null
  stop: () => void
}

/** How long a chain must stand still before it is drawn again: typing does not start a thousand draws. */
const SETTLE_MS = 350

/** Runs one request in a worker of its own; another one stops it and begins anew. Null runs nothing. */
export function useDoubt(request: DoubtRequest | null): Doubt {
  /** A result with the request that it answers: it never stands for another one. */
  const [done, setDone] = useState<{ of: DoubtRequest; result: Done } | null>(null)
  const [progress, setProgress] = useState<number | null>(null)
  const worker = useRef<Worker | null>(null)
  const stop = useCallback(() => {
    worker.current?.terminate()
    worker.current = null
    setProgress(null)
  }, [])

  useEffect(() => {
    if (!request) return
    const timer = setTimeout(() => {
      const own = new Worker(new URL('./doubtWorker.ts', import.meta.url), { type: 'module' })
      worker.current = own
      setProgress(0)
      own.onmessage = ({ data }: MessageEvent<DoubtReply>) => {
        if ('progress' in data) return setProgress(data.progress)
        setDone({ of: request, result: data })
        stop()
      }
      own.onerror = ({ message }) => {
        setDone({ of: request, result: { problem: message || 'The calculation broke off.' } })
        stop()
      }
      own.postMessage(request)
    }, SETTLE_MS)
    return () => {
      clearTimeout(timer)
      stop()
    }
  }, [request, stop])

  return { result: request && done?.of === request ? done.result : null, progress, stop }
}
