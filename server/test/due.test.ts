import { execFileSync } from 'node:child_process'
import fc from 'fast-check'
import { DateTime } from 'luxon'
import { describe, expect, test } from 'vitest'
import { dayAfter, dayIn, daysAhead, dueOn, type Known, laterBy } from '../src/duties/due.ts'

const zones = [
  'Europe/Lisbon',
  'America/St_Johns',
  'Australia/Lord_Howe',
  'Pacific/Kiritimati',
  'America/Sao_Paulo',
  'Asia/Kathmandu',
] as const

const day = fc
  .integer({ min: 0, max: 40_000 })
  .map((n) => DateTime.utc(1990, 1, 1).plus({ days: n }).toFormat('yyyy-MM-dd'))
const months = fc.integer({ min: 1, max: 240 })

describe('a month is a month of the calendar', () => {
  test('by hand', () => {
    expect(laterBy('2026-01-31', 1)).toBe('2026-02-28')
    expect(laterBy('2028-01-31', 1)).toBe('2028-02-29')
    expect(laterBy('2026-08-31', 6)).toBe('2027-02-28')
    expect(laterBy('2028-02-29', 12)).toBe('2029-02-28')
    expect(dayAfter('2027-12-31')).toBe('2028-01-01')
  })

  test('as another library counts, for any day and number', () => {
    fc.assert(
      fc.property(day, months, (from, n) => {
        expect(laterBy(from, n)).toBe(DateTime.fromISO(from).plus({ months: n }).toISODate())
        expect(dayAfter(from)).toBe(DateTime.fromISO(from).plus({ days: 1 }).toISODate())
      }),
    )
  })

  test('wherever the machine stands', () => {
    const asked = ['2026-03-29', '2026-10-25', '2018-11-04', '2026-10-04', '2011-12-30']
    const expected = asked.map((from) => [laterBy(from, 1), dayAfter(from)])
    const said = execFileSync(
      process.execPath,
      [
        ...['--import', 'tsx', '--input-type=module', '-e'],
        `import { laterBy, dayAfter } from ${JSON.stringify(new URL('../src/duties/due.ts', import.meta.url).href)}
         const at = (zone) => {
           process.env.TZ = zone
           const days = ${JSON.stringify(asked)}.map((d) => [laterBy(d, 1), dayAfter(d)])
           return { stands: new Date(0).getTimezoneOffset(), days }
         }
         console.log(JSON.stringify(${JSON.stringify(zones)}.map(at)))`,
      ],
      { encoding: 'utf8' },
    )
    const there = JSON.parse(said) as { stands: number; days: [string, string][] }[]
    // It did stand there.
    expect(new Set(there.map(({ stands }) => stands)).size).toBeGreaterThan(3)
    expect(there.map(({ days }) => days)).toEqual(zones.map(() => expected))
  })
})

test('a moment belongs to the day of its zone, over changes of summer time too', () => {
  fc.assert(
    fc.property(
      fc.date({ min: new Date('1995-01-01'), max: new Date('2035-01-01'), noInvalidDate: true }),
      fc.constantFrom(...zones),
      (moment, zone) => {
        expect(dayIn(zone, moment)).toBe(DateTime.fromJSDate(moment, { zone }).toISODate())
      },
    ),
  )
})

describe('the next year', () => {
  test('has every time once, none twice, none left out', () => {
    fc.assert(
      fc.property(day, day, fc.integer({ min: 1, max: 24 }), (due, today, every) => {
        const ahead = daysAhead(due, every, today)
        const begin = due < today ? today : due
        const end = DateTime.fromISO(today).plus({ months: 12 }).toISODate()!
        expect([...new Set(ahead)]).toEqual(ahead)
        expect([...ahead].sort()).toEqual(ahead)
        for (const each of ahead) {
          expect(each > begin).toBe(true)
          expect(each <= end).toBe(true)
        }
        // Counted in another way: month by month.
        let counted = 0
        for (let k = every; k <= 13 * 12; k += every)
          if (DateTime.fromISO(begin).plus({ months: k }).toISODate()! <= end) counted++
        expect(ahead).toHaveLength(begin > end ? 0 : counted)
      }),
    )
  })

  test('has nothing of what waits for an event', () => {
    expect(daysAhead(null, 12, '2026-01-01')).toEqual([])
    expect(daysAhead('2026-01-01', null, '2026-01-01')).toEqual([])
  })
})

describe('a duty is due', () => {
  const usual: Known = {
    ...{ months: 12, from: '2026-03-01', last: null, event: null, putOff: null, sooner: null },
  }
  const cases: [string, Partial<Known>, string | null][] = [
    ['on its first day, where it was never done', {}, '2026-03-01'],
    ['so many months after it was done', { last: '2025-09-30' }, '2026-09-30'],
    ['long ago, where it was done long ago', { last: '2024-01-15' }, '2025-01-15'],
    [
      'sooner, where the record asks for it',
      { last: '2026-01-10', sooner: '2026-06-01' },
      '2026-06-01',
    ],
    ['after an event', { last: '2026-01-10', event: '2026-02-02' }, '2026-02-02'],
    [
      'not after an event that was seen to',
      { last: '2026-02-03', event: '2026-02-02' },
      '2027-02-03',
    ],
    ['not after an event of before', { months: null, event: '2026-02-28' }, null],
    ['after nothing, where only an event asks for it', { months: null }, null],
    [
      'later, where it was put off',
      { putOff: { until: '2026-05-01', said: '2026-03-02' } },
      '2026-05-01',
    ],
    [
      'as before, where it was put off to an earlier day',
      { putOff: { until: '2026-02-01', said: '2026-01-02' } },
      '2026-03-01',
    ],
    [
      'by its months again, once it was done after that',
      { last: '2026-03-05', putOff: { until: '2027-09-01', said: '2026-03-02' } },
      '2027-03-05',
    ],
    [
      'by a storm that came after it was put off',
      {
        ...{ months: null, from: '2026-01-01', event: '2026-04-01' },
        putOff: { until: '2026-12-01', said: '2026-03-02' },
      },
      '2026-04-01',
    ],
  ]
  test.each(cases)('%s', (_, known, expected) => {
    expect(dueOn({ ...usual, ...known })).toBe(expected)
  })

  const maybe = fc.option(day)
  const known: fc.Arbitrary<Known> = fc.record({
    months: fc.option(months),
    from: day,
    last: maybe,
    event: maybe,
    sooner: maybe,
    putOff: fc.option(fc.record({ until: day, said: day })),
  })

  test('never later for an event, never sooner for being put off, and never without a reason', () => {
    fc.assert(
      fc.property(known, (each) => {
        const due = dueOn(each)
        const without = dueOn({ ...each, putOff: null })
        if (without === null) expect(due).toBeNull()
        else expect(due! >= without).toBe(true)
        const calm = dueOn({ ...each, event: null, putOff: null })
        if (calm !== null) expect(without! <= calm).toBe(true)
        if (each.months !== null) expect(due).not.toBeNull()
        expect([
          ...[each.from, each.event, each.sooner, each.putOff?.until, null],
          each.last && each.months && laterBy(each.last, each.months),
        ]).toContain(due)
      }),
    )
  })

  test('later, never sooner, once it is done', () => {
    fc.assert(
      fc.property(known, day, (each, done) => {
        if (each.last !== null && done < each.last) return
        const before = dueOn({ ...each, sooner: null, putOff: null })
        const after = dueOn({ ...each, last: done, sooner: null, putOff: null })
        // What was done before it was due at all only counts from the day it was done.
        if (before !== null && after !== null && done >= before) expect(after >= before).toBe(true)
      }),
    )
  })
})
