/** Where did the watts go? Ranks the explanations of a set of readings. */
import { InputError } from '../errors.ts'
import type { Range } from '../statistics/quantile.ts'
import { logSumExp } from '../statistics/gaussian.ts'
import { type Case, type Observable, observablesOf } from './evidence.ts'
import { covarianceOf } from './spread.ts'
import { candidatesOf } from './explanations.ts'
import { sweepEvidence } from './sweepEvidence.ts'
import { swapLog } from './swapEvidence.ts'
import type { Cause } from './causes.ts'
import { likelihoodOf, type Prepared, prepare, roughOf, sieved } from './likelihood.ts'
import { expectations } from './expectations.ts'

export interface Explanation {
  /** In the size that fits best. */
  cause: Cause
  /** Of all explanations that were weighed, after the readings; they make 1 together. */
  probability: number
  /** Root mean square of how far the readings stay from it, in their own deviations: 1 is as it should be. */
  misfit: number
  /** Sizes that hold nine tenths of the probability, in the cause's own unit; where it has one. */
  range?: Range
  /** What sweeps add to the logarithm of its likelihood, against the cause that explains them best; where there are any. */
  sweepLog?: number
}

export interface Diagnosis {
  /** Most probable first. */
  explanations: Explanation[]
  /** False where even the best leaves more open than chance does once in a hundred times. */
  explained: boolean
  /** The expected figure of every observable without a cause, its deviation, and how sure. */
  observables: { observable: Observable; expected: number; deviation: number; sigma: number }[]
}

/** Everything that both the ranking and the search for the next reading need. */
export interface Weighed extends Prepared {
  /** ln of the evidence for all explanations together. */
  evidence: number
  kase: Case
  observables: Observable[]
  /** Every size of every cause that was weighed; together they make 1. */
  sizes: WeighedSize[]
  diagnosis: Diagnosis
}

export interface WeighedSize {
  cause: Cause
  probability: number
  /** Which explanation it is a size of. */
  candidate: number
}

/**
 * Weighs every explanation against all readings at once: the likelihood of the readings under each cause
 * and each of its sizes, with errors that hang together (one chain, one meter) taken as such; then Bayes.
 *
 * @throws InputError where there is no reading
 */
export function weigh(
  kase: Case,
  progress?: (share: number) => void,
  prepared: Prepared = prepare(kase, progress && ((share) => progress(share * 0.6))),
): Weighed {
  const { channels, instruments, readings, chain, swaps = [] } = kase
  const { spread, waves } = prepared
  if (readings.length === 0) throw new InputError('There is no reading to explain.', ['readings'])
  readings.forEach(({ plane }, i) => {
    if (!(plane >= 0 && plane <= chain.stages.length))
      throw new InputError(`The chain has no plane ${plane}.`, ['readings', i, 'plane'])
  })
  const observables = readings.flatMap((reading, i) =>
    observablesOf(reading, i, instruments[reading.instrument]!, channels[reading.point]!),
  )
  const n = observables.length
  if (n === 0) throw new InputError('No reading has a forward power or an SWR.', ['readings'])
  const covariance = covarianceOf(observables, spread)
  const expected = expectations(kase, waves, observables, { kind: 'none' })

  const candidates = candidatesOf(kase)
  const likelihood = sieved(
    likelihoodOf(kase, prepared, observables),
    roughOf(kase, prepared, observables),
    candidates.flatMap(({ sizes }) => sizes),
    n,
  )
  const seen = sweepEvidence(
    chain,
    kase.sweeps ?? [],
    kase.tolerances,
    candidates.flatMap(({ sizes }) => sizes),
  ).values()
  const ranked = candidates.map(({ prior, sizes, weights }, c) => {
    const fits = sizes.map((cause) => {
      const { log, misfit } = likelihood(cause)
      const sweepLog = seen.next().value ?? 0
      return { cause, log: log + sweepLog + swapLog(swaps, [cause]), sweepLog, misfit }
    })
    const evidence = logSumExp(fits.map(({ log }, i) => log + Math.log(weights[i]!)))
    const best = fits.reduce((a, b) => (b.log > a.log ? b : a))
    progress?.(0.6 + (0.4 * (c + 1)) / candidates.length)
    return { best, fits, weights, prior, log: Math.log(prior) + evidence }
  })
  const total = logSumExp(ranked.map(({ log }) => log))
  const explanations = ranked
    .map(({ best, fits, log }): Explanation => {
      const range = rangeOf(fits)
      return {
        cause: best.cause,
        probability: Math.exp(log - total),
        misfit: best.misfit,
        ...(range && { range }),
        ...(kase.sweeps?.length && { sweepLog: best.sweepLog }),
      }
    })
    .sort((a, b) => b.probability - a.probability)
  return {
    evidence: total,
    sizes: ranked.flatMap(({ fits, weights, prior }, candidate) =>
      fits.map(({ cause, log }, i) => ({
        cause,
        candidate,
        probability: Math.exp(Math.log(prior * weights[i]!) + log - total),
      })),
    ),
    kase,
    spread,
    waves,
    observables,
    diagnosis: {
      explanations,
      explained:
        explanations[0]!.cause.kind !== 'other' &&
        explanations[0]!.misfit ** 2 * n < chiSquareLimit(n),
      observables: observables.map((observable, i) => ({
        observable,
        expected: expected[i]!,
        deviation: observable.value - expected[i]!,
        sigma: Math.sqrt(covariance[i * n + i]!),
      })),
    },
  }
}

/** The ranking alone; see `weigh`. */
export const diagnose = (kase: Case, progress?: (share: number) => void): Diagnosis =>
  weigh(kase, progress).diagnosis

/** χ² that chance passes once in a hundred (Wilson & Hilferty 1931). */
const chiSquareLimit = (n: number): number =>
  n * (1 - 2 / (9 * n) + 2.326 * Math.sqrt(2 / (9 * n))) ** 3

/** The size of a cause where it has one number: dB, a factor. */
function sizeOf(cause: Cause): number | null {
  switch (cause.kind) {
    case 'transmitter':
    case 'loss':
      return cause.db
    case 'aged':
    case 'meter':
      return cause.factor
    default:
      return null
  }
}

function rangeOf(fits: readonly { cause: Cause; log: number }[]) {
  const total = logSumExp(fits.map(({ log }) => log))
  const sized = fits
    .map(({ cause, log }) => ({ size: sizeOf(cause), weight: Math.exp(log - total) }))
    .filter((f): f is { size: number; weight: number } => f.size !== null)
    .sort((a, b) => a.size - b.size)
  if (sized.length < 2) return undefined
  let sum = 0
  let low = sized[0]!.size
  let high = sized.at(-1)!.size
  for (const { size, weight } of sized) {
    if (sum < 0.05) low = size
    sum += weight
    if (sum >= 0.95) {
      high = size
      break
    }
  }
  return { low, high }
}
