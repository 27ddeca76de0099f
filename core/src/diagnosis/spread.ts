/** What is not known of a chain, from draws of it, and how the errors of its readings hang together. */
import type { PlaneWaves } from '../chain/fastWaves.ts'
import { drawChain } from '../chain/uncertainty.ts'
import { shownOf } from '../measure/meter.ts'
import { type Case, type Observable, addMeters } from './evidence.ts'

/** Draws of the chain: enough for a covariance of some tens of readings. */
const DRAWS = 400

/** Waves of every channel under one cause, as an instrument would show them. */
export const expectedOf = (
  { point, plane, what, instrument }: Observable,
  waves: readonly PlaneWaves[],
  { channels, instruments }: Pick<Case, 'channels' | 'instruments'>,
): number => {
  const { forwardW, rho } = waves[point]!
  if (what === 'rho') return rho[plane]!
  const shown = shownOf(instruments[instrument]!, forwardW[plane]!, channels[point]!.emission)
  return 10 * Math.log10(Math.max(shown, 1e-9))
}

/** What the chain’s own doubt makes of what is expected, from draws of it. */
export interface Spread {
  /** Of what two observables are expected to be, over all draws. */
  covariance: (a: Observable, b: Observable) => number
  /**
   * The draws by which of the channels’ tuners find their match: an antenna near the edge of a tuner’s reach has two
   * answers, and their middle is none.
   */
  states: readonly TunerState[]
}

/** Draws in which the same tuners match. */
export interface TunerState {
  weight: number
  /** On each channel. */
  matched: readonly boolean[]
  covariance: (a: Observable, b: Observable) => number
}

/** Mean of an observable over the draws of a channel in which its tuners match, or do not; NaN without any. */
export type StateMean = (o: Observable, matched: boolean) => number

/** A state with fewer draws is put to the rest, share. */
const LEAST_STATE = 0.03

/** So many of the draws have to be in the states that are left. */
const LEAST_COUNTED = 0.7

/** Draws the chain of a case once, on all its channels. */
export function spreadOf(
  { chain, channels, tolerances }: Omit<Case, 'readings'>,
  progress?: (share: number) => void,
): Spread & { mean: StateMean } {
  const drawn = drawChain(chain, channels, tolerances, {
    draws: DRAWS,
    seed: 20,
    ...(progress && { progress }),
  })
  const known = new Map<string, Float64Array>()
  const valuesOf = ({ point, plane, what }: Observable): Float64Array => {
    const key = `${what} ${point} ${plane}`
    const before = known.get(key)
    if (before) return before
    const { draws, forwardW, rho } = drawn[point]!
    const from = plane * draws
    const values = (what === 'rho' ? rho : forwardW).slice(from, from + draws)
    if (what === 'forward')
      for (let i = 0; i < draws; i++) values[i] = 10 * Math.log10(Math.max(values[i]!, 1e-9))
    known.set(key, values)
    return values
  }
  const covarianceIn = (members: Int32Array) => {
    const centred = new Map<Float64Array, Float64Array>()
    const of = (o: Observable): Float64Array => {
      const values = valuesOf(o)
      const before = centred.get(values)
      if (before) return before
      const own = Float64Array.from(members, (i) => values[i]!)
      const mean = own.reduce((a, b) => a + b, 0) / own.length
      for (let i = 0; i < own.length; i++) own[i]! -= mean
      centred.set(values, own)
      return own
    }
    // The same places are asked for again and again.
    const products = new Map<Float64Array, Map<Float64Array, number>>()
    return (a: Observable, b: Observable) => {
      const x = of(a)
      const y = of(b)
      const row = products.get(x) ?? new Map<Float64Array, number>()
      products.set(x, row)
      const before = row.get(y)
      if (before !== undefined) return before
      let sum = 0
      for (let i = 0; i < x.length; i++) sum += x[i]! * y[i]!
      row.set(y, sum / (x.length - 1))
      return sum / (x.length - 1)
    }
  }
  const groups = new Map<string, number[]>()
  for (let i = 0; i < DRAWS; i++) {
    const key = drawn.map(({ matched }) => matched[i]).join('')
    groups.set(key, [...(groups.get(key) ?? []), i])
  }
  const everything = Array.from({ length: DRAWS }, (_, i) => i)
  let large = [...groups].filter(([, members]) => members.length >= LEAST_STATE * DRAWS)
  let counted = large.reduce((sum, [, members]) => sum + members.length, 0)
  if (counted < LEAST_COUNTED * DRAWS) {
    // Many channels, each with two answers: all together then, as most of them are.
    const most = drawn.map(({ matched }) => Number(matched.reduce((a, b) => a + b, 0) * 2 >= DRAWS))
    large = [[most.join(''), everything]]
    counted = DRAWS
  }
  return {
    covariance: covarianceIn(Int32Array.from(everything)),
    states: large.map(([key, members]) => ({
      weight: members.length / counted,
      matched: [...key].map((flag) => flag === '1'),
      covariance: covarianceIn(Int32Array.from(members)),
    })),
    mean(o, matched) {
      const values = valuesOf(o)
      const flags = drawn[o.point]!.matched
      let sum = 0
      let count = 0
      for (let i = 0; i < DRAWS; i++)
        if (Boolean(flags[i]) === matched) {
          sum += values[i]!
          count++
        }
      return sum / count
    },
  }
}

/** Full covariance of observables: the chain's doubt, the meters' shared error, their own. */
export function covarianceOf(
  observables: readonly Observable[],
  spread: Pick<Spread, 'covariance'>,
): Float64Array {
  const n = observables.length
  const c = new Float64Array(n * n)
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      const value = spread.covariance(observables[i]!, observables[j]!)
      c[i * n + j] = value
      c[j * n + i] = value
    }
  addMeters(c, observables, {
    own: observables.map(({ ownVariance }) => ownVariance),
    shared: observables.map(({ sharedVariance }) => sharedVariance),
  })
  return c
}

/** Covariance of two figures of different readings: the chain's doubt, and what the readings of a meter share. */
export const covarianceBetween = (
  a: Observable,
  b: Observable,
  spread: Pick<Spread, 'covariance'>,
): number =>
  spread.covariance(a, b) +
  (a.instrument === b.instrument && a.what === b.what
    ? Math.sqrt(a.sharedVariance * b.sharedVariance)
    : 0)
