/** What an instrument should show at a plane, with everything that is not known about chain and meter. */
import { asRead, leakOf, type Meter, rangeFor, shownOf } from './meter.ts'
import type { Uncertain } from '../statistics/propagate.ts'
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
/** The same of an error between limits, alone or with another one, as a share of them; and of a leak of any phase. */
const EVEN_EDGE = 0.92
const edgeOf = ({ doubt, and = 0 }: Uncertain): number => EVEN_EDGE * Math.hypot(doubt, and)
const LEAK_EDGE = Math.cos(0.05 * Math.PI)

/** By how much less and more |ρ| is seen for a leak at nine in ten phases; of next to nothing the whole leak is seen. */
function leakSpan(rho: number, leak: number): [less: number, more: number] {
  const at = (cosine: number) =>
    Math.sqrt(Math.max(0, rho * rho + leak * leak + 2 * rho * leak * cosine))
  return [rho <= leak ? rho : rho - at(-LEAK_EDGE), (at(LEAK_EDGE) - rho) * LEAK_MARGIN]
}
/** A directivity is stated as roundly as that. */
const LEAK_MARGIN = 1.03

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
  // A meter is off by watts, not by decibels: beside a small power its error reaches further down than up.
  const doubt = edgeOf(asRead(meter, watts, rangeW ?? fitting))
  const others = EDGE * Math.hypot(chainDb, speechDb(meter, emission))
  const up = 10 ** (Math.hypot(others, 10 * Math.log10(1 + doubt / watts)) / 10)
  const down = 10 ** (-Math.hypot(others, 10 * Math.log10(1 - Math.min(1, doubt / watts))) / 10)

  const rho = rhoOfSwr(plane.swr)
  const reflectedW = watts * rho * rho
  // The range of what comes back has to hold what the leak adds to it.
  const seenW = watts * (rho + leakOf(meter)) ** 2
  const back = edgeOf(asRead(meter, reflectedW, rangeFor(meter, seenW)))
  const most = Math.sqrt((reflectedW + back) / watts) - rho
  const least = rho - Math.sqrt(Math.max(0, reflectedW - back) / watts)
  const chainRho = plane.ranges
    ? (rhoOfSwr(plane.ranges.swr.high) - rhoOfSwr(plane.ranges.swr.low)) / 2 / EDGE
    : 0
  // Of |ρ| = √(P_r/P_f), forward power is read as well.
  const away = Math.hypot(EDGE * chainRho, (rho / 2) * Math.min(1, doubt / watts))
  const [lessByLeak, moreByLeak] = leakSpan(rho, leakOf(meter))
  return {
    watts,
    wattsRange: { low: watts * down, high: watts * up },
    reflectedW,
    swr: plane.swr,
    swrRange: {
      low: swrOf(Math.max(0, rho - Math.hypot(away, least, lessByLeak))),
      high: swrOf(Math.min(1, rho + Math.hypot(away, most, moreByLeak))),
    },
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
