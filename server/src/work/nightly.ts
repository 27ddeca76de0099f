/** The copy of every night: made when it is due, and told about where it could not be. */
import type { BackupState, CopyReason } from '@saltline/contract'
import { type Copy, copiesFolder, listCopies } from '../store/copies.ts'

const MINUTE_MS = 60_000
const HOUR_MS = 60 * MINUTE_MS
const DAY_MS = 24 * HOUR_MS

/** At this hour of the computer's own clock there is hardly anybody to wait. */
const HOUR_OF_NIGHT = 3
/** After one that failed it is tried again. */
const AGAIN_MS = HOUR_MS
/** A night may be late by this much before it is missed. */
const LATE_MS = 50 * HOUR_MS
/** A copy dated further ahead was made by a clock that has been set back since, and counts for no night. */
const AHEAD_MS = 2 * DAY_MS

/** When the last night was, ms. */
export function lastNight(now: number): number {
  const at = new Date(now)
  at.setHours(HOUR_OF_NIGHT, 0, 0, 0)
  if (at.getTime() > now) at.setDate(at.getDate() - 1)
  return at.getTime()
}

/** The newest copy of a night by the clock as it is now. */
const newestNight = (copies: readonly Pick<Copy, 'why' | 'keptAt'>[], now: number) =>
  copies
    .filter(({ why }) => why === 'nightly')
    .map(({ keptAt }) => Date.parse(keptAt))
    .filter((at) => at <= now + AHEAD_MS)
    .sort((a, b) => b - a)[0]

/** Whether the copy of the last night is still to be made. */
export function isDue(copies: readonly Pick<Copy, 'why' | 'keptAt'>[], now: number): boolean {
  const newest = newestNight(copies, now)
  return newest === undefined || newest < lastNight(now)
}

/** Makes a copy, wherever that is done. */
export type MakeCopy = (why: CopyReason) => Promise<Copy>

export interface Keeping {
  state: () => BackupState
  /** Makes one now, since somebody asked. */
  make: (why: CopyReason) => Promise<Copy>
  /** Looks whether one is due, and makes it. */
  look: () => Promise<void>
}

/**
 * Keeps the copies of a database.
 *
 * @param tell what is said where one failed, or came about after one that had
 */
export function keepNightly(
  main: string,
  make: MakeCopy,
  tell: (line: { copied?: string; failed?: string }) => void = () => undefined,
  clock: () => number = Date.now,
): Keeping {
  const began = clock()
  let problem: string | null = null
  let failedAt = -Infinity
  let making: Promise<Copy> | undefined
  const copies = (): Copy[] => {
    try {
      return listCopies(main)
    } catch (error) {
      problem = messageOf(error)
      return []
    }
  }
  const made = async (why: CopyReason): Promise<Copy> => {
    try {
      making = make(why)
      const copy = await making
      problem = null
      tell({ copied: copy.name })
      return copy
    } catch (error) {
      problem = messageOf(error)
      failedAt = clock()
      tell({ failed: problem })
      throw error
    } finally {
      making = undefined
    }
  }
  return {
    state() {
      const now = clock()
      const newest = newestNight(copies(), now)
      // Right after a start the one that was missed is being made.
      const settled = now - began > 15 * MINUTE_MS || now < began
      return {
        folder: copiesFolder(main),
        lastAt: newest === undefined ? null : new Date(newest).toISOString(),
        overdue: settled && (newest === undefined || now - newest > LATE_MS),
        problem,
      }
    },
    make: made,
    async look() {
      const now = clock()
      // A clock that was set back must not make it wait for what it thinks is an hour.
      const waits = failedAt <= now && now - failedAt < AGAIN_MS
      if (making || waits || !isDue(copies(), now)) return
      await made('nightly').catch(() => undefined)
    },
  }
}

const messageOf = (error: unknown): string =>
  error instanceof Error ? error.message : String(error)
