/** Readings as evidence: how far each is from what was expected, and how these errors hang together. */
import type { Chain, OperatingPoint } from '../chain/chain.ts'
import type { PlaneWaves } from '../chain/fastWaves.ts'
import type { Tolerances } from '../chain/tolerances.ts'
import { drawChain } from '../chain/uncertainty.ts'
import { leakOf, type Meter, rangeFor, readingDoubtW, shownOf } from '../measure/meter.ts'
import { InputError } from '../errors.ts'
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
export interface Channel extends OperatingPoint {
  emission: Emission
}

/** All that a diagnosis rests on. */
export interface Case {
  chain: Chain
  channels: readonly Channel[]
  instruments: readonly Meter[]
  readings: readonly MeterReading[]
  tolerances: Tolerances
}

/** One figure of a reading: forward power as dB over 1 W, or |ρ|. */
export interface Observable extends Site {
  what: 'forward' | 'rho'
  reading: number
  /** As it was read; NaN for one that is only thought of. */
  value: number
  /** Variance of its own, and of the part that all readings of the instrument share. */
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
  { emission }: Channel,
): Observable[] {
  const { point, plane, instrument, forwardW, reflectedW, swr } = reading
  const site = { point, plane, instrument, reading: index }
  const out: Observable[] = []
  const doubt = (watts: number) =>
    readingDoubtW(meter, watts, reading.rangeW ?? rangeFor(meter, watts))
  // The range is that of forward power; what comes back is read on the smallest that holds it.
  const doubtBack = (watts: number) => readingDoubtW(meter, watts, rangeFor(meter, watts))
  if (forwardW !== undefined) {
    if (!(forwardW >= 0))
      throw new InputError('Forward power must be 0 W or more.', ['readings', index, 'forwardW'])
    // What a needle at rest hides is as much as its error.
    const seen = Math.max(forwardW, doubt(forwardW) / 2, 1e-6)
    const meterDb = (10 * Math.log10(1 + doubt(forwardW) / seen)) / Math.sqrt(3)
    out.push({
      ...site,
      what: 'forward',
      value: 10 * Math.log10(seen),
      ownVariance: meterDb ** 2 * (1 - SHARED) + speechDb(meter, emission) ** 2 + MODEL_DB ** 2,
      sharedVariance: meterDb ** 2 * SHARED,
    })
  }
  const leak = leakOf(meter) / Math.SQRT2
  if (forwardW !== undefined && forwardW > 0 && reflectedW !== undefined) {
    const rho = Math.min(1, Math.sqrt(Math.max(0, reflectedW) / forwardW))
    const most = Math.sqrt((Math.max(0, reflectedW) + doubtBack(reflectedW)) / forwardW)
    const least = Math.sqrt(Math.max(0, reflectedW - doubtBack(reflectedW)) / forwardW)
    const watts = Math.min(0.3, Math.max(most - rho, rho - least) / Math.sqrt(3))
    out.push({
      ...site,
      what: 'rho',
      value: rho,
      ownVariance: watts ** 2 * (1 - SHARED) + leak ** 2 + MODEL_RHO ** 2,
      sharedVariance: watts ** 2 * SHARED,
    })
  } else if (swr !== undefined) {
    const rho = rhoOfSwr(swr)
    out.push({
      ...site,
      what: 'rho',
      value: rho,
      ownVariance: (rho * meter.accuracy) ** 2 / 3 + leak ** 2 + MODEL_RHO ** 2,
      sharedVariance: 0,
    })
  }
  return out
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

/** Covariance of what is expected, from draws of the chain. */
export interface Spread {
  /** Of what two observables are expected to be. */
  covariance: (a: Observable, b: Observable) => number
}

/** Draws the chain of a case once, on all its channels. */
export function spreadOf(
  { chain, channels, tolerances }: Omit<Case, 'readings'>,
  progress?: (share: number) => void,
): Spread {
  const drawn = drawChain(chain, channels, tolerances, {
    draws: DRAWS,
    seed: 20,
    ...(progress && { progress }),
  })
  const centred = new Map<string, Float64Array>()
  const of = ({ point, plane, what }: Observable): Float64Array => {
    const key = `${what} ${point} ${plane}`
    const known = centred.get(key)
    if (known) return known
    const { draws, forwardW, rho } = drawn[point]!
    const from = plane * draws
    const values = (what === 'rho' ? rho : forwardW).slice(from, from + draws)
    if (what === 'forward')
      for (let i = 0; i < draws; i++) values[i] = 10 * Math.log10(Math.max(values[i]!, 1e-9))
    const mean = values.reduce((a, b) => a + b, 0) / draws
    for (let i = 0; i < draws; i++) values[i]! -= mean
    centred.set(key, values)
    return values
  }
  return {
    covariance(a, b) {
      const x = of(a)
      const y = of(b)
      let sum = 0
      for (let i = 0; i < x.length; i++) sum += x[i]! * y[i]!
      return sum / (x.length - 1)
    },
  }
}

/** Full covariance of observables: the chain's doubt, the meters' shared error, their own. */
export function covarianceOf(observables: readonly Observable[], spread: Spread): Float64Array {
  const n = observables.length
  const c = new Float64Array(n * n)
  for (let i = 0; i < n; i++)
    for (let j = 0; j <= i; j++) {
      const a = observables[i]!
      const b = observables[j]!
      const shared =
        a.instrument === b.instrument && a.what === b.what
          ? Math.sqrt(a.sharedVariance * b.sharedVariance)
          : 0
      const value = spread.covariance(a, b) + shared + (i === j ? a.ownVariance : 0)
      c[i * n + j] = value
      c[j * n + i] = value
    }
  return c
}
