/** What sweeps of one place say over the years. */
import { rhoOfSwr } from '../load/reflection.ts'
import {
  namedFigures,
  sameFigure,
  type SweepFigureName,
  type SweepFigures,
} from '../sweep/figures.ts'
import { recordOf, type YearRecord } from './years.ts'

/** What a sweep that was kept came to. */
export interface KeptFigures {
  id: string
  /** Milliseconds since 1970. */
  at: number
  figures: SweepFigures
}

/** One figure over the years: Hz, dB and m as in `SweepFigures`; of an SWR, |ρ|. */
export interface SweepRecord extends YearRecord {
  name: SweepFigureName
  /** Of a dip: where it was last, Hz. */
  nearHz: number | null
  /** Of the newest sweep, 5 to 95 %. */
  low: number
  high: number
}

/** What is worth an operator's time: |ρ|, dB, and shares of the figure itself. */
const WORTH = { swr: 0.08, loss: 0.2, dip: 0.005, bandwidth: 0.1, end: 0.01 }

/**
 * The figures of the newest of some sweeps, each with what it was before. A dip is the same as long as it moves by less than 4 %
 * from one sweep to the next.
 *
 * @param kept of one place in one state, in any order
 * @example sweepRecords([]) // []
 */
export function sweepRecords(kept: readonly KeptFigures[]): SweepRecord[] {
  const [newest, ...earlier] = kept.toSorted((a, b) => b.at - a.at)
  if (!newest) return []
  return namedFigures(newest.figures).map(({ name, nearHz, value, low, high }) => {
    const own = name === 'swr' ? rhoOfSwr : (v: number) => v
    const points = [{ at: newest.at, round: newest.id, value: own(value) }]
    let hz = nearHz
    for (const { at, id, figures } of earlier) {
      const same = sameFigure({ name, nearHz: hz }, figures)
      if (!same) continue
      hz = same.nearHz
      points.push({ at, round: id, value: own(same.value) })
    }
    const worth = name === 'swr' || name === 'loss' ? WORTH[name] : WORTH[name] * Math.abs(value)
    const record = recordOf(
      points.map((point) => ({ ...point, expected: null, low: null, high: null })),
      worth,
    )
    return { ...record, ...{ name, nearHz, low: own(low), high: own(high) } }
  })
}
