/** Attempts at drills, kept in this browser. */
import { type Attempt, attemptSchema } from '@saltline/contract'
import { z } from 'zod'

const KEY = 'saltline.attempts'
/** As many as progress is told from. */
const MOST = 300
const list = z.array(attemptSchema)

/** Newest first. What cannot be read is left out. */
export function readAttempts(): Attempt[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEY) ?? '[]')
    return Array.isArray(kept)
      ? kept.flatMap((each) => attemptSchema.safeParse(each).data ?? [])
      : []
  } catch {
    return []
  }
}

/** Keeps one more; false where this browser keeps nothing. */
export function keepAttempt(attempt: Attempt): boolean {
  try {
    const others = readAttempts().filter(({ id }) => id !== attempt.id)
    localStorage.setItem(KEY, JSON.stringify(list.parse([attempt, ...others].slice(0, MOST))))
    return true
  } catch {
    return false
  }
}

/** How one kind of drill went so far. */
export interface Progress {
  tries: number
  right: number
  best: number
}

/** By kind of drill. */
export function progressOf(attempts: readonly Attempt[]): Map<string, Progress> {
  const all = new Map<string, Progress>()
  for (const { drill, points, right } of attempts) {
    const before = all.get(drill) ?? { tries: 0, right: 0, best: 0 }
    all.set(drill, {
      tries: before.tries + 1,
      right: before.right + Number(right),
      best: Math.max(before.best, points),
    })
  }
  return all
}

const birds = [
  'gull',
  'tern',
  'curlew',
  'dunlin',
  'knot',
  'avocet',
  'plover',
  'redshank',
  'heron',
  'petrel',
] as const

/** A seed that can be read out on the air: a bird and a number. */
export const newSeed = (): string =>
  `${birds[Math.floor(Math.random() * birds.length)]}-${100 + Math.floor(Math.random() * 900)}`
