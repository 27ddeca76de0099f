/** Worker threads for what would hold the server up: each has its own connection to the database. */
import { setTimeout as pause } from 'node:timers/promises'
import { Piscina } from 'piscina'
import { built } from '../home.ts'
import { ProblemError } from '../http/problem.ts'
import type { Lane, Work } from './kinds.ts'
import { busy, inTurn, refuseShort, shortTurn } from './turns.ts'
import type * as worker from './worker.ts'

type Jobs = typeof worker

/** Work that waits; more is refused at once. */
const QUEUE = 200

/** How long a thread that was asked to stop may take for it. */
const GRACE_MS = 4000

/** How long an end waits for threads that have not begun yet, ms. */
const BEGIN_MS = 20_000

/** A thread that had nothing to do for so long ends, ms: it holds some 40 MB. */
const IDLE_MS = 45_000

/** The flags of all that runs: set, it shall stop. */
const running = new Set<Int32Array>()

/** Looks and saves share threads: one is always there, and the next begins when that has something to do. */
type Pool = 'short' | 'long'
const poolFor: Record<Lane, Pool> = { look: 'short', save: 'short', long: 'long' }
const threads: Record<Pool, number> = { short: 3, long: 2 }

/**
 * What is long lets everybody else have the processor first. Only Linux gives each thread a niceness of its own; elsewhere
 * it would be that of the whole server.
 */
const NICE = process.platform === 'linux' ? 4 : 0

const pools = new Map<Pool, Piscina>()

function poolOf(name: Pool): Piscina {
  const known = pools.get(name)
  if (known) return known
  const pool = new Piscina({
    filename: built('worker.cjs'),
    // It is built: a loader of the program it was started from would only slow it down.
    execArgv: [],
    minThreads: name === 'short' ? 1 : 0,
    maxThreads: threads[name],
    idleTimeout: IDLE_MS,
    maxQueue: QUEUE,
    niceIncrement: name === 'long' ? NICE : 0,
    // A thread that wants more ends alone, not the server with it.
    resourceLimits: { maxOldGenerationSizeMb: 1024, maxYoungGenerationSizeMb: 8 },
  })
  pools.set(name, pool)
  return pool
}

let begun: Promise<unknown> | undefined

/**
 * Starts the thread that is always there. However long a slow machine takes for it, what is asked meanwhile waits for that,
 * and its own time begins afterwards.
 */
export function warmUp(): Promise<unknown> {
  begun ??= (
    poolOf('short').run({ task: null, flag: makeFlag() }, { name: 'begin' }) as Promise<unknown>
  ).catch((error: unknown) => {
    // It was ended before it had begun.
    if (begun === undefined) return
    begun = undefined
    throw error
  })
  return begun
}

/** Set, it asks a thread to stop. */
const makeFlag = () => new Int32Array(new SharedArrayBuffer(4))

/** Ends all threads: at once where they rest, else when they have stopped what they do, or after a while. */
export async function endWork(): Promise<void> {
  const all = [...pools.values()]
  const beginning = begun
  pools.clear()
  begun = undefined
  refuseShort()
  // A thread that is ended while it loads the driver can take the whole process with it.
  await Promise.race([beginning?.catch(() => undefined), pause(BEGIN_MS)])
  for (const flag of running) Atomics.store(flag, 0, 1)
  const patience = pause(GRACE_MS)
  await Promise.all(
    all.map(async (pool) => {
      await Promise.race([pool.close(), patience])
      await pool.destroy()
    }),
  )
}

type Task<N extends keyof Jobs> = Parameters<Jobs[N]>[0]['task']
type Value<N extends keyof Jobs> =
  Awaited<ReturnType<Jobs[N]>> extends worker.Outcome<infer T> ? T : never

interface Asked {
  /** Ends long work before its time, as when the one who asked has gone. */
  stop?: AbortSignal
  /** Memory of the task that is handed over instead of copied. */
  transfer?: ArrayBuffer[]
  /** Who asked: long work is counted by it. */
  who?: string
}

/**
 * Has a worker do something.
 *
 * @throws ProblemError what went wrong in the worker; 429 where too much of it waits for the one who asked; 503 where too
 * much waits for all, or it takes too long
 */
export const work = <N extends keyof Jobs>(
  name: N,
  task: Task<N>,
  about: Work,
  asked: Asked = {},
): Promise<Value<N>> => worked(about, asked, (one) => one(name, task))

/** Has workers do several things, one after the other or side by side, in one turn; throws what `work` does. */
export function worked<T>(
  about: Work,
  asked: Asked,
  all: (one: <N extends keyof Jobs>(name: N, task: Task<N>) => Promise<Value<N>>) => Promise<T>,
): Promise<T> {
  const run = () => all((name, task) => done(name, task, about, asked))
  return about.kind ? inTurn(about.kind, asked.who ?? '', asked.stop, run) : run()
}

async function done<N extends keyof Jobs>(
  name: N,
  task: Task<N>,
  { lane, budgetMs }: Work,
  { stop, transfer = [] }: Asked,
): Promise<Value<N>> {
  await warmUp()
  // Whoever asked may have gone meanwhile: a signal that is given already is not heard again.
  if (lane === 'long') stop?.throwIfAborted()
  const end = new AbortController()
  const flag = makeFlag()
  let overtime = false
  let last: NodeJS.Timeout | undefined
  // A thread that is ended inside the database's driver can take the whole process with it: it is told to stop
  // between two statements, and ended only where it does not.
  const halt = () => {
    Atomics.store(flag, 0, 1)
    last ??= setTimeout(() => end.abort(), GRACE_MS)
  }
  // Timers of our own: a signal composed of others may be collected before it has fired.
  const limit = setTimeout(() => {
    overtime = true
    halt()
  }, budgetMs)
  // What is short is let run to its end.
  const left = lane === 'long' ? stop : undefined
  left?.addEventListener('abort', halt)
  running.add(flag)
  let outcome: worker.Outcome<Value<N>>
  try {
    const run = (): Promise<worker.Outcome<Value<N>>> =>
      poolOf(poolFor[lane]).run({ task, flag } satisfies worker.Given<unknown>, {
        name,
        signal: end.signal,
        transferList: transfer,
      })
    outcome = await (lane === 'long' ? run() : shortTurn(lane, end.signal, run))
  } catch (error) {
    if (overtime) throw tookTooLong(budgetMs)
    if (isFull(error)) throw busy()
    if (isSpent(error)) throw tooMuch()
    throw error
  } finally {
    clearTimeout(limit)
    clearTimeout(last)
    left?.removeEventListener('abort', halt)
    running.delete(flag)
  }
  if (!('value' in outcome)) {
    if (overtime) throw tookTooLong(budgetMs)
    stop?.throwIfAborted()
  }
  if ('value' in outcome) return outcome.value
  throw new ProblemError(outcome.problem, { cause: outcome.cause })
}

const isFull = (error: unknown) =>
  error instanceof Error && error.message === 'Task queue is at limit'

const isSpent = (error: unknown) =>
  error instanceof Error && (error as NodeJS.ErrnoException).code === 'ERR_WORKER_OUT_OF_MEMORY'

const tookTooLong = (ms: number) =>
  new ProblemError({
    status: 503,
    title: 'This takes too long',
    detail: `It was stopped after ${Math.round(ms / 1000)} seconds. Nothing was changed. Send less of it at once, or a simpler chain.`,
  })

const tooMuch = () =>
  new ProblemError({
    status: 413,
    title: 'Too large',
    detail: 'It needs more memory than it may have. Nothing was changed. Send less of it at once.',
  })
