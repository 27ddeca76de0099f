/** Readings of a session as the diagnosis takes them. */
import type { Reading, Station } from '@saltline/contract'
import { calibratedMeter, usualMeter, usualTolerances } from '@saltline/core'
import { describe, expect, test } from 'vitest'
import { caseOf } from '../src/lenses/log/caseOf.ts'
import { chainOfDocument } from '../src/model/answers.ts'
import { document } from './fixtures.ts'

const chain = chainOfDocument(document, undefined)!
const meter = {
  name: 'Heron',
  type: 'power meter',
  kind: 'averaging',
  rangesW: [20, 200],
  accuracy: 0.05,
}
const calibrated = {
  ...meter,
  name: 'Knot',
  calibration: {
    on: '2026-03-04',
    points: [
      [10, 9],
      [100, 96],
    ],
    doubt: 0.02,
    scatter: 0.01,
  },
}
const station = {
  gear: [
    { id: 'plain', kind: 'instrument', document: meter },
    { id: 'calibrated', kind: 'instrument', document: calibrated },
  ],
} as unknown as Station

const reading = (more: Partial<Reading> = {}): Reading =>
  ({
    before: 'a',
    place: 'at the radio',
    frequencyHz: 8.294e6,
    powerW: 50,
    mode: 'data',
    meanToPeak: null,
    instrumentId: 'plain',
    forwardW: 48,
    reflectedW: null,
    swr: null,
    rangeW: 200,
    farEnd: 'antenna',
    ...more,
  }) as Reading
const of = (...readings: Reading[]) => caseOf(station, document, chain, readings)!

describe('a session as a case', () => {
  test('where nothing was read on the chain as it stands there is none', () => {
    expect(caseOf(station, document, chain, [])).toBeNull()
    expect(caseOf(station, document, chain, [reading({ before: 'gone' })])).toBeNull()
    expect(of(reading({ before: 'gone' }), reading()).kase.readings).toHaveLength(1)
  })

  test('a calibrated meter is as good as its calibration says, one without as its maker says', () => {
    const { kase, names } = of(
      reading({ instrumentId: 'calibrated' }),
      reading(),
      reading({ instrumentId: null }),
      reading({ instrumentId: 'sold' }),
    )
    expect(kase.instruments[0]).toEqual(calibratedMeter(calibrated as never))
    expect(kase.instruments[0]).not.toMatchObject({ accuracy: 0.05 })
    expect(kase.instruments[1]).toEqual(calibratedMeter(meter as never))
    expect(kase.instruments.slice(2)).toEqual([usualMeter, usualMeter])
    expect(names.instruments).toEqual(['Knot', 'Heron', 'the meter', 'the meter'])
    expect(kase.readings.map(({ instrument }) => instrument)).toEqual([0, 1, 2, 3])
  })

  test('a lead that was swapped goes by its place in the chain; one that is gone, or taken back, is none', () => {
    const [first, second] = document.stages
    const swaps = { [second!.id]: 'same', [first!.id]: undefined, gone: 'right' } as const
    const { kase } = caseOf(station, document, chain, [reading()], [], [], swaps)!
    expect(kase.swaps).toEqual([{ stage: 1, cameRight: false }])
    const right = caseOf(station, document, chain, [reading()], [], [], { [first!.id]: 'right' })!
    expect(right.kase.swaps).toEqual([{ stage: 0, cameRight: true }])
  })

  test('frequency, power, mode and its average make an operating point, each once', () => {
    const { kase, pointsHz, own } = of(
      reading(),
      reading({ before: 'load' }),
      reading({ frequencyHz: 4e6 }),
      reading({ powerW: 25 }),
      reading({ mode: 'FM' }),
      reading({ mode: 'voice-plain', meanToPeak: 0.2 }),
      reading({ mode: 'voice-plain', meanToPeak: 0.4 }),
      reading({ farEnd: 'load' }),
    )
    expect(kase.readings.map(({ point }) => point)).toEqual([0, 0, 1, 2, 3, 4, 5, 6])
    expect(kase.channels.slice(0, 7).map(({ emission }) => emission.meanToPeak)).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
      0.2,
      0.4,
      undefined,
    ])
    expect(pointsHz.slice(0, 7)).toEqual([
      8.294e6, 4e6, 8.294e6, 8.294e6, 8.294e6, 8.294e6, 8.294e6,
    ])
    const c2 = { id: 'c2', powerW: 50 }
    expect(own.slice(0, 7)).toEqual([c2, null, c2, c2, c2, c2, c2])
  })

  test('each setting may be read into a load next, once, unless it was', () => {
    const loads = (...readings: Parameters<typeof reading>[0][]) =>
      of(...readings.map((each) => reading(each)))
        .kase.channels.filter(({ farEnd }) => farEnd === 'load')
        .map(({ frequencyHz, powerW }) => [frequencyHz, powerW])
    expect(loads({}, { powerW: 25 }, { frequencyHz: 4e6 })).toEqual([
      [8.294e6, 50],
      [8.294e6, 25],
      [4e6, 50],
    ])
    expect(loads({}, { farEnd: 'load' })).toEqual([[8.294e6, 50]])
  })

  test('of two channels on one frequency a point is that of its power', () => {
    const low = { ...document.channels[1]!, id: 'low', powerW: 5 }
    const more = { ...document, channels: [...document.channels, low] }
    const { own } = caseOf(station, more, chain, [reading({ powerW: 5 }), reading()])!
    expect(own.slice(0, 2)).toEqual([
      { id: 'low', powerW: 5 },
      { id: 'c2', powerW: 50 },
    ])
    const reduced = { ...more.transmitter, reduced: { powerW: 20, on: true } }
    const radio = { ...more, transmitter: reduced } as typeof more
    expect(caseOf(station, radio, chain, [reading({ powerW: 20 })])!.own.slice(0, 1)).toEqual([
      { id: 'c2', powerW: 20 },
    ])
  })

  test('what was not read is left open, and every reading has its place', () => {
    const { kase, names, places } = of(
      reading({ before: 'load', forwardW: null, swr: 1.4, place: 'at the Vee' }),
    )
    expect(kase.readings[0]).toMatchObject({ plane: 3, swr: 1.4, rangeW: 200 })
    expect(kase.readings[0]!.forwardW).toBeUndefined()
    expect(kase.readings[0]!.reflectedW).toBeUndefined()
    expect(names.readings[0]!.replaceAll('\u00a0', ' ')).toBe('at the Vee, 8.294 MHz')
    expect(names.stages).toEqual(['Lead', 'Meter', 'Run'])
    expect(places).toHaveLength(4)
  })

  test('tolerances are the chain’s, or the usual ones', () => {
    expect(of(reading()).kase.tolerances).toBe(usualTolerances)
    const own = { ...usualTolerances, source: 0.3 }
    const priors = { none: 0.5 } as never
    const having = caseOf(station, { ...document, tolerances: own, priors }, chain, [reading()])!
    expect(having.kase.tolerances).toBe(own)
    expect(having.kase.priors).toBe(priors)
  })
})
