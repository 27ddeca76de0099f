/** Which readings speak for an explanation, and which against it. */
import type { Weighed } from './diagnose.ts'
import { likelihoodOf } from './likelihood.ts'
import type { Cause } from './causes.ts'

/** What one reading says of two explanations. */
export interface Reason {
  /** Index of the reading. */
  reading: number
  /**
   * Evidence in decibels, 10·log₁₀ of how many times likelier the reading is under the first explanation than under the other
   * one, given all other readings: above 0 it speaks for the first (I. J. Good, Probability and the Weighing of Evidence, 1950).
   */
  db: number
}

/**
 * Weighs every reading alone between two causes, each in the size given. What readings say together is more than the sum of
 * what each adds to all others.
 *
 * @returns the strongest first, whichever way it speaks
 */
export function reasonsFor(
  { kase, spread, waves, observables }: Weighed,
  cause: Cause,
  against: Cause,
): Reason[] {
  const prepared = { spread, waves }
  const favours = (some: Weighed['observables']): number => {
    if (some.length === 0) return 0
    const likelihood = likelihoodOf(kase, prepared, some)
    return likelihood(cause).log - likelihood(against).log
  }
  const all = favours(observables)
  return kase.readings
    .map((_, reading) => ({
      reading,
      db: (10 / Math.LN10) * (all - favours(observables.filter((o) => o.reading !== reading))),
    }))
    .sort((a, b) => Math.abs(b.db) - Math.abs(a.db))
}
