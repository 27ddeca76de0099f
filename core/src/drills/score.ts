/** What a drill is worth: right first, then sparing, then safe. */
import type { TroubleKind } from './play.ts'

export interface Effort {
  /** Whether each fault was named, with its part, and its size where that was asked. */
  finding: boolean
  part: boolean
  size: boolean | null
  readings: number
  /** Looks at a part: a menu, a jacket. */
  looks: number
  par: number
  keyDownS: number
  hints: number
  /** Wrong answers before the last one. */
  wrong: number
  troubles: readonly TroubleKind[]
}

/** A drill's points, and what each part of them is for; they add up to `total` before it is held within 0 to 100. */
export interface Score {
  total: number
  lines: { what: string; points: number }[]
}

/** Key-down time that a reading needs, s. */
const SECONDS_PER_READING = 8

const SAFETY: Readonly<Partial<Record<TroubleKind, string>>> = {
  'no load': 'keyed without a load',
  'moved under power': 'changed a connection under power',
  arc: 'an arc',
  'over limit': 'over a limit',
  'tuned too hot': 'too much power into a tuner that was tuning',
  'too hot': 'dummy load too hot',
  'off scale': 'needle off the scale',
}

/** What each trouble costs. */
const COST: Readonly<Record<TroubleKind, number>> = {
  'no load': 15,
  'moved under power': 15,
  arc: 15,
  'over limit': 15,
  'tuned too hot': 15,
  'too hot': 15,
  'off scale': 3,
}

/** Points off for troubles, each kind at most three times. */
export function safetyLines(troubles: readonly TroubleKind[]): Score['lines'] {
  const kinds = [...new Set(troubles)]
  return kinds.map((kind) => {
    const times = Math.min(3, troubles.filter((other) => other === kind).length)
    return {
      what: `${SAFETY[kind]}${times > 1 ? `, ${times} times` : ''}`,
      points: -COST[kind] * times,
    }
  })
}

/** More readings, key-down time, hints, wrong answers or troubles never raise a score, nor does being less right. */
export function scoreOf(effort: Effort): Score {
  const { finding, part, size, par, hints, wrong } = effort
  const used = effort.readings + effort.looks
  const over = Math.max(0, used - par)
  const allowedS = Math.max(par, 2) * SECONDS_PER_READING
  const right = finding && part
  const lines = [
    { what: 'what is wrong', points: finding ? 40 : 0 },
    { what: 'where', points: right ? 25 : 0 },
    ...(size === null ? [] : [{ what: 'how many decibels', points: right && size ? 10 : 0 }]),
    {
      what: `${used} readings and looks, par ${par}`,
      points: right ? Math.max(0, (size === null ? 25 : 15) - 3 * over) : 0,
    },
    {
      what: `key down ${Math.round(effort.keyDownS)} s of ${allowedS} s`,
      points: right
        ? Math.max(0, Math.round(10 - (10 * Math.max(0, effort.keyDownS - allowedS)) / allowedS))
        : 0,
    },
    ...(hints > 0 ? [{ what: `${hints} hints`, points: -10 * hints }] : []),
    ...(wrong > 0 ? [{ what: `${wrong} wrong answers`, points: -15 * wrong }] : []),
    ...safetyLines(effort.troubles),
  ]
  const sum = lines.reduce((all, { points }) => all + points, 0)
  return { total: Math.max(0, Math.min(100, sum)), lines }
}
