/** What the record says over the years: losses of sections, power, SWR; how they drift and jump. */
import { rhoOfSwr } from '../load/reflection.ts'
import { levelsOf, type Stretch } from '../statistics/changePoints.ts'
import { robustDeviation } from '../statistics/quantile.ts'
import { type Trend, trendOf } from '../statistics/trend.ts'

/** The mean of one round at one place. */
export interface RoundMean {
  /** Milliseconds since 1970. */
  at: number
  round: string
  /** The stage it was read in front of, or `load`. */
  before: string
  powerW: number
  forwardW: number | null
  rho: number | null
  expectedW: number | null
  lowW: number | null
  highW: number | null
  expectedSwr: number | null
  lowSwr: number | null
  highSwr: number | null
}

/** One figure of one round, with what was expected of it. */
export interface YearPoint {
  at: number
  round: string
  value: number
  expected: number | null
  low: number | null
  high: number | null
}

export type YearSubject =
  /** Loss from one place where it was read to the next, dB: forward over forward. */
  | { kind: 'loss'; from: string; to: string }
  /** Power at the first place over what was expected, dB. */
  | { kind: 'power'; at: string }
  /** |ρ| seen at a place. */
  | { kind: 'swr'; at: string }

/** A figure over the years: how it drifts and jumps. */
export interface YearRecord {
  points: YearPoint[]
  trend: Trend | null
  levels: Stretch[]
  change: YearChange | null
}

export interface YearSeries extends YearRecord {
  subject: YearSubject
}

/** How the latest level differs from the level of a year before it, or from the first where it drifted slowly. */
export interface YearChange {
  by: number
  /** When the reading was that it is compared with. */
  comparedWith: number
  /** First reading on the present level, where it jumped; null where it crept. */
  since: number | null
}

/** Of fewer points no change is said to be worth acting on. */
export const LEAST_JUDGED = 6

const YEAR_MS = 365.25 * 24 * 3600 * 1000
/** What is worth an operator's time, dB and |ρ|. */
const WORTH = { loss: 0.2, power: 0.5, swr: 0.08 }

/**
 * All series of one channel of a chain.
 *
 * @param rows in any order
 * @param places in the order of the spine
 */
export function yearSeries(rows: readonly RoundMean[], places: readonly string[]): YearSeries[] {
  const read = places.filter((place) => rows.some(({ before }) => before === place))
  const at = new Map(
    read.map((place) => [
      place,
      new Map(rows.filter(({ before }) => before === place).map((row) => [row.round, row])),
    ]),
  )
  const series: YearSeries[] = []
  const add = (subject: YearSubject, points: YearPoint[]) => {
    if (points.length > 0) series.push({ subject, ...recordOf(points, WORTH[subject.kind]) })
  }
  const [first] = read
  if (first !== undefined) add({ kind: 'power', at: first }, powerPoints(at.get(first)!))
  for (let i = 1; i < read.length; i++)
    add(
      { kind: 'loss', from: read[i - 1]!, to: read[i]! },
      lossPoints(at.get(read[i - 1]!)!, at.get(read[i]!)!),
    )
  for (const place of read) add({ kind: 'swr', at: place }, swrPoints(at.get(place)!))
  return series
}

type Means = ReadonlyMap<string, RoundMean>

const powerPoints = (means: Means): YearPoint[] =>
  [...means.values()].flatMap(({ at, round, forwardW, expectedW, lowW, highW }) =>
    forwardW && expectedW && lowW && highW
      ? [
          {
            at,
            round,
            value: 10 * Math.log10(forwardW / expectedW),
            expected: 0,
            low: 10 * Math.log10(lowW / expectedW),
            high: 10 * Math.log10(highW / expectedW),
          },
        ]
      : [],
  )

const lossPoints = (near: Means, far: Means): YearPoint[] =>
  [...near.values()].flatMap((from) => {
    const to = far.get(from.round)
    if (!to?.forwardW || !from.forwardW) return []
    const expected =
      from.expectedW && to.expectedW ? 10 * Math.log10(from.expectedW / to.expectedW) : null
    // Both places share the transmitter, which falls out; what is left is of the far one's size.
    const reach =
      to.lowW && to.highW && expected !== null ? (10 * Math.log10(to.highW / to.lowW)) / 2 : null
    return [
      {
        at: from.at,
        round: from.round,
        value: 10 * Math.log10(from.forwardW / to.forwardW),
        expected,
        low: reach === null ? null : expected! - reach,
        high: reach === null ? null : expected! + reach,
      },
    ]
  })

const swrPoints = (means: Means): YearPoint[] =>
  [...means.values()].flatMap(({ at, round, rho, expectedSwr, lowSwr, highSwr }) =>
    rho === null
      ? []
      : [
          {
            at,
            round,
            value: rho,
            expected: rhoOrNull(expectedSwr),
            low: rhoOrNull(lowSwr),
            high: rhoOrNull(highSwr),
          },
        ],
  )

const rhoOrNull = (swr: number | null): number | null => (swr === null ? null : rhoOfSwr(swr))

/**
 * @param unsorted in any order
 * @param worth a change that matters, in the unit of the figure
 */
export function recordOf(unsorted: readonly YearPoint[], worth: number): YearRecord {
  const points = [...unsorted].sort((a, b) => a.at - b.at)
  const values = points.map(({ value }) => value)
  const trend = trendOf(points.map(({ at, value }) => ({ year: at / YEAR_MS, value })))
  const levels = levelsOf(values)
  return { points, trend, levels, change: changeOf(worth, points, trend, levels) }
}

/** Worth saying only where it is large enough to matter and too large for chance. */
function changeOf(
  worth: number,
  points: readonly YearPoint[],
  trend: Trend | null,
  levels: readonly Stretch[],
): YearChange | null {
  const last = points.at(-1)
  if (!last || points.length < LEAST_JUDGED) return null
  const yearAgo = nearest(points, last.at - YEAR_MS)
  const now = levels.at(-1)!
  const then = levels.find(({ from, to }) => yearAgo >= from && yearAgo < to)!
  if (now !== then) {
    const by = now.level - then.level
    const left = points.slice(now.from).map(({ value }) => value - now.level)
    const sure = Math.abs(by) > (2 * robustDeviation(left)) / Math.sqrt(left.length)
    if (Math.abs(by) >= worth && sure)
      return { by, comparedWith: points[yearAgo]!.at, since: points[now.from]!.at }
  }
  if (!trend?.drifts) return null
  // What is too little in a year may be much over the whole record.
  for (const from of [yearAgo, 0]) {
    const { at } = points[from]!
    const by = (trend.slope * (last.at - at)) / YEAR_MS
    if (Math.abs(by) >= worth) return { by, comparedWith: at, since: null }
  }
  return null
}

function nearest(points: readonly YearPoint[], at: number): number {
  let best = 0
  points.forEach((point, i) => {
    if (Math.abs(point.at - at) < Math.abs(points[best]!.at - at)) best = i
  })
  return best
}

const monthNames = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
] as const

/**
 * “lately”, “in March”, “in March 2024”: how one speaks of a day that long ago, on either half of the earth.
 *
 * @example longAgoWords(0, 400 * 864e5) // 'in January 1970'
 */
export function longAgoWords(at: number, now: number): string {
  const then = new Date(at)
  const month = monthNames[then.getUTCMonth()]!
  const months = (now - at) / (YEAR_MS / 12)
  if (months < 3) return 'lately'
  return months < 10 ? `in ${month}` : `in ${month} ${then.getUTCFullYear()}`
}
