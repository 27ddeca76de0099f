/** Readings as evidence: how far each is from what was expected, and how these errors hang together. */
import type { Chain } from '../chain/chain.ts'
import { type ReadPoint, sameSetting } from '../chain/farEnd.ts'
import type { Tolerances } from '../chain/tolerances.ts'
import { leakOf, type Meter, rangeFor, readingDoubtW } from '../measure/meter.ts'
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
