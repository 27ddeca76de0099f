/** Losses, power and SWR over the years. */
import { describe, expect, test } from 'vitest'
import { type RoundMean, longAgoWords, seeded, yearSeries } from '../src/index.ts'
import { normal } from '../src/statistics/random.ts'
import { trendOf } from '../src/statistics/trend.ts'

const month = (i: number) => Date.UTC(2024, i, 10)

/** Two places read every month, with what is done to the far one's loss and to both powers. */
function story(
  months: number,
  { lossDb, powerDb = () => 0 }: { lossDb: (i: number) => number; powerDb?: (i: number) => number },
  seed = 1,
): RoundMean[] {
  const random = seeded(seed)
  return Array.from({ length: months }, (_, i) => {
    const near = 25 * 10 ** ((powerDb(i) + 0.05 * normal(random)) / 10)
    const far = near * 10 ** (-(lossDb(i) + 0.05 * normal(random)) / 10)
    const row = (before: string, forwardW: number, expectedW: number): RoundMean => ({
      at: month(i),
      round: `r${i}`,
      before,
      powerW: 25,
      forwardW,
      rho: 0.1,
      expectedW,
      lowW: expectedW * 0.9,
      highW: expectedW * 1.1,
      expectedSwr: 1.22,
      lowSwr: 1.1,
      highSwr: 1.35,
    })
    return [row('a', near, 25), row('load', far, 25 * 10 ** -0.16)]
  }).flat()
}

const places = ['a', 'b', 'load']
const lossOf = (rows: RoundMean[]) =>
  yearSeries(rows, places).find(({ subject }) => subject.kind === 'loss')!

describe('series', () => {
  test('worked by hand: 25 W in, 17.3 W out are 1.6 dB, as expected', () => {
    const loss = lossOf(story(1, { lossDb: () => 1.6 }))
    expect(loss.subject).toEqual({ kind: 'loss', from: 'a', to: 'load' })
    expect(loss.points[0]!.expected).toBeCloseTo(1.6, 9)
    expect(loss.points[0]!.value).toBeCloseTo(1.6, 0)
    expect(loss.change).toBeNull()
  })

  test('power at the first place, loss between, reflection at both', () => {
    const kinds = yearSeries(story(3, { lossDb: () => 1 }), places).map(
      ({ subject }) => subject.kind,
    )
    expect(kinds).toEqual(['power', 'loss', 'swr', 'swr'])
  })

  test('a place without a partner in its round makes no loss', () => {
    const rows = story(4, { lossDb: () => 1 }).filter(
      ({ before, round }) => before === 'a' || round !== 'r2',
    )
    expect(lossOf(rows).points.map(({ round }) => round)).toEqual(['r0', 'r1', 'r3'])
  })
})

describe('changes', () => {
  test('a jump of 0.5 dB is dated and sized', () => {
    const { change, levels } = lossOf(story(30, { lossDb: (i) => (i < 21 ? 1.6 : 2.1) }))
    expect(levels).toHaveLength(2)
    expect(change!.by).toBeCloseTo(0.5, 1)
    expect(change!.since).toBe(month(21))
    expect(change!.comparedWith).toBe(month(17))
  })

  test('a slow creep is found as a drift or in steps', () => {
    const { change, trend } = lossOf(story(36, { lossDb: (i) => 1.6 + 0.03 * i }))
    expect(trend!.slope).toBeCloseTo(0.36, 1)
    expect(change!.by).toBeGreaterThan(0.2)
  })

  test('0.3 dB a year is little in one year and said of five', () => {
    const slow = lossOf(story(60, { lossDb: (i) => 1.6 + (0.15 * i) / 12 }))
    expect(Math.abs(slow.change!.by)).toBeGreaterThan(0.4)
    expect(slow.change!.comparedWith).toBe(month(0))
  })

  test.each([8, 12])(
    'of rows of mere noise %i readings long, one in twenty drifts at most',
    (n) => {
      const random = seeded(n)
      let drifting = 0
      for (let i = 0; i < 1000; i++) {
        const points = Array.from({ length: n }, (_, k) => ({ year: k / 4, value: normal(random) }))
        drifting += Number(trendOf(points)!.drifts)
      }
      expect(drifting / 1000).toBeLessThanOrEqual(0.05)
    },
  )

  test('a steady station raises no change in nineteen of twenty years', () => {
    let alarms = 0
    for (let seed = 1; seed <= 100; seed++)
      if (lossOf(story(30, { lossDb: () => 1.6 }, seed)).change) alarms++
    expect(alarms).toBeLessThanOrEqual(5)
  })

  test('less power everywhere is the radio, not the cable', () => {
    const series = yearSeries(
      story(30, { lossDb: () => 1.6, powerDb: (i) => (i < 24 ? 0 : -3) }),
      places,
    )
    expect(series.find(({ subject }) => subject.kind === 'power')!.change!.by).toBeCloseTo(-3, 0)
    expect(series.find(({ subject }) => subject.kind === 'loss')!.change).toBeNull()
  })
})

test('months as one speaks of them, on either half of the earth', () => {
  const now = Date.UTC(2026, 10, 20)
  expect(longAgoWords(Date.UTC(2026, 9, 20), now)).toBe('lately')
  expect(longAgoWords(Date.UTC(2026, 3, 20), now)).toBe('in April')
  expect(longAgoWords(Date.UTC(2026, 0, 20), now)).toBe('in January')
  expect(longAgoWords(Date.UTC(2024, 6, 20), now)).toBe('in July 2024')
})
