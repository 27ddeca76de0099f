/** Who waits for whom: long work is done one of a kind at a time, and so many wait for each who asks; few save at a time. */
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

/** Of the threads for what is short so many save: a slow disk, or the lock of another program, leaves the others to looks. */
const SAVING = 2
/** So many wait until they may. */
const MOST_TO_SAVE = 200

let saving = 0
const toSave: { begin: () => void; fail: (why: ProblemError) => void }[] = []

/** @throws ProblemError 503 where too many wait already */
export async function savingTurn<T>(save: () => Promise<T>): Promise<T> {
  if (toSave.length >= MOST_TO_SAVE) throw busy()
  if (saving < SAVING) saving++
  else await new Promise<void>((begin, fail) => toSave.push({ begin, fail }))
  try {
    return await save()
  } finally {
    const next = toSave.shift()
    if (next) next.begin()
    else saving--
  }
}

/** Those who wait still are told so. */
export function refuseSaving(): void {
  for (const { fail } of toSave.splice(0)) fail(busy())
}

export const busy = (): ProblemError =>
  new ProblemError({
    status: 503,
    title: 'Too much to do',
    detail: 'The server works on many other requests. Nothing was changed; try again in a moment.',
  })
