/** Two causes at once: every pair of explanations weighed, with what each does to the readings added up. */
import { cholesky, logHeavyOf, logPeak, logSumExp, whiten } from '../statistics/gaussian.ts'
import type { Weighed } from './diagnose.ts'
import { statesOf } from './likelihood.ts'
import { expectations, widen, widensErrors } from './expectations.ts'
import type { Cause } from './causes.ts'
import { addMeters } from './evidence.ts'
import { candidatesOf } from './explanations.ts'
import { swapLog } from './swapEvidence.ts'

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
  /** ln of how likely each size is where it is this cause. */
  logWeights: readonly number[]
  /** Indices of the sizes that are tried first. */
  some: readonly number[]
}

/** Sizes of one cause: every third is fine enough to find the pairs that are worth all sizes, but for scales, which are no row. */
const EVERY = 3
/** And so many pairs are. */
const FINE = 24
/** Of those beside a slip, or another cause that widens: there are many of these. */
const FINE_BESIDE = 3

/**
 * Weighs all pairs of causes that hold on every channel. Decibels of two causes add up, and so, nearly, do small
 * changes of a reflection: good enough to rank pairs, not to state a size by.
 */
export function weighPairs(weighed: Weighed): WeighedPairs {
  const { kase, waves, observables } = weighed
  const { swaps = [] } = kase
  const n = observables.length
  const expected = expectations(kase, waves, observables, { kind: 'none' })
  const candidates = candidatesOf(kase)
    .filter(({ sizes }) => !('point' in sizes[0]!) || sizes[0].point === null)
    // Something that is none of these explains all alone.
    .filter(({ sizes }) => sizes[0]!.kind !== 'other')
    .map(({ prior, sizes, weights }): Shifts => ({
      prior,
      sizes,
      logWeights: weights.map(Math.log),
      some: sizes.flatMap((cause, i) =>
        sizes.length <= 2 * EVERY || i % EVERY === 0 || isScale(cause) ? [i] : [],
      ),
      moved: sizes.map((cause) => {
        const mean = expectations(kase, waves, observables, cause)
        return mean.map((value, i) => value - expected[i]!)
      }),
    }))
  const plain = candidates.filter(({ sizes }) => !widensErrors(sizes[0]!))
  const meters = {
    own: observables.map(({ ownVariance }) => ownVariance),
    shared: observables.map(({ sharedVariance }) => sharedVariance),
  }
  const states = statesOf(weighed, observables)
  const found: Found[] = []
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
        // Each is whitened when it is first asked for: of most causes some sizes are enough.
        movedBy: remembered((i, x) => whiten(l, plain[i]!.moved[x]!)),
      }
    })
    /** ln of the density of the readings under two sizes, in the state of the tuners that fits them best. */
    const logOf = (i: number, x: number, j: number | null, y: number): number => {
      let log = -Infinity
      for (const { peak, residual, movedBy } of under) {
        const first = movedBy(i, x)
        const second = j === null ? null : movedBy(j, y)
        let square = 0
        for (let o = 0; o < n; o++) {
          const rest = residual[o]! - first[o]! - (second === null ? 0 : second[o]!)
          square += rest * rest
        }
        log = Math.max(log, logHeavyOf(peak, square, n))
      }
      return log
    }
    /** A pair in all sizes of both; or in some, by its best fit alone, which is enough to rank it. */
    const weighed = (i: number, j: number | null, fine: boolean): Found => {
      const a = plain[i]!
      const b = j === null ? null : plain[j]!
      const firsts = fine ? [...a.sizes.keys()] : a.some
      const seconds = b ? (fine ? [...b.sizes.keys()] : b.some) : [0]
      const logs = new Float64Array(firsts.length * seconds.length)
      let best = -Infinity
      let causes: [Cause, Cause] = [a.sizes[0]!, partner?.cause ?? b!.sizes[0]!]
      let at = 0
      for (const x of firsts)
        for (const y of seconds) {
          const log = logOf(i, x, j, y)
          logs[at++] = log + a.logWeights[x]! + (b?.logWeights[y] ?? 0)
          if (log > best) {
            best = log
            causes = [a.sizes[x]!, partner?.cause ?? b!.sizes[y]!]
          }
        }
      const evidence = fine ? logSumExp(logs) : best - Math.log(logs.length)
      const log = Math.log(a.prior) + Math.log((partner ?? b!).prior) + evidence
      return { causes, log: log + swapLog(swaps, causes) }
    }
    if (partner) {
      const beside = plain
        .map((_, i) => ({ i, found: weighed(i, null, false) }))
        .sort((a, b) => b.found.log - a.found.log)
      for (const [rank, { i, found: own }] of beside.entries())
        found.push(rank < FINE_BESIDE ? weighed(i, null, true) : own)
      return
    }
    const coarse = plain.flatMap((a, i) =>
      Array.from({ length: i }, (_, j) => j)
        .filter((j) => !sameThing(a.sizes[0]!, plain[j]!.sizes[0]!))
        .map((j) => ({ i, j, found: weighed(i, j, false) })),
    )
    coarse.sort((a, b) => b.found.log - a.found.log)
    for (const [rank, { i, j, found: own }] of coarse.entries())
      found.push(rank < FINE ? weighed(i, j, true) : own)
  }
  weighUnder(null)
  for (const { sizes, prior } of candidates)
    if (widensErrors(sizes[0]!))
      for (const cause of sizes) weighUnder({ cause, prior: prior / sizes.length })
  const evidence = logSumExp(found.map(({ log }) => log))
  return {
    evidence,
    pairs: found
      .map(({ causes, log }) => ({ causes, probability: Math.exp(log - evidence) }))
      .sort((a, b) => b.probability - a.probability),
  }
}

/** How often two things are wrong at once when a station is measured: a rule of practice. */
const TWO_AT_ONCE = 0.08

/** A cause that leaves readings no further off than this, in deviations, explains them alone. */
const BADLY = 0.9

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
  // One reading can be explained by any two causes.
  if (weighed.kase.readings.length < 2) return null
  const [first] = weighed.diagnosis.explanations
  if (first!.cause.kind !== 'other' && first!.misfit < BADLY) return null
  const { pairs, evidence } = weighPairs(weighed)
  const odds = evidence - weighed.evidence
  if (!(odds > 0)) return null
  const times = TWO_AT_ONCE / (1 - TWO_AT_ONCE)
  return { probability: 1 / (1 + Math.exp(-odds) / times), pairs: pairs.slice(0, most) }
}

/** What is made of two numbers, made once. */
function remembered<T>(make: (i: number, x: number) => T): (i: number, x: number) => T {
  const known: T[][] = []
  return (i, x) => ((known[i] ??= [])[x] ??= make(i, x))
}

interface Found {
  causes: [Cause, Cause]
  log: number
}

const isScale = (cause: Cause): boolean => cause.kind === 'meter' && cause.why === 'scale'

/** Two causes of the same part and kind are one. */
const sameThing = (a: Cause, b: Cause): boolean =>
  a.kind === b.kind && (a.kind !== 'meter' || (b.kind === 'meter' && a.instrument === b.instrument))
