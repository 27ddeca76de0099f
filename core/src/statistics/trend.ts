/** What a row of readings does over the years: a straight trend that outliers do not bend. */
import { median, quantileSorted, type Range } from './quantile.ts'
import { seeded } from './random.ts'

export interface TimedValue {
  /** Years, from any beginning. */
  year: number
  value: number
}

/** Low and high are 5 and 95 % of the slope. */
export interface Trend extends Range {
  /** Middle of the slopes of all pairs, in the value's unit per year. */
  slope: number
  /** Value of the line at the first and the last reading. */
  atFirst: number
  atLast: number
  /** True where 0 lies outside of 2.5 to 97.5 % of the slope: chance alone makes one in twenty drift. */
  drifts: boolean
}

/** Pairs beyond which a sample of them is taken. */
const MOST_PAIRS = 60_000

/**
 * The Theil–Sen line: the median slope of all pairs, with the interval that Kendall's statistic gives it
 * (Sen 1968, J. Am. Stat. Assoc. 63, 1379). Null for fewer than four readings or none apart in time.
 */
export function trendOf(points: readonly TimedValue[]): Trend | null {
  const n = points.length
  if (n < 4) return null
  const slopes = slopesOf(points)
  if (slopes.length === 0) return null
  const sorted = Float64Array.from(slopes).sort()
  const slope = quantileSorted(sorted, 0.5)
  // Kendall's variance of the number of rising less falling pairs, as a share of the pairs.
  const deviation = Math.sqrt((n * (n - 1) * (2 * n + 5)) / 18) / (n * (n - 1))
  const reach = Math.min(0.5, 1.645 * deviation)
  // Pairs are counted in steps of two: half a step more for few readings.
  const sure = Math.min(0.5, 1.96 * deviation + 1 / (n * (n - 1)))
  const low = quantileSorted(sorted, 0.5 - reach)
  const high = quantileSorted(sorted, 0.5 + reach)
  const offset = median(points.map(({ year, value }) => value - slope * year))
  const years = points.map(({ year }) => year)
  return {
    slope,
    low,
    high,
    atFirst: offset + slope * Math.min(...years),
    atLast: offset + slope * Math.max(...years),
    drifts: quantileSorted(sorted, 0.5 - sure) > 0 || quantileSorted(sorted, 0.5 + sure) < 0,
  }
}

function slopesOf(points: readonly TimedValue[]): number[] {
  const n = points.length
  const slopes: number[] = []
  const add = (a: TimedValue, b: TimedValue) => {
    if (b.year !== a.year) slopes.push((b.value - a.value) / (b.year - a.year))
  }
  if ((n * (n - 1)) / 2 <= MOST_PAIRS) {
    for (let i = 0; i < n; i++) for (let j = i + 1; j < n; j++) add(points[i]!, points[j]!)
    return slopes
  }
  const random = seeded(n)
  for (let k = 0; k < MOST_PAIRS; k++)
    add(points[Math.floor(random() * n)]!, points[Math.floor(random() * n)]!)
  return slopes
}
