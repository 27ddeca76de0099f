/** What an instrument should show at a plane, with everything that is not known about chain and meter. */
import { leakOf, type Meter, rangeFor, type ReadingErrors, showing, shownOf } from './meter.ts'
import { estimateOf, type Range } from '../statistics/quantile.ts'
import { latinHypercube, seeded } from '../statistics/random.ts'
import { normalQuantile } from '../statistics/gaussian.ts'
import { rhoOfSwr, swrOf } from '../load/reflection.ts'
import { type Emission, meanToPeakOf } from '../source/modes.ts'

/** Power at a plane as it is predicted; with its 5 to 95 % where they are known. */
export interface PredictedPlane {
  forwardW: number
  swr: number
  ranges?: { forwardW: Range; swr: Range } | undefined
}

export interface ExpectedReading {
  /** As the instrument shows it, W. */
  watts: number
  wattsRange: Range
  reflectedW: number
  swr: number
  swrRange: Range
  /** Full scale to use; null where it has none that is large enough or finds its own. */
  rangeW: number | null
}

/** From a deviation to the edge of 5 to 95 %. */
const EDGE = 1.645

/** A voice is never twice the same: deviation of what a meter shows of it, dB. */
export const speechDb = (meter: Meter, emission: Emission): number =>
  meanToPeakOf(emission) > 0.6 ? 0 : meter.kind === 'averaging' ? 1 : 0.4

/** How one station and its meter happen to be: normal numbers, the phase of a leak, errors of two readings from −1 to 1. */
interface Chance {
  chainDb: number
  chainRho: number
  leakRe: number
  leakIm: number
  forward: ReadingErrors
  reflected: ReadingErrors
}

/** A thousand of them, each of whose figures alone is spread as evenly as can be. */
const chances = latinHypercube(1000, 7, seeded(1)).map(
  ([db, rho, phase, offF, markF, offR, markR]): Chance => ({
    chainDb: normalQuantile(db!),
    chainRho: normalQuantile(rho!),
    leakRe: Math.cos(2 * Math.PI * phase!),
    leakIm: Math.sin(2 * Math.PI * phase!),
    forward: { off: 2 * offF! - 1, mark: 2 * markF! - 1 },
    reflected: { off: 2 * offR! - 1, mark: 2 * markR! - 1 },
  }),
)

/**
 * Chain and meter together, drawn: the chain as a normal spread of decibels and of |ρ|, the meter’s scale and half a mark
 * evenly within their limits, the leak of its bridge at any phase.
 *
 * @param rangeW that will be read on; the smallest that holds the power unless given
 */
export function expectReading(
  plane: PredictedPlane,
  meter: Meter,
  emission: Emission,
  rangeW?: number | null,
): ExpectedReading {
  const watts = shownOf(meter, plane.forwardW, emission)
  const rho = rhoOfSwr(plane.swr)
  const leak = leakOf(meter)
  const { forwardW, swr } = plane.ranges ?? {}
  const chainDb = forwardW ? (10 * Math.log10(forwardW.high / forwardW.low)) / 2 / EDGE : 0
  const chainRho = swr ? (rhoOfSwr(swr.high) - rhoOfSwr(swr.low)) / 2 / EDGE : 0
  const deviationDb = Math.hypot(chainDb, speechDb(meter, emission))
  const forward = new Float64Array(chances.length)
  const seenRho = new Float64Array(chances.length)
  for (let i = 0; i < chances.length; i++) {
    const chance = chances[i]!
    const there = watts * 10 ** ((deviationDb * chance.chainDb) / 10)
    const along = Math.min(1, Math.abs(rho + chainRho * chance.chainRho)) + leak * chance.leakRe
    const across = leak * chance.leakIm
    const back = there * (along * along + across * across)
    const read = showing(meter, there, chance.forward, rangeW)
    const reflected = showing(meter, back, chance.reflected)
    forward[i] = read
    seenRho[i] = read > 0 ? Math.min(1, Math.sqrt(reflected / read)) : 1
  }
  const read = estimateOf(forward)
  const { low, high } = estimateOf(seenRho)
  return {
    watts,
    wattsRange: { low: read.low, high: read.high },
    reflectedW: watts * rho * rho,
    swr: plane.swr,
    // A bridge may be better than is stated: what is as good as its leak may be shown as any SWR that is better.
    swrRange: { low: rho <= leak ? 1 : swrOf(low), high: swrOf(high) },
    rangeW: rangeFor(meter, watts),
  }
}

/**
 * The SWR of what was read, where it says one.
 *
 * @example swrRead({ forwardW: 100, reflectedW: 4 }) // 1.5
 */
export const swrRead = (read: {
  forwardW?: number | null | undefined
  reflectedW?: number | null | undefined
  swr?: number | null | undefined
}): number | null =>
  read.forwardW && read.reflectedW != null
    ? swrOf(Math.sqrt(read.reflectedW / read.forwardW))
    : (read.swr ?? null)
