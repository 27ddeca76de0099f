import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { derive, type Source, Store, useSource } from '../platform/store.ts'
import { type Run, Runner, type WhenBusy } from './runner.ts'
import type { RequestOf, ResultOf, TaskName } from './tasks.ts'

/** How each task is asked for while somebody types. */
interface Manner {
  /** What a new request does to the one that runs; see `Runner`. */
  whenBusy: WhenBusy
  /** How long a request must stand before it starts, ms. */
  restMs: number
  /** Whether the first one of a place on the screen starts at once: nobody is typing yet. */
  firstAtOnce?: boolean
}

const RUNNING: Run<never> = { state: 'running' }

const SHORT: Manner = { whenBusy: 'wait', restMs: 0 }
const LONG: Manner = { whenBusy: 'end', restMs: 0 }
/** Typing does not start a thousand samples. */
const SAMPLED: Manner = { whenBusy: 'end', restMs: 350 }

const manners: Record<TaskName, Manner> = {
  alongLine: SHORT,
  band: SHORT,
  board: LONG,
  cablesForRun: SHORT,
  compare: SHORT,
  compareCurves: SHORT,
  diagnosis: { ...SAMPLED, firstAtOnce: true },
  drill: LONG,
  faults: SHORT,
  limits: SAMPLED,
  lineFit: LONG,
  match: { whenBusy: 'end', restMs: 200 },
  most: SHORT,
  nextSweep: LONG,
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
  /** The request that it is of. */
  of: unknown
  /** As the task counts: mostly a share, 0 … 1. */
  done: number
  /** What it has so far; stays after a stop. */
  partial: R | undefined
}

/** How far a task is: for whoever watches it, so that nobody else is rendered by it. */
export type Watched<R = unknown> = Source<Progress<R>>

export const noProgress = { of: null, done: 0, partial: undefined }

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

interface Told<Q, R> {
  of: Q
  run: Run<R>
  last: R | null
}

/** A task whose results are watched, not rendered: for a drawing that follows by itself. */
export interface Followed<Q, R> extends Pick<Tasked<R>, 'progress' | 'stop' | 'start'> {
  /** What the newest request came to; null before there is anything. */
  told: Source<Told<Q, R> | null>
}

/**
 * Computes in a worker. Leaving ends it; another request replaces the one before.
 *
 * @param request held to be another one when it is another object; null runs nothing
 * @param restMs another than the task's own
 */
export function useFollowedTask<N extends TaskName>(
  name: N,
  request: RequestOf<N> | null,
  restMs = manners[name].restMs,
): Followed<RequestOf<N>, ResultOf<N>> {
  type Q = RequestOf<N>
  type R = ResultOf<N>
  const { whenBusy } = manners[name]
  const [told] = useState(() => new Store<Told<Q, R> | null>(null))
  const [progress] = useState(() => new Store<Progress<R>>(noProgress))
  const runner = useRef<Runner<Q, R> | null>(null)
  const { firstAtOnce = false } = manners[name]
  const first = useRef(firstAtOnce)
  useEffect(() => {
    const tell = (of: Q, run: Run<R>) => {
      const kept = run.state === 'problem' ? null : (told.get()?.last ?? null)
      told.set({ of, run, last: run.state === 'done' ? run.value : kept })
    }
    const far = (of: Q, done: number, partial?: R) => progress.set({ of, done, partial })
    const own = new Runner<Q, R>(name, { progress: far, tell }, whenBusy)
    runner.current = own
    return () => own.end()
  }, [name, whenBusy, told, progress])
  useEffect(() => {
    if (request === null) {
      if (whenBusy === 'end') runner.current?.end()
      return
    }
    if (restMs === 0 || first.current) {
      first.current = false
      return runner.current?.ask(request)
    }
    // What runs is for a request that is no more.
    const timer = setTimeout(() => runner.current?.ask(request), restMs)
    return () => {
      clearTimeout(timer)
      runner.current?.end()
    }
  }, [request, restMs, whenBusy])
  const start = useCallback(() => {
    const before = told.get()
    if (request === null) return
    if (before) told.set({ ...before, run: RUNNING })
    runner.current?.ask(request)
  }, [request, told])
  const stop = useCallback(() => runner.current?.stop(), [])
  return { told, progress, stop, start }
}

/** The same, rendered when a request comes to its end; not while it runs. */
export function useTask<N extends TaskName>(
  name: N,
  request: RequestOf<N> | null,
  restMs?: number,
): Tasked<ResultOf<N>> {
  const { told: source, ...task } = useFollowedTask(name, request, restMs)
  const told = useSource(source)
  const run = request && (told?.of === request ? told.run : RUNNING)
  return {
    ...task,
    run,
    result: run?.state === 'done' ? run.value : null,
    last: told?.last ?? null,
    problem: run?.state === 'problem' ? run.message : null,
    running: run?.state === 'running',
  }
}

/** What a task has so far of this very request, rendered when there is more of it; undefined before there is anything. */
export function usePartial<R>(progress: Watched<R>, request: unknown): R | undefined {
  const own = useMemo(
    () => derive(progress, ({ of, partial }) => (of === request ? partial : undefined)),
    [progress, request],
  )
  return useSource(own)
}
