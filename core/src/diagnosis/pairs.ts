/** Two causes at once: every pair of explanations weighed, with what each does to the readings added up. */
import { cholesky, logDensity, logSumExp, whiten } from '../statistics/gaussian.ts'
import { expectations, type Weighed, widen } from './diagnose.ts'
import type { Cause } from './causes.ts'
import { covarianceOf } from './evidence.ts'
import { candidatesOf } from './explanations.ts'

export interface CausePair {
  /** Each in the size in which the pair fits best; the second may be none at all. */
  causes: readonly [Cause, Cause]
  probability: number
}

/** A cause in some sizes: how each moves the readings, in deviations that hang together no more. */
interface Shifts {
  prior: number
  sizes: readonly Cause[]
  moved: Float64Array[]
}

/** Sizes of one cause: every third is fine enough beside a second cause. */
const EVERY = 3

/**
 * Weighs all pairs of causes that hold on every channel. Decibels of two causes add up, and so, nearly, do small
 * changes of a reflection: good enough to rank pairs, not to state a size by.
 */
export function weighPairs({ kase, waves, spread, observables }: Weighed): CausePair[] {
  const n = observables.length
  const covariance = covarianceOf(observables, spread)
  const expected = expectations(kase, waves, observables, { kind: 'none' })
  const off = observables.map(({ value }, i) => value - expected[i]!)
  const candidates = candidatesOf(kase)
    .filter(({ sizes }) => !('point' in sizes[0]!) || sizes[0].point === null)
    .map(({ prior, sizes }) => ({
      prior,
      sizes: sizes.length > 2 * EVERY ? sizes.filter((_, i) => i % EVERY === 0) : sizes,
    }))
  const shiftOf = (cause: Cause) => {
    const mean = expectations(kase, waves, observables, cause)
    return mean.map((value, i) => value - expected[i]!)
  }
  const shifts = candidates.map(({ sizes }) => sizes.map(shiftOf))
  const widens = (cause: Cause) => cause.kind === 'slip' || cause.kind === 'common mode'

  const plain = candidates.flatMap(({ sizes }, c) => (widens(sizes[0]!) ? [] : [c]))
  const found: { causes: [Cause, Cause]; log: number }[] = []
  /** All pairs of plain causes under one covariance. */
  const weighUnder = (c: Float64Array, partner: { cause: Cause; prior: number } | null) => {
    const l = cholesky(c, n)
    const constant = logDensity(l, new Array<number>(n).fill(0))
    const residual = whiten(l, off)
    const rows = plain.map((k): Shifts => ({
      prior: candidates[k]!.prior,
      sizes: candidates[k]!.sizes,
      moved: shifts[k]!.map((shift) => Float64Array.from(whiten(l, shift))),
    }))
    rows.forEach((a, i) => {
      const partners = partner ? [null] : rows.slice(0, i)
      for (const b of partners) {
        if (b && sameThing(a.sizes[0]!, b.sizes[0]!)) continue
        const logs: number[] = []
        let best = -Infinity
        let causes: [Cause, Cause] = [a.sizes[0]!, partner?.cause ?? b!.sizes[0]!]
        for (let x = 0; x < a.moved.length; x++)
          for (let y = 0; y < (b ? b.moved.length : 1); y++) {
            let square = 0
            for (let o = 0; o < n; o++) {
              const rest = residual[o]! - a.moved[x]![o]! - (b ? b.moved[y]![o]! : 0)
              square += rest * rest
            }
            const log = constant - square / 2
            logs.push(log)
            if (log > best) {
              best = log
              causes = [a.sizes[x]!, partner?.cause ?? b!.sizes[y]!]
            }
          }
        const evidence = logSumExp(logs) - Math.log(logs.length)
        found.push({
          causes,
          log: Math.log(a.prior) + Math.log(partner?.prior ?? b!.prior) + evidence,
        })
      }
    })
  }
  weighUnder(covariance, null)
  for (const { sizes, prior } of candidates)
    if (widens(sizes[0]!))
      for (const cause of sizes)
        weighUnder(widen(covariance, observables, expected, cause), {
          cause,
          prior: prior / sizes.length,
        })
  const total = logSumExp(found.map(({ log }) => log))
  return found
    .map(({ causes, log }) => ({ causes, probability: Math.exp(log - total) }))
    .sort((a, b) => b.probability - a.probability)
}

/** Two causes of the same part and kind are one. */
const sameThing = (a: Cause, b: Cause): boolean =>
  a.kind === b.kind && (a.kind !== 'meter' || (b.kind === 'meter' && a.instrument === b.instrument))
