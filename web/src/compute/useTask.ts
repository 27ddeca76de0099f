import { useCallback, useEffect, useRef, useState, useSyncExternalStore } from 'react'
import { type Run, Runner, type WhenBusy } from './runner.ts'
import type { RequestOf, ResultOf, TaskName } from './tasks.ts'

/** How each task is asked for while somebody types. */
interface Manner {
  /** What a new request does to the one that runs; see `Runner`. */
  whenBusy: WhenBusy
  /** How long a request must stand before it starts, ms. */
  restMs: number
}

const SHORT: Manner = { whenBusy: 'wait', restMs: 0 }
const LONG: Manner = { whenBusy: 'end', restMs: 0 }
/** Typing does not start a thousand samples. */
const SAMPLED: Manner = { whenBusy: 'end', restMs: 350 }

const manners: Record<TaskName, Manner> = {
  band: SHORT,
  board: LONG,
  cablesForRun: SHORT,
  compare: SHORT,
  compareCurves: SHORT,
  diagnosis: SAMPLED,
  drill: LONG,
  limits: SAMPLED,
  match: { whenBusy: 'end', restMs: 200 },
  plan: LONG,
  ranges: SAMPLED,
  readings: LONG,
  runPlan: LONG,
  stepFigures: LONG,
  sweepFile: SHORT,
  tunerPlaces: SHORT,
  worth: SAMPLED,
}

interface Progress<R> {
  /** As the task counts: mostly a share, 0 … 1. */
  done: number
  /** What it has so far; stays after a stop. */
  partial: R | undefined
}

/** How far a task is: for whoever watches it, so that nobody else is rendered by it. */
export type Watched<R = unknown> = Pick<TaskProgress<R>, 'get' | 'subscribe'>

export class TaskProgress<R = unknown> {
  private now: Progress<R> = { done: 0, partial: undefined }
  private readonly listeners = new Set<() => void>()

  set = (done: number, partial?: R): void => {
    this.now = { done, partial }
    for (const listener of this.listeners) listener()
  }

  get = (): Progress<R> => this.now

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }
}

export const useProgress = <R>(of: Watched<R>): Progress<R> =>
  useSyncExternalStore(of.subscribe, of.get)

export interface Tasked<R> {
  /** How this very request stands; null while there is none. */
  run: Run<R> | null
  /** What this very request came to; null until it has. */
  result: R | null
  /** The newest result, also of an earlier request: to show while the next one is on its way. Null after a problem. */
  last: R | null
  problem: string | null
  running: boolean
  progress: Watched<R>
  stop: () => void
  /** Runs it again, as after a stop. */
  start: () => void
}

const RUNNING: Run<never> = { state: 'running' }

/**
 * Computes in a worker. Leaving ends it; another request replaces the one before. Renders when a request comes to its
 * end, not while it runs.
 *
 * @param request held to be another one when it is another object; null runs nothing
 * @param restMs another than the task's own
 */
export function useTask<N extends TaskName>(
  name: N,
  request: RequestOf<N> | null,
  restMs = manners[name].restMs,
): Tasked<ResultOf<N>> {
  type Q = RequestOf<N>
  type R = ResultOf<N>
  const { whenBusy } = manners[name]
  const [told, setTold] = useState<{ of: Q; run: Run<R>; last: R | null } | null>(null)
  const [progress] = useState(() => new TaskProgress<R>())
  const runner = useRef<Runner<Q, R> | null>(null)
  useEffect(() => {
    const tell = (of: Q, run: Run<R>) =>
      setTold((before) => ({
        of,
        run,
        last:
          run.state === 'done'
            ? run.value
            : run.state === 'problem'
              ? null
              : (before?.last ?? null),
      }))
    const own = new Runner<Q, R>(name, { progress: progress.set, tell }, whenBusy)
    runner.current = own
    return () => own.end()
  }, [name, whenBusy, progress])
  useEffect(() => {
    if (request === null) {
      if (whenBusy === 'end') runner.current?.end()
      return
    }
    if (restMs === 0) return runner.current?.ask(request)
    // What runs is for a request that is no more.
    const timer = setTimeout(() => runner.current?.ask(request), restMs)
    return () => {
      clearTimeout(timer)
      runner.current?.end()
    }
  }, [request, restMs, whenBusy])
  const start = useCallback(() => {
    if (request === null) return
    setTold((before) => before && { ...before, run: RUNNING })
    runner.current?.ask(request)
  }, [request])
  const stop = useCallback(() => runner.current?.stop(), [])
  const run = request && (told?.of === request ? told.run : RUNNING)
  return {
    run,
    result: run?.state === 'done' ? run.value : null,
    last: told?.last ?? null,
    problem: run?.state === 'problem' ? run.message : null,
    running: run?.state === 'running',
    progress,
    stop,
    start,
  }
}
