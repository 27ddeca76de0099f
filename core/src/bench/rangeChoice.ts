import { rhoOfSwr, swrOf } from '../load/reflection.ts'
import { type Meter, readingDoubtW, shownOf, leakOf } from '../measure/meter.ts'
import type { Emission } from '../source/modes.ts'

export interface RangeRow {
  rangeW: number
  /** Share of the scale that forward power uses. */
  ofScale: number
  /** Error of forward power, ± dB upward and downward; infinite where it may be nothing. */
  doubtDb: number
  fits: boolean
}

export interface RangeChoice {
  /** What the meter shows, forward and reflected. */
  forwardW: number
  reflectedW: number
  rows: RangeRow[]
  forwardRangeW: number | null
  reflectedRangeW: number | null
  /** Under this SWR the reflected power is lost in the error of its range. */
  blindSwr: number
  /** Under this one it is lost in the directivity. */
  directivitySwr: number
}

/**
 * Which ranges suit a power and an SWR, and how well the meter reads on each.
 *
 * @example chooseRange(meter, 100, { mode: 'key-down' }, 1.5).forwardW // 100
 */
export function chooseRange(
  meter: Meter,
  pepW: number,
  emission: Emission,
  swr: number,
): RangeChoice {
  const forwardW = shownOf(meter, pepW, emission)
  const rho = rhoOfSwr(swr)
  const reflectedW = forwardW * rho * rho
  const rows = meter.rangesW.map((rangeW): RangeRow => {
    const doubt = readingDoubtW(meter, forwardW, rangeW) / forwardW
    return {
      rangeW,
      ofScale: forwardW / rangeW,
      doubtDb: doubt < 1 ? -10 * Math.log10(1 - doubt) : Infinity,
      fits: forwardW <= rangeW,
    }
  })
  const smallest = (watts: number) => meter.rangesW.find((range) => range >= watts) ?? null
  const reflectedRangeW = smallest(reflectedW)
  const least = readingDoubtW(meter, 0, reflectedRangeW)
  return {
    forwardW,
    reflectedW,
    rows,
    forwardRangeW: smallest(forwardW),
    reflectedRangeW,
    blindSwr: swrOf(Math.sqrt(least / forwardW)),
    directivitySwr: swrOf(leakOf(meter)),
  }
}
