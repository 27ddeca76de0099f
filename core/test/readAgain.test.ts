import { describe, expect, test } from 'vitest'
import { readAgain, staysFor, yearsOf, type YearSeries } from '../src/index.ts'

const YEAR_MS = 365.25 * 24 * 3600 * 1000
const series = (
  years: number,
  [slope, low, high, drifts]: [number, number, number, boolean],
  by: number | null = null,
): Pick<YearSeries, 'points' | 'trend' | 'change'> => ({
  points: Array.from({ length: 9 }, (_, i) => ({
    ...{ at: (i / 8) * years * YEAR_MS, round: `r${i}`, value: 1 },
    ...{ expected: null, low: null, high: null },
  })),
  trend: { slope, low, high, drifts, atFirst: 0, atLast: 0 },
  change: by === null ? null : { by, comparedWith: 0, since: null },
})
/** Years after the last reading. */
const after = (years: number, own: ReturnType<typeof series>) =>
  (readAgain(own, 0.5)!.at - years * YEAR_MS) / YEAR_MS

describe('a figure is read again, by hand', () => {
  test('at 0.2 dB a year after 2.5 years, and after half a year where 0.4 dB are there', () => {
    expect(after(2, series(2, [0.2, 0.15, 0.25, true]))).toBeCloseTo(2.5, 9)
    expect(after(2, series(2, [0.2, 0.15, 0.25, true], 0.4))).toBeCloseTo(0.5, 9)
    // What has reached 0.5 dB is known: the next step as large.
    expect(after(2, series(2, [0.2, 0.15, 0.25, true], 0.7))).toBeCloseTo(2.5, 9)
    expect(readAgain(series(2, [0.2, 0.15, 0.25, true]), 0.5)!.why).toBe('change')
  })

  test('known to 0.5 dB a year either way, after a year', () => {
    const own = series(2, [0, -0.5, 0.5, false])
    expect(after(2, own)).toBeCloseTo(1, 9)
    expect(readAgain(own, 0.5)!.why).toBe('uncertainty')
  })

  test('not within a month, and not by a record that is short or still', () => {
    expect(after(2, series(2, [50, 49, 51, true]))).toBeCloseTo(1 / 12, 9)
    expect(readAgain(series(0.4, [50, 49, 51, true]), 0.5)).toBeNull()
    expect(readAgain(series(2, [0, 0, 0, false]), 0.5)).toBeNull()
    const few = series(2, [50, 49, 51, true])
    expect(readAgain({ ...few, points: few.points.slice(4) }, 0.5)).toBeNull()
  })
})

test('it stays where both ends of the range stay, and nothing drifts', () => {
  expect(staysFor(series(4, [0, -0.1, 0.2, false]), 0.5, 2)).toBe(true)
  expect(staysFor(series(4, [0, -0.3, 0.2, false]), 0.5, 2)).toBe(false)
  expect(staysFor(series(4, [0.05, 0.01, 0.1, true]), 0.5, 2)).toBe(false)
  expect(yearsOf(series(4, [0, 0, 0, false]))).toBeCloseTo(4, 9)
  expect(yearsOf({ points: [] })).toBe(0)
})
