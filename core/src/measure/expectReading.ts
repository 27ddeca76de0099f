/** What an instrument should show at a plane, with everything that is not known about chain and meter. */
import { leakOf, type Meter, rangeFor, readingDoubtW, shownOf } from './meter.ts'
import type { Range } from '../statistics/quantile.ts'
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

/**
 * Chain and meter together: their deviations add in squares, watts in dB and reflections as |ρ|.
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
  const fitting = rangeFor(meter, watts)
  const chainDb = plane.ranges
    ? (10 * Math.log10(plane.ranges.forwardW.high / plane.ranges.forwardW.low)) / 2 / EDGE
    : 0
  const doubt = readingDoubtW(meter, watts, rangeW ?? fitting)
  const meterDb = (10 * Math.log10(1 + doubt / watts)) / Math.sqrt(3)
  const reach = EDGE * Math.hypot(chainDb, meterDb, speechDb(meter, emission))

  const rho = rhoOfSwr(plane.swr)
  const reflectedW = watts * rho * rho
  const back = readingDoubtW(meter, reflectedW, rangeFor(meter, reflectedW))
  const most = Math.sqrt((reflectedW + back) / watts)
  const chainRho = plane.ranges
    ? (rhoOfSwr(plane.ranges.swr.high) - rhoOfSwr(plane.ranges.swr.low)) / 2 / EDGE
    : 0
  const away = EDGE * Math.hypot(chainRho, (most - rho) / Math.sqrt(3), leakOf(meter) / Math.SQRT2)
  return {
    watts,
    wattsRange: { low: watts * 10 ** (-reach / 10), high: watts * 10 ** (reach / 10) },
    reflectedW,
    swr: plane.swr,
    swrRange: { low: swrOf(Math.max(0, rho - away)), high: swrOf(Math.min(1, rho + away)) },
    rangeW: fitting,
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
