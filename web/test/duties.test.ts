import type { Duty } from '@saltline/contract'
import { describe, expect, test } from 'vitest'
import {
  beyondYear,
  dueNow,
  dueWords,
  dutiesSentence,
  howOften,
  placeOf,
  standing,
  yearByMonth,
} from '../src/model/duties.ts'

const TODAY = '2026-05-20'
const duty = (own: Partial<Duty>): Duty => ({
  ...{ id: 'd', title: 'Sealing', note: '', chainId: 'c', chain: 'Mast', task: { kind: 'plain' } },
  ...{ thingId: null, thing: null },
  ...{ months: 12, afterEvent: null, from: '2026-01-01', last: null, due: '2026-06-01' },
  ...{ because: null, ahead: [], stretchTo: null, marks: [] },
  ...own,
})

describe('how it stands', () => {
  test.each([
    ['2026-05-19', 'overdue', 'overdue since 19 May 2026'],
    ['2025-01-01', 'overdue', 'overdue since 1 Jan 2025'],
    ['2026-05-20', 'due', 'due today'],
    ['2026-05-21', 'soon', 'due tomorrow'],
    ['2026-06-19', 'soon', 'due in 30 days, on 19 Jun 2026'],
    ['2026-06-20', 'later', 'due on 20 Jun 2026'],
  ] as const)('due on %s', (due, stands, words) => {
    expect(standing({ due }, TODAY)).toBe(stands)
    expect(dueWords({ due, afterEvent: null }, TODAY)).toBe(words)
  })

  test('without a day it waits for its event', () => {
    expect(standing({ due: null }, TODAY)).toBe('waits')
    expect(dueWords({ due: null, afterEvent: 'storm' }, TODAY)).toBe('after the next storm')
  })

  test('days are counted over the change of summer time', () => {
    expect(dueWords({ due: '2026-03-30', afterEvent: null }, '2026-03-28')).toBe(
      'due in 2 days, on 30 Mar 2026',
    )
  })

  test.each([
    [1, null, 'every month'],
    [12, null, 'every year'],
    [6, 'storm', 'every 6 months, and after “storm” in the log'],
    [null, 'storm', 'after “storm” in the log'],
  ])('how often: %s, %s', (months, afterEvent, words) => {
    expect(howOften({ months, afterEvent })).toBe(words)
  })
})

describe('together', () => {
  const old = duty({ id: 'old', due: '2025-02-01', ahead: ['2027-05-20'] })
  const now = duty({ id: 'now', due: TODAY })
  const soon = duty({ id: 'soon', due: '2026-06-01' })
  const late = duty({ id: 'late', due: '2029-06-01' })
  const waits = duty({ id: 'waits', due: null, months: null, afterEvent: 'storm' })

  test('a sentence says the gravest', () => {
    expect(dutiesSentence([old, now, soon], TODAY)).toBe('1 overdue, 1 due today.')
    expect(dutiesSentence([now], TODAY)).toBe('1 due today.')
    expect(dutiesSentence([soon, waits], TODAY)).toBe(
      'Nothing is due. Next: Sealing, due in 12 days, on 1 Jun 2026.',
    )
    expect(dutiesSentence([waits], TODAY)).toBe('Nothing is due.')
  })

  test('the board tells what is overdue, due and soon due', () => {
    expect(dueNow([old, now, soon, late, waits], TODAY).map(({ id }) => id)).toEqual([
      'old',
      'now',
      'soon',
    ])
  })

  test('every duty stands in a month of the year or beyond it, never in both and never in neither', () => {
    const all = [old, now, soon, late, waits, duty({ id: 'edge', due: '2027-05-31' })]
    const months = yearByMonth(all, TODAY)
    expect(months.map(({ month }) => month)).toHaveLength(13)
    expect(months[0]!.name).toBe('May 2026')
    expect(months.at(-1)!.month).toBe('2027-05')
    const inYear = months.flatMap(({ occurrences }) =>
      occurrences.flatMap((each) => (each.next ? [each.duty.id] : [])),
    )
    const beyond = beyondYear(all, TODAY).map(({ id }) => id)
    expect([...inYear, ...beyond].sort()).toEqual(all.map(({ id }) => id).sort())
    expect(months[0]!.occurrences.map((each) => each.duty.id)).toEqual(['old', 'now'])
    expect(months.at(-1)!.occurrences.map((each) => [each.day, each.next])).toEqual([
      ['2027-05-20', false],
      ['2027-05-31', true],
    ])
  })
})

test('every kind has a place where it is done, but for plain words', () => {
  const at = (task: Duty['task']) => placeOf('s', { task, chainId: 'c', thingId: null })
  expect(at({ kind: 'sheet', sheetId: 'yearly' })).toBe('/station/s/chain/c/run?sheet=yearly')
  expect(at({ kind: 'bench', worksheet: 'two-meters' })).toBe('/station/s/bench?sheet=two-meters')
  // Of a thing it is begun on its page, which knows where it stands.
  expect(
    placeOf('s', {
      task: { kind: 'bench', worksheet: 'substitution' },
      ...{ chainId: null, thingId: 't' },
    }),
  ).toBe('/station/s/thing/t?measure=substitution')
  expect(at({ kind: 'reading' })).toBe('/station/s/chain/c/log')
  expect(at({ kind: 'reading', channelId: 'c4' })).toBe('/station/s/chain/c/log?channel=c4')
  expect(at({ kind: 'plain' })).toBeNull()
})
