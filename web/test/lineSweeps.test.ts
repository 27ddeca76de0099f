import { usualAnalyser } from '@saltline/core'
import type { LineSweepSummary } from '@saltline/contract'
import type { SweepFigures } from '@saltline/core'
import { describe, expect, test } from 'vitest'
import {
  analyserWords,
  driftWords,
  sessionSweeps,
  sinceWords,
  sweepAnswer,
  sweepFacts,
} from '../src/model/lineSweeps.ts'

const plain = (words: string) => words.replaceAll('\u00a0', ' ')
const about = (value: number, reach: number) => ({ value, low: value - reach, high: value + reach })
const figures = (hz: number, swr = 1.3): SweepFigures => ({
  dips: [{ at: about(hz, 5e3), swr: about(swr, 0.02), bandwidthHz: about(200e3, 9e3) }],
  ...{ extraLossDb: null, endM: null },
})
const open = (lossDb: number): SweepFigures => ({
  ...{ dips: [], extraLossDb: about(lossDb, 0.05), endM: about(50, 0.1) },
})
const sweep = (own: Partial<LineSweepSummary>): LineSweepSummary => ({
  ...{
    alone: false,
    id: 's',
    chainId: 'c',
    chainRevision: 1,
    before: 'desk',
    place: 'input of Desk lead',
  },
  ...{ farEnd: 'antenna', readAt: '2026-04-18T10:00:00.000Z', name: '', instrument: '', by: '' },
  ...{ weather: '', note: '', pointCount: 401, lowHz: 2e6, highHz: 17e6, figures: figures(7e6) },
  ...own,
})

test('what a sweep came to: of an antenna its dips, of an open line its end and its loss', () => {
  expect(plain(sweepFacts(sweep({}), 'm'))).toBe('SWR 1.30 at 7.00 MHz')
  const line = sweep({ farEnd: 'open', figures: open(0.31) })
  expect(plain(sweepFacts(line, 'm'))).toBe('end at 50 m, 0.31 dB more loss than expected')
  const near = sweep({ farEnd: 'open', figures: open(0.03) })
  expect(plain(sweepFacts(near, 'm'))).toBe('end at 50 m, loss as expected (± 0.05 dB)')
  const less = sweep({ farEnd: 'open', figures: open(-0.06) })
  expect(plain(sweepFacts(less, 'm'))).toBe('end at 50 m, 0.06 dB less loss than expected')
  expect(
    sweepFacts(sweep({ farEnd: 'short', figures: { ...open(0), endM: null } }), 'm'),
  ).toContain('no end seen')
  const load = sweep({ farEnd: 'load', figures: { dips: [], extraLossDb: null, endM: null } })
  expect(sweepFacts(load, 'm')).toBe('')
})

test('what moved is said with its range, and what did not move by more than that is not', () => {
  const words = sinceWords({ figures: figures(7e6) }, figures(6.95e6), 'antenna', 'm').map(plain)
  // Half-ranges of 5 kHz each: √(10² + 10²)/2.
  expect(words).toEqual(['the dip at 6.95 MHz moved down by 50 kHz (± 7.1 kHz)'])
  expect(sinceWords({ figures: figures(7e6) }, figures(7.003e6), 'antenna', 'm')).toEqual([])
  const lossy = sinceWords({ figures: open(0.1) }, open(0.5), 'open', 'm').map(plain)
  expect(lossy).toEqual(['the line loses 0.40 dB more (± 0.07 dB)'])
})

test('a drift over the years, of one place in one state alone', () => {
  const years = [0, 1, 2, 3, 4].map((k) =>
    sweep({ readAt: `${2022 + k}-04-18T10:00:00.000Z`, figures: figures(7e6 - 20e3 * k) }),
  )
  const [first, ...rest] = driftWords(years, 'm').map(plain)
  expect(first).toMatch(
    /^input of Desk lead: the dip at 6\.92 MHz moves down by 20 kHz a year, over 5 sweeps\.$/,
  )
  expect(rest).toEqual([])
  const mixed = years.map((each, k) => (k % 2 === 0 ? each : { ...each, before: 'duct' }))
  expect(driftWords(mixed, 'm')).toEqual([])
})

test('where it is other than expected is said first, but for a place that reflects', () => {
  const along: Parameters<typeof sweepAnswer>[0] = {
    ...{ distanceM: new Float64Array(2), measured: new Float64Array(2) },
    ...{ expected: new Float64Array(2), placesM: [0, 4, 50], resolutionM: 1, unambiguousM: 200 },
    ...{ lowPass: false, endKnown: true, findings: [], end: null, endHeight: 0.8 },
    outside: { lowHz: 7e6, highHz: 7.2e6, measured: 0.5, low: 0.1, high: 0.2 },
  }
  const stages = [{ name: 'Desk lead' }, { name: 'Duct run' }]
  const other = 'Other than expected from 7.00 MHz to 7.20 MHz: SWR 3.00, expected 1.22 to 1.50.'
  const said = (own: Partial<typeof along>, farEnd: 'antenna' | 'load' = 'antenna') =>
    sweepAnswer({ ...along, ...own }, stages, farEnd, 'm').map(plain)
  expect(said({})).toEqual([other, 'No place along the 50 m reflects more.'])
  const joint = { atM: 4, measured: 0.2, expected: 0.01, stage: 1, atJoint: true, rises: null }
  const [first, second] = said({ findings: [joint] })
  expect(first).toContain('at the input of Duct run')
  expect(second).toBe(other)
  expect(said({ findings: [{ ...joint, rises: true }] })[0]).toMatch(
    /; the impedance rises there\.$/,
  )
  expect(said({ findings: [{ ...joint, rises: false }] })[0]).toMatch(
    /; the impedance falls there\.$/,
  )
  // What the antenna reflects is nothing to a sweep without it.
  expect(said({}, 'load')).toEqual(['As expected along all 50 m.'])
  expect(said({ outside: null })).toEqual(['As expected along all 50 m.'])
})

describe('sweeps of a session', () => {
  const at = (hours: number) => ({
    readAt: new Date(Date.UTC(2026, 3, 18, 12) + hours * 36e5).toISOString(),
  })
  test('are those within half a day of a reading, the newest three first', () => {
    const [early, before, after, late] = [at(-12.1), at(-11.9), at(11.9), at(12.1)]
    expect(sessionSweeps([early, before, after, late], [at(0)])).toEqual([after, before])
    expect(sessionSweeps([late], [at(0), at(6)])).toEqual([late])
    const many = [1, 2, 3, 4].map(at)
    expect(sessionSweeps(many, [at(0)])).toEqual([at(4), at(3), at(2)])
    expect(sessionSweeps(many, [])).toEqual([])
  })
})

test('how far an analyser may be off, in one line', () => {
  const own = { directivityDb: 26, sourceMatchDb: 30, noiseDb: 70 }
  expect(plain(analyserWords(own))).toBe(
    'Analyser: directivity 26 dB, source match 30 dB, noise −70 dB',
  )
  expect(analyserWords(usualAnalyser)).toMatch(/, typical$/)
  expect(analyserWords({ ...usualAnalyser, noiseDb: 60 })).not.toContain('typical')
})
