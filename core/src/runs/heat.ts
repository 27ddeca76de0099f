/** How warm parts with a known thermal time constant are during a run, as shares of their limits. Physics: first order. */

/** Share of its limit that a part's heat has reached, by its key; with its time constant, s. */
export type Warmth = ReadonlyMap<string, { share: number; tauS: number }>

/** A part that is heated: what it would settle at, as a share of its limit. */
export interface Heated {
  key: string
  /** Index of its stage; the number of stages for what takes the power at the end. */
  part: number
  tauS: number
  share: number
}

/** Cool again: a tenth of its limit. A run begins, and a rest ends, at this or less. */
export const COOL = 0.1

export const cold: Warmth = new Map()

/** Parts after some seconds, heated or left to cool. */
export function warmed(before: Warmth, heated: readonly Heated[], seconds: number): Warmth {
  const after = new Map<string, { share: number; tauS: number }>()
  for (const [key, { share, tauS }] of before)
    after.set(key, { share: share * Math.exp(-seconds / tauS), tauS })
  for (const { key, tauS, share } of heated) {
    const from = before.get(key)?.share ?? 0
    after.set(key, { share: share + (from - share) * Math.exp(-seconds / tauS), tauS })
  }
  return after
}

/**
 * How much more than its continuous rating a part may be given for some seconds, as a factor of power: from where it is, it
 * then comes to its limit and not past it.
 *
 * @param from share of its limit that it begins at
 * @example shortTimeFactor(0, 60, 60) // 1.582
 */
export const shortTimeFactor = (from: number, seconds: number, tauS: number): number => {
  const left = Math.exp(-seconds / tauS)
  return left >= 1 ? Infinity : Math.max(0, (1 - from * left) / (1 - left))
}

/**
 * How long parts must rest before they may be heated like this for some seconds, s; infinite where no rest is long enough.
 *
 * @param to cooler than this no part needs to be
 */
export function restS(
  warmth: Warmth,
  heated: readonly Heated[],
  seconds: number,
  to = COOL,
): number {
  return heated.reduce((longest, { key, tauS, share }) => {
    const from = warmth.get(key)?.share ?? 0
    const left = Math.exp(-seconds / tauS)
    // share + (x − share)·e^(−t/τ) ≤ 1 at the end.
    const allowed = left > 0 ? (1 - share * (1 - left)) / left : share <= 1 ? Infinity : 0
    if (from <= allowed) return longest
    if (allowed < to * 0.999) return Infinity
    return Math.max(longest, tauS * Math.log(from / allowed))
  }, 0)
}
