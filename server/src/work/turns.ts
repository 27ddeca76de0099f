/** Who waits for whom: long work is done one of a kind at a time, and so many wait for each who asks; of what is short few save, and not all look. */
import { ProblemError } from '../http/problem.ts'
import type { Kind } from './kinds.ts'

/** Of one kind, waiting and being done, for each who asks. */
export const MOST_OF_ONE = 4
/** Of one kind, for all together. */
const MOST = 40
/** When it is worth asking again, s. */
const AGAIN_S = 10

const words: Record<Kind, string> = {
  plan: 'plans',
  solve: 'chains to solve',
  import: 'imports',
  export: 'exports',
  restore: 'looks into backups, or restores',
}

interface Line {
  last: Promise<unknown>
  /** How many there are, by who asked. */
  count: Map<string, number>
}

const lines = new Map<Kind, Line>()

/**
 * Waits until it is the turn of one who asked, and does it.
 *
 * @param who is counted for: a device, a token, an address
 * @param gone whoever asked may go while waiting: then it is not done
 * @throws ProblemError 429 where too much of that kind waits for them already
 */
export async function inTurn<T>(
  kind: Kind,
  who: string,
  gone: AbortSignal | undefined,
  run: () => Promise<T>,
): Promise<T> {
  const line = lines.get(kind) ?? { last: Promise.resolve(), count: new Map<string, number>() }
  lines.set(kind, line)
  const own = line.count.get(who) ?? 0
  const all = [...line.count.values()].reduce((sum, each) => sum + each, 0)
  if (own >= MOST_OF_ONE || all >= MOST)
    throw new ProblemError(
      {
        status: 429,
        title: 'Too much of this waits already',
        detail: `${own >= MOST_OF_ONE ? `${own} ${words[kind]} of yours` : `${all} ${words[kind]}`} wait or are being worked at; they are done one after the other. Ask again when one is done.`,
      },
      { retryAfterS: AGAIN_S },
    )
  line.count.set(who, own + 1)
  const turn = line.last.then(() => {
    gone?.throwIfAborted()
    return run()
  })
  line.last = turn.catch(() => undefined)
  try {
    return await turn
  } finally {
    const left = line.count.get(who)! - 1
    if (left > 0) line.count.set(who, left)
    else line.count.delete(who)
  }
}

/**
 * Of the three threads for what is short so many look, and so many save: a slow disk, or the lock of another program, leaves one
 * to looks, and slow looks leave one to saves.
 */
const short = { look: lineOf(2), save: lineOf(2) }
/** So many wait until they may. */
const MOST_WAITING = 200

interface ShortLine {
  most: number
  running: number
  waiting: { begin: () => void; fail: (why: Error) => void }[]
}

function lineOf(most: number): ShortLine {
  return { most, running: 0, waiting: [] }
}

/**
 * Looks or saves when there is a thread for it.
 *
 * @param end whoever waits still when it is given does not begin
 * @throws ProblemError 503 where too many wait already
 */
export async function shortTurn<T>(
  lane: keyof typeof short,
  end: AbortSignal,
  run: () => Promise<T>,
): Promise<T> {
  const line = short[lane]
  if (line.waiting.length >= MOST_WAITING) throw busy()
  if (line.running < line.most) line.running++
  else
    await new Promise<void>((begin, fail) => {
      const own = { begin, fail }
      line.waiting.push(own)
      const leave = () => {
        line.waiting = line.waiting.filter((other) => other !== own)
        fail(end.reason as Error)
      }
      end.addEventListener('abort', leave, { once: true })
    })
  try {
    return await run()
  } finally {
    const next = line.waiting.shift()
    if (next) next.begin()
    else line.running--
  }
}

/** Those who wait still are told so. */
export function refuseShort(): void {
  for (const { waiting } of Object.values(short))
    for (const { fail } of waiting.splice(0)) fail(busy())
}

export const busy = (): ProblemError =>
  new ProblemError({
    status: 503,
    title: 'Too much to do',
    detail: 'The server works on many other requests. Nothing was changed; try again in a moment.',
  })
