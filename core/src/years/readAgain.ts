/** When a figure should be read again, by what the record shows of it. */
import type { YearSeries } from './years.ts'

const YEAR_MS = 365.25 * 24 * 3600 * 1000
/** A record that is shorter says nothing of a year. */
const LEAST_POINTS = 6
const LEAST_YEARS = 0.5
/** Nothing has to be read again sooner, years. */
const SOONEST_YEARS = 1 / 12

export interface ReadAgain {
  /** Milliseconds since 1970. */
  at: number
  /** What reaches that which matters by then: the change that is expected, or how little is known of it. */
  why: 'change' | 'uncertainty'
}

/**
 * A figure is read again when the change that its record shows, going on as its trend does, reaches what matters, or half
 * the width of the 90 % range of what it changed since its last reading does. What has reached it already is known: the
 * next step as large is waited for.
 *
 * @param series over the years; its change is that since about a year before, and its trend is that of Theil and Sen (statistics/trend.ts)
 * @param worth what matters, in the figure's unit
 * @returns null where the record is too short to say
 * @example readAgain({ points: [], trend: null, change: null }, 0.5) // null
 */
export function readAgain(
  series: Pick<YearSeries, 'points' | 'trend' | 'change'>,
  worth: number,
): ReadAgain | null {
  if (!isLongEnough(series) || series.trend === null) return null
  const { slope, low, high, drifts } = series.trend
  const grown = Math.abs(series.change?.by ?? 0)
  const left = grown < worth ? worth - grown : worth
  const change = drifts ? left / Math.abs(slope) : Infinity
  const uncertainty = worth / ((high - low) / 2)
  const years = Math.max(SOONEST_YEARS, Math.min(change, uncertainty))
  if (!Number.isFinite(years)) return null
  return {
    at: series.points.at(-1)!.at + years * YEAR_MS,
    why: change <= uncertainty ? 'change' : 'uncertainty',
  }
}

/** Whether a figure will hardly have moved by what matters after so many years, as its record goes: at both ends of the range. */
export function staysFor(
  series: Pick<YearSeries, 'points' | 'trend'>,
  worth: number,
  years: number,
): boolean {
  if (!isLongEnough(series) || series.trend === null || series.trend.drifts) return false
  return Math.max(Math.abs(series.trend.low), Math.abs(series.trend.high)) * years < worth
}

/** How long a record is, years. */
export const yearsOf = ({ points }: Pick<YearSeries, 'points'>): number =>
  points.length === 0 ? 0 : (points.at(-1)!.at - points[0]!.at) / YEAR_MS

const isLongEnough = (series: Pick<YearSeries, 'points'>): boolean =>
  series.points.length >= LEAST_POINTS && yearsOf(series) >= LEAST_YEARS
