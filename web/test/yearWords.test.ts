/** A figure over the years, in words. */
import type { LineSweepSummary } from '@saltline/contract'
import type { YearRecord } from '@saltline/core'
import { describe, expect, test } from 'vitest'
import { quantityOf, sweepYears, yearStory } from '../src/model/yearWords.ts'

const plain = (words: string) => words.replaceAll('\u00a0', ' ')
const day = (k: number) => Date.UTC(2024, k, 10)
const loss = quantityOf({ kind: 'loss', from: 'a', to: 'b' })
const swr = quantityOf({ kind: 'swr', at: 'a' })
const record = (own: Partial<YearRecord>, value = 1.2): YearRecord => ({
  points: Array.from({ length: 8 }, (_, k) => ({
    ...{ at: day(k), round: `${k}`, value, expected: null, low: null, high: null },
  })),
  ...{ trend: null, levels: [], change: null, ...own },
})
const trend = (slope: number, drifts: boolean) => ({
  ...{ slope, low: slope - 0.1, high: slope + 0.1, drifts },
  ...{ atFirst: 1, atLast: 1 },
})

describe('what a record says', () => {
  const said = (own: Partial<YearRecord>, as = loss, value?: number) =>
    plain(yearStory(record(own, value), as))
  test('a change first, with what it is compared with', () => {
    const step = { by: 0.5, comparedWith: day(0), since: day(5) }
    expect(said({ change: step })).toBe(
      '1.20 dB: 0.5 dB more than in January. Step change, seen by 10 Jun 2024.',
    )
    expect(said({ change: { ...step, by: -0.5, since: null } })).toBe(
      '1.20 dB: 0.5 dB less than in January. Gradual drift.',
    )
    // |ρ| 0.5 is an SWR of 3, 0.2 one of 1.5.
    expect(said({ change: { ...step, by: 0.3 } }, swr, 0.5)).toContain('SWR 3.00: up from SWR 1.50')
    expect(said({ change: { ...step, by: -0.3 } }, swr, 0.2)).toContain('down from SWR 3.00')
  })

  test('else its drift, or that there is none, or too little to say', () => {
    expect(said({})).toBe('1.20 dB last. Too few readings for a trend.')
    expect(said({ trend: trend(0.05, false) })).toBe(
      '1.20 dB last; no drift, +0.05 dB a year (−0.05 dB to +0.15 dB).',
    )
    expect(said({ trend: trend(-0.002, false) })).toContain('no drift, 0.00 dB a year (−0.10 dB')
    expect(said({ trend: trend(-0.2, true) })).toMatch(
      /last; −0\.20 dB .*, too little to act on yet/,
    )
    expect(said({ trend: trend(0, false) }, swr, 0.2)).toBe('SWR 1.50 last; steady.')
    const few = record({ trend: trend(-0.2, true) })
    expect(plain(yearStory({ ...few, points: few.points.slice(0, 4) }, loss))).toMatch(
      /last; it drifts, −0\.20 dB a year/,
    )
    const unsure = { ...few, trend: trend(-0.05, false), points: few.points.slice(0, 4) }
    expect(plain(yearStory(unsure, loss))).toMatch(/; too few readings to call it a drift\.$/)
  })
})

describe('sweeps of a chain over the years', () => {
  const about = (value: number, reach: number) => ({
    ...{ value, low: value - reach, high: value + reach },
  })
  const dipAt = (hz: number) => ({
    ...{ at: about(hz, 5e3), swr: about(1.5, 0.1), bandwidthHz: about(300e3, 1e4) },
  })
  const sweep = (k: number, own: Partial<LineSweepSummary>): LineSweepSummary => ({
    ...{ alone: false, id: `s${k}`, chainId: 'c', chainRevision: 1, before: 'desk' },
    ...{ place: 'input of Desk lead', farEnd: 'antenna', name: '', instrument: '', by: '' },
    ...{ readAt: `${2020 + k}-04-18T10:00:00.000Z`, weather: '', note: '', pointCount: 401 },
    ...{ lowHz: 2e6, highHz: 17e6 },
    figures: { dips: [dipAt(7.1e6 - 40e3 * k), dipAt(14.2e6)], extraLossDb: null, endM: null },
    ...own,
  })
  const titles = (sweeps: LineSweepSummary[], hz: number) =>
    sweepYears(sweeps, hz).map(({ title }) => plain(title))

  test('those that speak of the channel, from two sweeps on', () => {
    const years = [0, 1, 2, 3].map((k) => sweep(k, {}))
    expect(titles(years, 7e6)).toEqual([
      'Dip of the SWR near 6.98 MHz, input of Desk lead',
      'Least SWR near 6.98 MHz, input of Desk lead',
      'Band up to SWR 2 near 6.98 MHz, input of Desk lead',
    ])
    expect(titles(years, 14e6)).toHaveLength(3)
    expect(titles(years, 10e6)).toEqual([])
    // A dip 14 % off is about the channel, one 16 % off is not.
    expect(titles(years, 6.98e6 / 0.86)).toHaveLength(3)
    expect(titles(years, 6.98e6 / 0.84)).toEqual([])
    expect(titles(years.slice(0, 1), 7e6)).toEqual([])
    const [dip] = sweepYears(years, 7e6)
    expect(plain(yearStory(dip!.record, dip!.quantity))).toMatch(
      /^6\.98 MHz last; it drifts, −40 kHz a year/,
    )
    expect(dip!.quantity.shown(7e6)).toBe(7)
  })

  test('of a line without its antenna what it loses, on any channel', () => {
    const open = (k: number) =>
      sweep(k, {
        ...{ farEnd: 'open', alone: true, place: 'Duct run alone' },
        figures: { dips: [dipAt(7e6)], extraLossDb: about(0.1 * k, 0.05), endM: about(46, 0.1) },
      })
    expect(titles([open(0), open(1)], 7e6)).toEqual(['Loss over what was expected, Duct run alone'])
    const [loss] = sweepYears([open(0), open(1)], 7e6)
    expect(plain(yearStory(loss!.record, loss!.quantity))).toBe(
      '0.10 dB last, 0.00 dB before. Too few sweeps for a trend.',
    )
    // Another state is another row.
    expect(titles([open(0), { ...open(1), alone: false }], 7e6)).toEqual([])
  })
})
