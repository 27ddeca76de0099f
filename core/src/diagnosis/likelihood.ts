/** How likely readings are under a cause: what it makes of them, and how their errors hang together. */
import type { SolvedWaves } from '../chain/fastWaves.ts'
import {
  cholesky,
  logHeavyDensity,
  logHeavyOf,
  logPeak,
  logSumExp,
  squareOf,
} from '../statistics/gaussian.ts'
import { type Cause, type CausedWaves, causedWaves } from './causes.ts'
import { addMeters, type Case, channelOf, type Observable } from './evidence.ts'
import { expectedOf, spreadOf } from './spread.ts'
import { expectations, metersAt, rawOf, widen, widensErrors } from './expectations.ts'

type ChainSpread = ReturnType<typeof spreadOf>

/** What a chain's diagnosis rests on before anything is read: made once, it serves all readings of these channels. */
export interface Prepared {
  spread: ChainSpread
  waves: readonly CausedWaves[]
}

/**
 * Causes in words, by which what they make of a channel that they concern is found again, whether they concern others as
 * well; each is written once.
 */
const keys = new WeakMap<Cause, string>()
function keyOf(cause: Cause): string {
  const known = keys.get(cause) ?? JSON.stringify({ ...cause, point: null })
  keys.set(cause, known)
  return known
}

const NONE: Cause = { kind: 'none' }

/** Draws a chain's spread; the waves under each cause are solved when first asked for, and kept. */
export function prepare(
  kase: Omit<Case, 'readings'>,
  progress?: (share: number) => void,
): Prepared {
  return {
    spread: spreadOf(kase, progress),
    waves: kase.channels.map((at, point) => {
      const channel = channelOf(kase.channels, point)
      const waves = causedWaves(kase.chain, at, channel, kase.tolerances.reflection)
      const concerns = (cause: Cause) =>
        !('point' in cause) || cause.point === null || cause.point === channel
      const known = new Map<string, SolvedWaves>()
      // The same object is asked for several times in a row: its key is made once.
      const met = new WeakMap<Cause, SolvedWaves>()
      const shares = new Map<string, number>()
      return {
        nominal: waves.nominal,
        matchShare(cause) {
          const key = keyOf(concerns(cause) ? cause : NONE)
          const share = shares.get(key) ?? waves.matchShare(cause)
          shares.set(key, share)
          return share
        },
        under(cause) {
          if (!concerns(cause)) return waves.nominal
          const seen = met.get(cause)
          if (seen) return seen
          const key = keyOf(cause)
          const now = known.get(key) ?? waves.under(cause)
          known.set(key, now)
          met.set(cause, now)
          return now
        },
      }
    }),
  }
}

export interface Fit {
  /** ln of the likelihood. */
  log: number
  /** Root mean square of the deviations, in the state of the tuners that fits best. */
  misfit: number
}

/**
 * What observables are under causes in each state of the tuners, and how likely the states are: of each state its own means.
 */
function mixtureOf(kase: Case, { spread, waves }: Prepared, observables: readonly Observable[]) {
  const { written, meanOf } = meansOf(kase, { spread, waves }, observables)
  const states = statesOf({ kase, spread, waves }, observables)
  const weightsUnder = stateWeights(states, waves)
  const points = new Set(observables.map(({ point }) => point))
  return {
    states,
    under(cause: Cause) {
      const expected = expectations(kase, waves, observables, cause)
      const flags: { matched: boolean; changed: boolean }[] = []
      for (const point of points) {
        const { under, nominal } = waves[point]!
        const { matched } = under(cause)
        flags[point] = { matched, changed: matched !== nominal.matched }
      }
      /**
       * The cause is solved for the chain as it is written down, whose tuner matches or does not; of the other it is known what is
       * there without the cause.
       */
      const meanIn = (i: number, matched: boolean): number => {
        const own = flags[observables[i]!.point]!
        const usual = meanOf(i, matched)
        if (!own.changed || Number.isNaN(meanOf(i, own.matched)))
          return expected[i]! + usual - written[i]!
        return own.matched === matched ? expected[i]! : usual
      }
      return {
        logWeights: weightsUnder(cause),
        mean: (matched: readonly boolean[]) =>
          observables.map(({ point }, i) => meanIn(i, matched[point]!)),
      }
    },
  }
}

/**
 * The likelihood of the readings under a cause: a mixture over which tuners find their match, each with its own means
 * and its own covariance, and with the errors that meters have where they see what the cause makes.
 */
export function likelihoodOf(
  kase: Case,
  prepared: Prepared,
  observables: readonly Observable[],
): (cause: Cause) => Fit {
  const n = observables.length
  const mixture = mixtureOf(kase, prepared, observables)
  return (cause) => {
    const { logWeights, mean: meanIn } = mixture.under(cause)
    let best = { log: -Infinity, misfit: Infinity }
    const logs = mixture.states.map(({ matched, covariance }, s) => {
      const mean = meanIn(matched)
      const c = covariance.slice()
      addMeters(c, observables, metersAt(kase, observables, mean))
      const l = cholesky(widen(c, observables, mean, cause), n)
      const off = observables.map(({ value }, i) => value - mean[i]!)
      const log = logWeights[s]! + logHeavyDensity(l, off)
      if (log > best.log) best = { log, misfit: Math.sqrt(squareOf(l, off) / n) }
      return log
    })
    return { log: logSumExp(logs), misfit: best.misfit }
  }
}

/** How likely the states of the tuners are under a cause, ln: another antenna makes others likelier. */
function stateWeights(
  states: readonly { matched: readonly boolean[]; logWeight: number }[],
  waves: readonly CausedWaves[],
): (cause: Cause) => number[] {
  const varying = waves.flatMap((own, point) =>
    states.some(({ matched }) => matched[point] !== states[0]!.matched[point])
      ? [{ own, point }]
      : [],
  )
  return (cause) => {
    if (cause.kind !== 'antenna') return states.map(({ logWeight }) => logWeight)
    const shares = varying.map(({ own, point }) => ({
      point,
      now: own.matchShare(cause),
      before: own.matchShare(NONE),
    }))
    const logs = states.map(({ matched, logWeight }) =>
      shares.reduce(
        (sum, { point, now, before }) =>
          sum + Math.log(matched[point] ? now / before : (1 - now) / (1 - before)),
        logWeight,
      ),
    )
    const total = logSumExp(logs)
    return logs.map((log) => log - total)
  }
}

/** So much further off than the best fit, in ln, and a size of a cause is out of the question however it is looked at. */
const OUT = 18

/** The exact likelihood of what may count at all, and the rough one of the rest. */
export function sieved(
  exact: (cause: Cause) => Fit,
  rough: (cause: Cause) => (Fit & { square: number }) | null,
  all: readonly Cause[],
  n: number,
): (cause: Cause) => Fit {
  const known = new Map(all.map((cause) => [cause, rough(cause)]))
  let best = -Infinity
  let least = Infinity
  for (const fit of known.values())
    if (fit) {
      best = Math.max(best, fit.log)
      least = Math.min(least, fit.square)
    }
  // Where nothing fits, the rough figures are worth less; far out the tails count, in which a square is worth a twelfth.
  const limit = best - OUT - Math.max(0, least - n) / 12
  return (cause) => {
    const fit = known.get(cause)
    return fit && fit.log < limit ? fit : exact(cause)
  }
}

/** The likelihood with the meters' errors where they were read, which is near enough for what does not fit; null of what widens. */
export function roughOf(
  kase: Case,
  prepared: Prepared,
  observables: readonly Observable[],
): (cause: Cause) => (Fit & { square: number }) | null {
  const n = observables.length
  const mixture = mixtureOf(kase, prepared, observables)
  const asRead = {
    own: observables.map(({ ownVariance }) => ownVariance),
    shared: observables.map(({ sharedVariance }) => sharedVariance),
  }
  const states = mixture.states.map(({ matched, covariance }) => {
    const c = covariance.slice()
    addMeters(c, observables, asRead)
    const l = cholesky(c, n)
    return { matched, l, peak: logPeak(l, n) }
  })
  return (cause) => {
    if (widensErrors(cause)) return null
    const { logWeights, mean: meanIn } = mixture.under(cause)
    let best = { log: -Infinity, square: Infinity }
    const logs = states.map(({ matched, l, peak }, s) => {
      const mean = meanIn(matched)
      const square = squareOf(
        l,
        observables.map(({ value }, i) => value - mean[i]!),
      )
      const log = logWeights[s]! + logHeavyOf(peak, square, n)
      if (log > best.log) best = { log, square }
      return log
    })
    const { square } = best
    return { log: logSumExp(logs), misfit: Math.sqrt(square / n), square }
  }
}

/** What observables are without a cause: as written down, and on average where the tuners of their channel match, or do not. */
function meansOf(kase: Case, { spread, waves }: Prepared, observables: readonly Observable[]) {
  const nominal = waves.map((point) => point.nominal)
  const written = observables.map((o) => expectedOf(o, nominal, kase))
  const shown = observables.map((o, i) => written[i]! - rawOf(o, nominal))
  const means = ([true, false] as const).map((matched) =>
    observables.map((o, i) => spread.mean(o, matched) + shown[i]!),
  )
  return { written, meanOf: (i: number, matched: boolean) => means[matched ? 0 : 1]![i]! }
}

/**
 * The chain's doubt of some observables in each state of its tuners: how likely the state is, how the errors hang together in
 * it, and how far its mean lies from the chain as it is written down.
 */
export function statesOf(
  { kase, spread, waves }: Prepared & { kase: Case },
  observables: readonly Observable[],
) {
  const n = observables.length
  const { written, meanOf } = meansOf(kase, { spread, waves }, observables)
  return spread.states.map(({ weight, matched, covariance: of }) => {
    const covariance = new Float64Array(n * n)
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++) covariance[i * n + j] = of(observables[i]!, observables[j]!)
    const shift = observables.map(({ point }, i) => meanOf(i, matched[point]!) - written[i]!)
    return { logWeight: Math.log(weight), matched, covariance, shift }
  })
}
