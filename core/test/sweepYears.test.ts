/** What sweeps of one place say over the years. */
import { describe, expect, test } from 'vitest'
import { sweepRecords } from '../src/index.ts'
import type { SweepFigures } from '../src/sweep/figures.ts'

const about = (value: number, reach: number) => ({ value, low: value - reach, high: value + reach })
/** A dip of SWR 3, which is |ρ| 0.5, and an open end of some loss. */
const figures = (dipHz: number, lossDb = 0): SweepFigures => ({
  dips: [{ at: about(dipHz, 5e3), swr: about(3, 0.1), bandwidthHz: null }],
  ...{ extraLossDb: about(lossDb, 0.05), endM: about(46, 0.1) },
})
const year = (k: number) => Date.UTC(2016 + k, 3, 18)
const kept = (k: number, own: SweepFigures) => ({ id: `s${k}`, at: year(k), figures: own })
const recordsOf = (of: (k: number) => SweepFigures, years: number) =>
  sweepRecords(Array.from({ length: years }, (_, k) => kept(k, of(k))))

describe('sweeps over the years', () => {
  test('each figure of the newest, in the order of time, with the range of the newest', () => {
    const records = sweepRecords([kept(1, figures(7.1e6)), kept(0, figures(7e6))])
    expect(records.map(({ name }) => name)).toEqual(['dip', 'swr', 'loss', 'end'])
    const [dip, swr] = records
    expect(dip!.points.map(({ at, value }) => [at, value])).toEqual([
      [year(0), 7e6],
      [year(1), 7.1e6],
    ])
    expect([dip!.nearHz, dip!.low, dip!.high]).toEqual([7.1e6, 7.095e6, 7.105e6])
    expect(swr!.points.map(({ value }) => value)).toEqual([0.5, 0.5])
  })

  test('a dip that wanders far is followed from sweep to sweep; another one is not it', () => {
    // 3 % a year: after ten years it lies at three quarters of where it was.
    const [dip] = recordsOf((k) => figures(7e6 * 0.97 ** k), 10)
    expect(dip!.points).toHaveLength(10)
    const [jumped] = recordsOf((k) => figures(k < 5 ? 7e6 : 7.4e6), 10)
    expect(jumped!.points.map(({ at }) => at)).toEqual([5, 6, 7, 8, 9].map(year))
  })

  test('a drift and a step are told, and what is too little is not', () => {
    const [drifts] = recordsOf((k) => figures(7e6 - 12e3 * k), 8)
    expect(drifts!.trend!.drifts).toBe(true)
    expect(drifts!.trend!.slope).toBeCloseTo(-12e3, -2)
    // Half a per cent of 6.9 MHz is 35 kHz: seen over the whole record, not from one year to the next.
    expect(drifts!.change).toMatchObject({ comparedWith: year(0), since: null })
    // Every quarter: the last three are on another level than a year before.
    const quarter = (k: number) => Date.UTC(2020, 3 * k, 18)
    const loss = sweepRecords(
      Array.from({ length: 12 }, (_, k) => ({
        ...kept(k, figures(7e6, k < 9 ? 0.01 * (k % 2) : 0.5)),
        at: quarter(k),
      })),
    ).find(({ name }) => name === 'loss')!
    expect(loss.change).toMatchObject({ since: quarter(9), comparedWith: quarter(7) })
    expect(loss.change!.by).toBeCloseTo(0.5, 1)
    const still = recordsOf(() => figures(7e6), 12)
    for (const { change } of still) expect(change).toBeNull()
  })
})
