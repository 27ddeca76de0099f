import { useCallback, useEffect, useRef, useState } from 'react'
import { type Run, Runner } from './runner.ts'

export interface Worked<R> {
  /** How this very request stands; null while there is none. */
  run: Run<R> | null
  /** The newest result, also of an earlier request: to show while the next one is on its way. Null after a problem. */
  last: R | null
  stop: () => void
  /** Runs it again, as after a stop. */
  start: () => void
}

const STARTING: Run<never> = { state: 'running', done: 0 }

/**
 * Computes in a worker. Leaving ends it; another request replaces the one before.
 *
 * @param begin makes the worker; called when the first request comes, and after an end
 * @param request held to be another one when it is another object; null runs nothing
 * @param options restMs: how long a request must stand before it starts, ms; whenBusy: see `Runner`
 */
export function useWorker<Q extends object, R>(
  begin: () => Worker,
  request: Q | null,
  { restMs = 0, whenBusy = 'end' }: { restMs?: number; whenBusy?: 'end' | 'wait' } = {},
): Worked<R> {
  const [told, setTold] = useState<{ of: Q; run: Run<R> } | null>(null)
  const [last, setLast] = useState<R | null>(null)
  const runner = useRef<Runner<Q, R> | null>(null)
  useEffect(() => {
    const own = new Runner<Q, R>(
      begin,
      (of, run) => {
        setTold({ of, run })
        if (run.state === 'done') setLast(run.value)
        if (run.state === 'problem') setLast(null)
      },
      whenBusy,
    )
    runner.current = own
    return () => own.end()
  }, [begin, whenBusy])
  const start = useCallback(() => {
    if (request) runner.current?.ask(request)
  }, [request])
  useEffect(() => {
    if (restMs === 0) return start()
    // What runs is for a request that is no more.
    const timer = setTimeout(start, restMs)
    return () => {
      clearTimeout(timer)
      runner.current?.end()
    }
  }, [start, restMs])
  useEffect(() => {
    if (!request && whenBusy === 'end') runner.current?.end()
  }, [request, whenBusy])
  const stop = useCallback(() => runner.current?.stop(), [])
  return { run: request && (told?.of === request ? told.run : STARTING), last, stop, start }
}
