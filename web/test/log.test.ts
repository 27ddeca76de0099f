import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { farEnds, placesOf, type Reading, type Station } from '@saltline/contract'
import { diagnose } from '@saltline/core'
import { caseOf } from '../src/lenses/log/caseOf.ts'
import { type DateOrder, readDate } from '@saltline/contract/table'
import { type ReadOptions, readingsFromText } from '@saltline/contract/table'
import { shareText } from '../src/model/share.ts'
import { document } from './fixtures.ts'

const skua = {
  id: 'skua',
  kind: 'instrument' as const,
  document: {
    name: 'Skua',
    type: 'power meter' as const,
    kind: 'peak' as const,
    rangesW: [],
    accuracy: 0.03,
  },
}
const channel = document.channels[0]!
const desk = { id: 'desk', document }
const table = (text: string, options: Partial<ReadOptions> = {}) => {
  const made = readingsFromText(text, {
    ...{ chains: [desk], chainId: desk.id, channelId: channel.id },
    ...{ instruments: [skua], order: 'day first', ...options },
  })
  return { ...made, readings: made.chains.flatMap(({ readings }) => readings) }
}
const read = (text: string, order: DateOrder = 'day first') => table(text, { order })

describe('a table of readings', () => {
  test('is understood by its headings; what is missing comes from the channel', () => {
    const { readings, problems, columns } = read(
      'where,forward W,reflected W,meter,moon phase\nat the radio,99,0.5,skua,full',
    )
    expect(problems).toEqual([])
    expect(columns.filter(({ as }) => as === null)).toEqual([{ heading: 'moon phase', as: null }])
    expect(readings[0]).toMatchObject({
      channelId: channel.id,
      frequencyHz: channel.frequencyHz,
      powerW: channel.powerW,
      before: document.stages[0]!.id,
      forwardW: 99,
      reflectedW: 0.5,
      instrumentId: 'skua',
    })
  })

  test('takes tabs and semicolons, units, commas in numbers, and the antenna by name', () => {
    const { readings, problems } = read('place\tforward\tswr\nantenna\t1,5 kW\t2')
    expect(problems).toEqual([])
    expect(readings[0]).toMatchObject({ before: 'load', forwardW: 1500, swr: 2 })
  })

  test('knows what was in the antenna’s place, and says what it does not know', () => {
    const { readings } = read('forward,far end\n50,Load\n50,\n50,antenna')
    expect(readings.map(({ farEnd }) => farEnd)).toEqual(['load', undefined, undefined])
    expect(read('forward,far end\n50,kite').problems).toEqual([
      { line: 2, message: '“kite” is no far end. Known are antenna, open, short, load.' },
    ])
  })

  test('finds the channel by its frequency, and keeps one that is none', () => {
    const mhz = channel.frequencyHz / 1e6
    const { readings } = read(`MHz,forward\n${mhz},50\n1.9,50`)
    expect(readings.map((r) => r.channelId)).toEqual([channel.id, undefined])
    expect(readings[1]!.frequencyHz).toBeCloseTo(1.9e6, 3)
  })

  test.each([
    ['watts\n5', 1, /No column is called “forward”/],
    ['forward\nmany', 2, /forward power “many”/],
    ['forward,when\n5,soon', 2, /“soon” is no date/],
    ['forward,when\n5,2099-04-18', 2, /2099-04-18 lies in the future/],
    ['forward,mode\n5,whistling', 2, /“whistling” is no mode/],
    ['forward,reflected\n5,9', 2, /turned round/],
  ])('%j is refused by its line', (text, line, words) => {
    const { readings, problems } = read(text)
    expect(readings).toEqual([])
    expect(problems[0]!.line).toBe(line)
    expect(problems[0]!.message).toMatch(words)
  })

  test.each([
    ['freq (kHz),forward (dBm)\n8294,50', { frequencyHz: 8.294e6, forwardW: 100 }],
    ['f/kHz;forward [mW]\n8294,5;250', { frequencyHz: 8.2945e6, forwardW: 0.25 }],
    ['frequency MHz,fwd kW\n8.294,1.5', { frequencyHz: 8.294e6, forwardW: 1500 }],
    ['forward,supply (mV)\n5,13800', { forwardW: 5, supplyV: 13.8 }],
    ['forward W;SWR\n99,5;2.10:1', { forwardW: 99.5, swr: 2.1 }],
    ['forward\n780 µW', { forwardW: 780e-6 }],
    ["forward,note\n5,'=1+1", { note: '=1+1' }],
  ])('%j: the units of the headings count', (text, expected) => {
    const { readings, problems } = read(text)
    expect(problems).toEqual([])
    expect(readings[0]).toMatchObject(expected)
  })

  test('says what each column was taken for, and shows the first rows as understood', () => {
    const { columns, understood } = read(
      'when,freq (kHz),forward (dBm),place\n2026-04-18,8294,50,antenna',
    )
    expect(columns.map(({ as }) => as)).toEqual([
      'date',
      'frequency in kHz',
      'forward power in dBm',
      'place',
    ])
    expect(understood[0]).toMatchObject({
      line: 2,
      read: expect.stringMatching(/^forward 100.W$/) as string,
      channel: expect.stringMatching(/^channel 8\.294.MHz/) as string,
    })
    expect(understood[0]!.when).toBe('18 Apr 2026')
  })

  test.each([
    ['forward (V)\n5', 1, /says V, which is no unit of forward power/],
    ['freq (dBm),forward\n5,5', 1, /says dBm, which is no unit of frequency/],
    ['forward;swr\n1,500;2', 2, /“1,500” may be 1.5 or 1500/],
    ['forward\n1 2', 2, /not a power/],
    ['forward,freq\n5,8294000', 2, /frequency/],
  ])('%j is questioned', (text, line, words) => {
    const { problems } = read(text)
    expect(problems[0]).toMatchObject({ line, message: expect.stringMatching(words) as string })
  })

  test('a column’s other figures decide what a comma is', () => {
    expect(read('forward;swr\n1,500;2\n21,5;2').readings[0]!.forwardW).toBe(1.5)
    expect(read('forward;swr\n1,500;2\n21.5;2').readings[0]!.forwardW).toBe(1500)
  })

  test('date and time may stand in two columns, the time in UTC', () => {
    const { readings, columns, understood } = read(
      'Date,Time (UTC),SWR\n2026-04-18,09:30,1.5\n18 Apr 2026,0930,1.5',
    )
    expect(readings.map(({ readAt }) => readAt)).toEqual(Array(2).fill('2026-04-18T09:30:00.000Z'))
    expect(columns.map(({ as }) => as)).toEqual(['date', 'time of day in UTC', 'SWR'])
    expect(read('date,swr\n2026-04-18,2').understood[0]!.when).toBe('18 Apr 2026')
    expect(understood[0]!.when).toMatch(/:30$/)
  })

  describe('the channel', () => {
    const two = {
      ...document,
      channels: [156.45e6, 156.625e6].map((frequencyHz, i) => ({
        ...channel,
        id: `v${i}`,
        frequencyHz,
      })),
    }
    const on = (text: string, own = two) =>
      table(text, { chains: [{ id: 'desk', document: own }], channelId: 'v0' })
    test('is the nearest one, not the first within reach', () => {
      expect(
        on('MHz,forward\n156.625,5\n156.6,5\n156.5,5').readings.map((r) => r.channelId),
      ).toEqual(['v1', 'v1', 'v0'])
    })
    test('is asked for where two are as near', () => {
      expect(on('MHz,forward\n156.5375,5').problems[0]!.message).toMatch(/as near to 156\.450/)
    })
    test('of two on one frequency is told by the mode, or by the desk', () => {
      const same = {
        ...two,
        channels: two.channels.map((c, i) => ({
          ...c,
          frequencyHz: 156.45e6,
          mode: i === 0 ? ('FM' as const) : ('data' as const),
        })),
      }
      expect(on('MHz,forward,mode\n156.45,5,data', same).readings[0]!.channelId).toBe('v1')
      expect(on('MHz,forward\n156.45,5', same).readings[0]!.channelId).toBe('v0')
    })
  })

  test('a place is named in full, by whole words, or by its plane; “a” is none', () => {
    const places = placesOf(document)
    for (const { before, name, plane } of places) {
      expect(read(`forward,where\n5,${name}`).readings[0]!.before).toBe(before)
      expect(read(`forward,where\n5,plane ${plane}`).readings[0]!.before).toBe(before)
    }
    expect(read('forward,where\n5,input').unknown[0]!.message).toMatch(/may be input of/)
    // As logs of earlier versions name it.
    expect(read('forward,where\n5,before Meter').readings[0]!.before).toBe('b')
  })

  test('any text at all is read in time and refused with reasons', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.array(
            fc.oneof(
              fc.string({ maxLength: 12 }),
              fc.constantFrom('forward', 'SWR', '5', '1,500', '__proto__'),
            ),
            {
              maxLength: 5,
            },
          ),
          { maxLength: 6 },
        ),
        fc.constantFrom(',', ';', '\t'),
        (rows, separator) => {
          const { readings, problems } = read(rows.map((row) => row.join(separator)).join('\n'))
          for (const { message } of problems) expect(message.length).toBeGreaterThan(5)
          for (const { forwardW = 0 } of readings) expect(Number.isFinite(forwardW)).toBe(true)
        },
      ),
    )
    expect(read(`forward\n${'9'.repeat(50_000)}`).problems).toHaveLength(1)
    expect(read(`${'\t'.repeat(5000)}\n5`).problems).toHaveLength(1)
  })

  test('one bad line does not hide the others', () => {
    const { readings, problems } = read('forward\n5\nmany\n7')
    expect(readings).toHaveLength(2)
    expect(problems.map(({ line }) => line)).toEqual([3])
  })
})

describe('names that the station does not know', () => {
  const other = { id: 'other', document: { ...document, name: 'Mast run' } }
  const chains = [desk, other]
  const rows = 'chain,where,meter,forward\nMast run,attic,Gannet,5\nmast run,Attic,Gannet,6'

  test('are asked for once each, with what could be meant, and chosen for', () => {
    const asked = table(rows, { chains })
    expect(asked.problems).toEqual([])
    expect(asked.unknown).toMatchObject([
      { message: expect.stringMatching(/“Gannet” is no instrument/), line: 2, count: 2 },
    ])
    const choices = { [asked.unknown[0]!.key]: 'none' }
    const [place] = table(rows, { chains, choices }).unknown
    expect(place!.message).toMatch(/“attic” is no place on Mast run. Known are at the radio/)
    expect(place!.options.map(({ value }) => value)).toEqual(
      placesOf(document).map(({ before }) => before),
    )
    const chosen = { ...choices, [place!.key]: 'load' }
    const read = table(rows, { chains, choices: chosen })
    expect(read.unknown).toEqual([])
    expect(read.chains).toMatchObject([{ chainId: 'other', name: 'Mast run' }])
    expect(read.readings).toMatchObject([
      { before: 'load', forwardW: 5 },
      { before: 'load', forwardW: 6 },
    ])
    expect(read.readings[0]!.instrumentId).toBeUndefined()
    const out = table(rows, { chains, choices: { [asked.unknown[0]!.key]: 'leave out' } })
    expect(out).toMatchObject({ count: 0, leftOut: 2, unknown: [], problems: [] })
  })

  test('a chain by its name or identity; without one, the desk’s', () => {
    const of = (text: string) => table(text, { chains }).chains.map(({ chainId }) => chainId)
    expect(of('forward\n5')).toEqual(['desk'])
    expect(of('chain,forward\n,5\nMAST RUN,5')).toEqual(['desk', 'other'])
    expect(of('chain,chain id,forward\nrenamed,other,5')).toEqual(['other'])
    expect(table('chain,forward\nAttic,5', { chains }).unknown[0]!.options).toEqual([
      { value: 'desk', label: document.name },
      { value: 'other', label: 'Mast run' },
    ])
    // A choice for something that went meanwhile is none.
    const choices = { 'chain Attic': 'gone' }
    expect(table('chain,forward\nAttic,5', { chains, choices }).unknown).toHaveLength(1)
  })
})

test('a log of ours comes back as it was, figure by figure', () => {
  const figure = fc
    .double({ min: 1e-9, max: 9e5, noNaN: true })
    .map((x) => Number(x.toPrecision(15)))
  const few = figure.map((x) => Number(x.toPrecision(6)))
  const text = fc.stringMatching(/^(|[=+@'-]?[a-z "',;\n]{0,12}[a-z])$/)
  const some = <T>(one: fc.Arbitrary<T>) => fc.option(one, { nil: null })
  const { stages, channels } = document
  const row = fc.record({
    at: fc.date({ min: new Date('1990-01-01'), max: new Date('2026-01-01'), noInvalidDate: true }),
    channelId: some(fc.constantFrom(...channels.map(({ id }) => id))),
    hz: fc.integer({ min: 2e6, max: 5e8 }),
    before: fc.constantFrom(...stages.map(({ id }) => id), 'load'),
    farEnd: fc.constantFrom(...farEnds),
    forward: figure,
    share: fc.double({ min: 0, max: 0.99, noNaN: true }),
    shown: some(figure),
    swr: some(few.map((x) => 1 + x / 1e4)),
    expected: some(few),
    swrExpected: some(few.map((x) => 1 + x)),
    inside: fc.boolean(),
    place: fc.constantFrom('at the radio', 'input of Meter, then'),
    texts: fc.tuple(
      text,
      text.map((t) => t.replaceAll('\n', ' ')),
    ),
    skua: fc.boolean(),
  })
  const guard = (t: string) => (/^[=+\-@\t\r]/.test(t) ? `'${t}` : t)
  const cell = (value: string | number | null) =>
    value === null ? '' : `"${guard(String(value)).replaceAll('"', '""')}"`
  const heads =
    'read at,chain,chain id,channel id,frequency MHz,mode,mean over peak,set power W,place,before,far end,forward W,reflected W,shown forward W,shown reflected W,SWR,range W,instrument,instrument id,supply V,expected W,"expected W, 5 %","expected W, 95 %",expected SWR,"expected SWR, 5 %","expected SWR, 95 %",inside,weather,by,note'
  fc.assert(
    fc.property(fc.array(row, { minLength: 1, maxLength: 4 }), (rows) => {
      const reflected = ({ forward, share }: (typeof rows)[0]) =>
        Number((forward * share * 0.999).toPrecision(15))
      const lines = rows.map((r) =>
        [
          ...[r.at.toISOString(), 'whatever', 'desk', r.channelId, r.hz / 1e6, 'FM', null, 100],
          ...[r.place, r.before, r.farEnd, r.forward, reflected(r), r.shown, null, r.swr, null],
          ...[r.skua ? 'Old name' : '', r.skua ? 'skua' : null, 13.8],
          ...[r.expected, r.expected, r.expected, r.swrExpected, r.swrExpected, r.swrExpected],
          ...[r.inside ? 'yes' : 'no', r.texts[1], '', r.texts[0]],
        ]
          .map(cell)
          .join(','),
      )
      const made = table([heads, ...lines].join('\r\n') + '\r\n')
      expect(made.problems).toEqual([])
      expect(made.asKept).toBe(true)
      rows.forEach((r, i) => {
        const reading = made.readings[i]!
        expect(reading).toMatchObject({
          readAt: r.at.toISOString(),
          frequencyHz: r.hz,
          before: r.before,
          forwardW: r.forward,
          reflectedW: reflected(r),
          supplyV: 13.8,
          kept: {
            ...{ place: r.place, instrument: r.skua ? 'Old name' : '', inside: r.inside },
            ...{ shownForwardW: r.shown, shownReflectedW: null },
            ...{ expectedW: r.expected, lowW: r.expected, highW: r.expected },
            ...{ expectedSwr: r.swrExpected, lowSwr: r.swrExpected, highSwr: r.swrExpected },
          },
        })
        expect(reading.farEnd ?? 'antenna').toBe(r.farEnd)
        expect([reading.swr ?? null, reading.channelId ?? null]).toEqual([r.swr, r.channelId])
        expect([reading.note ?? '', reading.weather ?? '']).toEqual(r.texts.map((t) => t.trim()))
        expect(reading.instrumentId).toBe(r.skua ? 'skua' : undefined)
      })
    }),
    { numRuns: 300 },
  )
})

describe('a round as a case', () => {
  const station = { gear: [skua], chains: [] } as unknown as Station
  const chain = {
    transmitter: document.transmitter,
    stages: document.stages,
    load: { kind: 'fixed' as const, rOhm: 50, xOhm: 0 },
  }
  const reading = (before: string, forwardW: number): Reading =>
    ({
      id: before,
      before,
      place: before,
      forwardW,
      reflectedW: 0,
      swr: null,
      rangeW: null,
      instrumentId: 'skua',
      frequencyHz: channel.frequencyHz,
      powerW: 100,
      mode: 'FM',
      meanToPeak: null,
    }) as unknown as Reading

  test('readings find their planes, one operating point and one instrument', () => {
    const [first, second] = document.stages
    const made = caseOf(station, document, chain, [
      reading(first!.id, 50),
      reading(second!.id, 49),
    ])!
    expect(made.kase.readings.map(({ plane }) => plane)).toEqual([0, 1])
    expect(made.kase.channels.filter(({ farEnd }) => farEnd !== 'load')).toHaveLength(1)
    expect(made.names.instruments).toEqual(['Skua'])
    const { explanations } = diagnose(made.kase)
    expect(explanations.slice(0, 2).map(({ cause }) => cause.kind)).toContain('transmitter')
  })

  test('a place that the chain has lost counts no more', () => {
    expect(caseOf(station, document, chain, [reading('gone', 50)])).toBeNull()
  })

  test('places run from the radio to the antenna', () => {
    const places = placesOf(document)
    expect(places[0]!.name).toBe('at the radio')
    expect(places.at(-1)!.before).toBe('load')
    expect(places).toHaveLength(document.stages.length + 1)
  })
})

test('nothing is ever quite certain', () => {
  expect(shareText(0.9999)).toBe('over 99\u00a0%')
  expect(shareText(0.5)).toBe('50\u00a0%')
})

describe('a written date', () => {
  const local = (text: string, order: DateOrder = 'day first') => {
    const read = readDate(text, order)
    return (
      read && [read.at.getFullYear(), read.at.getMonth() + 1, read.at.getDate(), read.at.getHours()]
    )
  }
  test.each([
    ['05.04.2026', [2026, 4, 5, 12]],
    ['18.04.2026', [2026, 4, 18, 12]],
    ['18.4.2026 09:30', [2026, 4, 18, 9]],
    ['2026-04-18', [2026, 4, 18, 12]],
    ['2026-04-18 09:30', [2026, 4, 18, 9]],
    ['05/04/2026', [2026, 4, 5, 12]],
    ['18/04/2026', [2026, 4, 18, 12]],
    ['4/18/2026 9:30 AM', [2026, 4, 18, 9]],
    ['18 Apr 2026', [2026, 4, 18, 12]],
    ['April 18, 2026', [2026, 4, 18, 12]],
    ['18.4.2026 0930', [2026, 4, 18, 9]],
    ['2026-04-18 0930', [2026, 4, 18, 9]],
  ])('%s', (text, expected) => expect(local(text)).toEqual(expected))

  test('slashes are read in the order that is chosen, and said to be either', () => {
    expect(local('05/04/2026', 'month first')).toEqual([2026, 5, 4, 12])
    expect(readDate('05/04/2026', 'day first')!.either).toBe(true)
    expect(readDate('18/04/2026', 'month first')!.either).toBe(false)
    expect(local('18/04/2026', 'month first')).toEqual([2026, 4, 18, 12])
    // Dots never have the month first.
    expect(local('05.04.2026', 'month first')).toEqual([2026, 4, 5, 12])
  })

  test('in UTC where the column says so; a zone in the text goes first, a bare day stays that day', () => {
    const at = (text: string) => readDate(text, 'day first', true)!.at
    expect(at('18.4.2026 09:30').toISOString()).toBe('2026-04-18T09:30:00.000Z')
    expect(at('2026-04-18T09:30:00+02:00').toISOString()).toBe('2026-04-18T07:30:00.000Z')
    expect(at('18.4.2026').getDate()).toBe(18)
  })

  test('a zone in the text counts', () => {
    expect(readDate('2026-04-18T09:30:00Z', 'day first')!.at.toISOString()).toBe(
      '2026-04-18T09:30:00.000Z',
    )
    expect(readDate('2026-04-18 09:30 +02:00', 'day first')!.at.toISOString()).toBe(
      '2026-04-18T07:30:00.000Z',
    )
  })

  test.each([
    '31.02.2026',
    '2026-13-01',
    '32/01/2026',
    '13/13/2026',
    'soon',
    '',
    '20260418',
    '1'.repeat(99),
  ])('%j is no date', (text) => expect(readDate(text, 'day first')).toBeNull())
})
