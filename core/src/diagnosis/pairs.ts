/** Two causes at once: every pair of explanations weighed, with what each does to the readings added up. */
import { cholesky, logHeavyOf, logPeak, logSumExp, whiten } from '../statistics/gaussian.ts'
import { expectations, statesOf, type Weighed, widen } from './diagnose.ts'
import type { Cause } from './causes.ts'
import { addMeters } from './evidence.ts'
import { candidatesOf } from './explanations.ts'

export interface CausePair {
  /** Each in the size in which the pair fits best; the second may be none at all. */
  causes: readonly [Cause, Cause]
  probability: number
}

export interface WeighedPairs {
  /** Most probable first; together they make 1. */
  pairs: CausePair[]
  /** ln of the evidence for all pairs together, as `Weighed` has it for single causes. */
  evidence: number
}

/** A cause in some sizes, and how each moves the readings. */
interface Shifts {
  prior: number
  sizes: readonly Cause[]
  moved: readonly number[][]
}

/** Sizes of one cause: every third is fine enough beside a second cause. */
const EVERY = 3

/**
 * Weighs all pairs of causes that hold on every channel. Decibels of two causes add up, and so, nearly, do small
 * changes of a reflection: good enough to rank pairs, not to state a size by.
 */
export function weighPairs(weighed: Weighed): WeighedPairs {
  const { kase, waves, observables } = weighed
  const n = observables.length
  const expected = expectations(kase, waves, observables, { kind: 'none' })
  const candidates = candidatesOf(kase)
    .filter(({ sizes }) => !('point' in sizes[0]!) || sizes[0].point === null)
    // Something that is none of these explains all alone.
    .filter(({ sizes }) => sizes[0]!.kind !== 'other')
    .map(({ prior, sizes }): Shifts => {
      const some = sizes.length > 2 * EVERY ? sizes.filter((_, i) => i % EVERY === 0) : sizes
      const moved = some.map((cause) => {
        const mean = expectations(kase, waves, observables, cause)
        return mean.map((value, i) => value - expected[i]!)
      })
      return { prior, sizes: some, moved }
    })
  const plain = candidates.filter(({ sizes }) => !widens(sizes[0]!))
  const meters = {
    own: observables.map(({ ownVariance }) => ownVariance),
    shared: observables.map(({ sharedVariance }) => sharedVariance),
  }
  const states = statesOf(weighed, observables)
  const found: { causes: [Cause, Cause]; log: number }[] = []
  /** All pairs of plain causes, or each beside one that widens. */
  const weighUnder = (partner: { cause: Cause; prior: number } | null) => {
    const under = states.map(({ logWeight, covariance, shift }) => {
      const c = covariance.slice()
      addMeters(c, observables, meters)
      const l = cholesky(partner ? widen(c, observables, expected, partner.cause) : c, n)
      return {
        peak: logWeight + logPeak(l, n),
        residual: whiten(
          l,
          observables.map(({ value }, i) => value - expected[i]! - shift[i]!),
        ),
        moved: plain.map(({ moved }) => moved.map((shifted) => whiten(l, shifted))),
      }
    })
    plain.forEach((a, i) => {
      for (let j = 0; j < (partner ? 1 : i); j++) {
        const b = partner ? null : plain[j]!
        if (b && sameThing(a.sizes[0]!, b.sizes[0]!)) continue
        const logs: number[] = []
        let best = -Infinity
        let causes: [Cause, Cause] = [a.sizes[0]!, partner?.cause ?? b!.sizes[0]!]
        for (const { peak, residual, moved } of under)
          for (let x = 0; x < a.sizes.length; x++)
            for (let y = 0; y < (b?.sizes.length ?? 1); y++) {
              const first = moved[i]![x]!
              const second = b && moved[j]![y]!
              let square = 0
              for (let o = 0; o < n; o++) {
                const rest = residual[o]! - first[o]! - (second ? second[o]! : 0)
                square += rest * rest
              }
              const log = logHeavyOf(peak, square, n)
              logs.push(log)
              if (log > best) {
                best = log
                causes = [a.sizes[x]!, partner?.cause ?? b!.sizes[y]!]
              }
            }
        const count = a.sizes.length * (b?.sizes.length ?? 1)
        found.push({
          causes,
          log:
            Math.log(a.prior) + Math.log((partner ?? b!).prior) + logSumExp(logs) - Math.log(count),
        })
      }
    })
  }
  weighUnder(null)
  for (const { sizes, prior } of candidates)
    if (widens(sizes[0]!))
      for (const cause of sizes) weighUnder({ cause, prior: prior / sizes.length })
  const evidence = logSumExp(found.map(({ log }) => log))
  return {
    evidence,
    pairs: found
      .map(({ causes, log }) => ({ causes, probability: Math.exp(log - evidence) }))
      .sort((a, b) => b.probability - a.probability),
  }
}

/** How often it is two things at once, where something is asked of at all: a rule of practice. */
const TWO_AT_ONCE = 0.08

export interface TwoThings {
  /** That it is two things rather than one, or none. */
  probability: number
  /** The likeliest pairs, best first; their probabilities are those among pairs. */
  pairs: CausePair[]
}

/**
 * Weighs two causes at once against one.
 *
 * @returns null where one explains the readings as well as two do, so that nothing speaks for a second
 */
export function twoThings(weighed: Weighed, most = 2): TwoThings | null {
  // Pairs of a station of which little was read are as many as its readings: there is nothing to be told from them.
  if (weighed.kase.readings.length < 2) return null
  const { pairs, evidence } = weighPairs(weighed)
  const odds = evidence - weighed.evidence
  if (!(odds > 0)) return null
  const times = TWO_AT_ONCE / (1 - TWO_AT_ONCE)
  return { probability: 1 / (1 + Math.exp(-odds) / times), pairs: pairs.slice(0, most) }
}

const widens = ({ kind }: Cause): boolean => kind === 'slip' || kind === 'common mode'

/** Two causes of the same part and kind are one. */
const sameThing = (a: Cause, b: Cause): boolean =>
  a.kind === b.kind && (a.kind !== 'meter' || (b.kind === 'meter' && a.instrument === b.instrument))
