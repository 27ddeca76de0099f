/** Readings as evidence: how far each is from what was expected, and how these errors hang together. */
import type { Chain } from '../chain/chain.ts'
import { type ReadPoint, sameSetting } from '../chain/farEnd.ts'
import type { PlaneWaves } from '../chain/fastWaves.ts'
import type { Tolerances } from '../chain/tolerances.ts'
import { drawChain } from '../chain/uncertainty.ts'
import { leakOf, type Meter, rangeFor, readingDoubtW, shownOf } from '../measure/meter.ts'
import { InputError } from '../errors.ts'
import type { Priors } from './priors.ts'
import type { SeenSweep } from './sweepEvidence.ts'
import type { TriedSwap } from './swapEvidence.ts'
import { rhoOfSwr } from '../load/reflection.ts'
import { speechDb } from '../measure/expectReading.ts'
import type { Emission } from '../source/modes.ts'

/** Where and with what one reads. Indices point into the case's planes, points and instruments. */
export interface Site {
  point: number
  plane: number
  instrument: number
}

/** What an instrument showed. At least forward power or an SWR. */
export interface MeterReading extends Site {
  forwardW?: number | undefined
  reflectedW?: number | undefined
  /** Where no reflected power was read. */
  swr?: number | undefined
  /** Full scale it was read on; the smallest that holds it unless given. */
  rangeW?: number | undefined
}

/** An operating point with its emission: what an averaging meter shows depends on it. */
export interface Channel extends ReadPoint {
  emission: Emission
}

/**
 * The channel that a cause which concerns one channel names: the first of those that are the same setting, so that what was
 * read into a load and into the antenna is read of one transmitter.
 */
export const channelOf = (channels: readonly Channel[], point: number): number =>
  channels.findIndex(
    (other) => sameSetting(other, channels[point]!) && other.mode === channels[point]!.mode,
  )

/**
 * Channels, and after them the same with a load in the antenna's place where none was read so: what else could be read. A
 * reading into it says what the antenna has no part in.
 */
export function withLoads(channels: readonly Channel[]): Channel[] {
  const known = [...channels]
  channels.forEach((own, point) => {
    if (channelOf(channels, point) !== point) return
    const into = known.some(
      (other) => other.farEnd === 'load' && sameSetting(other, own) && other.mode === own.mode,
    )
    if (!into) known.push({ ...own, farEnd: 'load' })
  })
  return known
}

/** All that a diagnosis rests on. */
export interface Case {
  chain: Chain
  channels: readonly Channel[]
  instruments: readonly Meter[]
  readings: readonly MeterReading[]
  tolerances: Tolerances
  /** How likely each kind of cause is before anything is read; those of practice unless given. */
  priors?: Priors | undefined
  /** Stages that lost more than they should elsewhere: the same cable in another chain. */
  suspects?: readonly number[] | undefined
  /** What an analyser saw of the chain in the same session. */
  sweeps?: readonly SeenSweep[] | undefined
  /** Leads that were swapped in it, and what came of that. */
  swaps?: readonly TriedSwap[] | undefined
}

/** One figure of a reading: forward power as dB over 1 W, or |ρ|. */
export interface Observable extends Site {
  what: 'forward' | 'rho'
  reading: number
  /** As it was read; NaN for one that is only thought of. */
  value: number
  /** Full scale that its watts were read on; null for a meter that finds its own, or an SWR that was read as such. */
  rangeW: number | null
  by: 'watts' | 'swr'
  /** Variance of its own, and of the part that all readings of the instrument share, at the value read. */
  ownVariance: number
  sharedVariance: number
}

/** Draws of the chain: enough for a covariance of some tens of readings. */
const DRAWS = 400
/** Beyond all tolerances the model itself is not better than this, dB and |ρ|. */
const MODEL_DB = 0.08
const MODEL_RHO = 0.012
/** Of a meter's variance, the share by which all its readings are off together. */
const SHARED = 0.5

/** The figures of one reading. @throws InputError under `readings`, where nothing was read */
export function observablesOf(
  reading: MeterReading,
  index: number,
  meter: Meter,
  channel: Channel,
): Observable[] {
  const { point, plane, instrument, forwardW, reflectedW, swr } = reading
  const site = { point, plane, instrument, reading: index }
  const out: Observable[] = []
  const rangeW = reading.rangeW ?? rangeFor(meter, forwardW ?? 0)
  const add = (
    figure: Pick<Observable, 'what' | 'value' | 'rangeW' | 'by'>,
    at: { forwardW: number; rho: number },
  ) => {
    const own = { ...site, ...figure, ownVariance: 0, sharedVariance: 0 }
    const [ownVariance, sharedVariance] = variancesOf(own, at, meter, channel)
    out.push({ ...own, ownVariance, sharedVariance })
  }
  const rho =
    reflectedW === undefined || !(forwardW! > 0)
      ? 0
      : Math.min(1, Math.sqrt(Math.max(0, reflectedW) / forwardW!))
  if (forwardW !== undefined) {
    if (!(forwardW >= 0))
      throw new InputError('Forward power must be 0 W or more.', ['readings', index, 'forwardW'])
    const value = 10 * Math.log10(leastSeen(forwardW, meter, rangeW))
    add({ what: 'forward', value, rangeW, by: 'watts' }, { forwardW, rho })
  }
  if (forwardW !== undefined && forwardW > 0 && reflectedW !== undefined)
    add({ what: 'rho', value: rho, rangeW, by: 'watts' }, { forwardW, rho })
  else if (swr !== undefined) {
    const own = rhoOfSwr(swr)
    add({ what: 'rho', value: own, rangeW: null, by: 'swr' }, { forwardW: NaN, rho: own })
  }
  return out
}

/** What a needle at rest hides is as much as its error. */
const leastSeen = (watts: number, meter: Meter, rangeW: number | null): number =>
  Math.max(watts, readingDoubtW(meter, watts, rangeW) / 2, 1e-6)

/**
 * Variance of a figure where its meter sees a wave: of its own, and the part that all readings of the instrument share.
 * It belongs to what is there, not to what was read: an unlikely reading must not excuse itself by its own error.
 *
 * @param wave forward power as the meter shows it, W, and |ρ|
 */
export function variancesOf(
  { what, by, rangeW }: Pick<Observable, 'what' | 'by' | 'rangeW'>,
  { forwardW, rho }: { forwardW: number; rho: number },
  meter: Meter,
  { emission }: Pick<Channel, 'emission'>,
): [own: number, shared: number] {
  const leak = leakOf(meter) / Math.SQRT2
  if (by === 'swr') return [(rho * meter.accuracy) ** 2 / 3 + leak ** 2 + MODEL_RHO ** 2, 0]
  const doubt = readingDoubtW(meter, forwardW, rangeW ?? rangeFor(meter, forwardW))
  if (what === 'forward') {
    const seen = Math.max(forwardW, doubt / 2, 1e-6)
    const meterDb = (10 * Math.log10(1 + doubt / seen)) / Math.sqrt(3)
    return [
      meterDb ** 2 * (1 - SHARED) + speechDb(meter, emission) ** 2 + MODEL_DB ** 2,
      meterDb ** 2 * SHARED,
    ]
  }
  // The range is that of forward power; what comes back is read on the smallest that holds it.
  const reflectedW = forwardW * rho * rho
  const back = readingDoubtW(meter, reflectedW, rangeFor(meter, reflectedW))
  const most = Math.sqrt((reflectedW + back) / forwardW)
  const least = Math.sqrt(Math.max(0, reflectedW - back) / forwardW)
  const watts = Math.min(0.3, Math.max(most - rho, rho - least) / Math.sqrt(3))
  return [watts ** 2 * (1 - SHARED) + leak ** 2 + MODEL_RHO ** 2, watts ** 2 * SHARED]
}

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

/** Of each figure its own variance, and what all readings of the instrument share. */
export interface MeterVariances {
  own: ArrayLike<number>
  shared: ArrayLike<number>
}

/** Adds what the meters make to what the chain makes, in place. */
export function addMeters(
  c: Float64Array,
  observables: readonly Pick<Observable, 'instrument' | 'what'>[],
  { own, shared }: MeterVariances,
): void {
  const n = observables.length
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      const a = observables[i]!
      const b = observables[j]!
      if (a.instrument !== b.instrument || a.what !== b.what) continue
      c[i * n + j]! += Math.sqrt(shared[i]! * shared[j]!) + (i === j ? own[i]! : 0)
      if (i !== j) c[j * n + i] = c[i * n + j]!
    }
}
