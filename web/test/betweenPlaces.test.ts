import type { Reading, Station } from '@saltline/contract'
import { describe, expect, test } from 'vitest'
import { answerChannel, chainOfDocument } from '../src/model/answers.ts'
import { betweenPlaces, endReadings } from '../src/model/betweenPlaces.ts'
import type { LiveNow } from '../src/platform/api/live.ts'
import { document } from './fixtures.ts'

const channel = document.channels[1]!
const answer = answerChannel(chainOfDocument(document, undefined)!, document.transmitter, channel)
if (!answer.ok) throw new Error(answer.message)
const gear = [
  {
    id: 'peak',
    kind: 'instrument',
    document: {
      name: 'Peak meter',
      type: 'power meter',
      kind: 'peak',
      rangesW: [],
      accuracy: 0.05,
    },
  },
]
const station = { gear } as unknown as Station
const known = { station, document, channel, answer }
const forward = (plane: number) => answer.solution.planes[plane]!.forwardW

const reading = (before: string, forwardW: number, more: Partial<Reading> = {}) =>
  ({
    before,
    forwardW,
    channelId: 'c2',
    instrumentId: null,
    by: '',
    mode: 'data',
    meanToPeak: null,
    powerW: 50,
    farEnd: 'antenna',
    ...more,
  }) as Reading
const live = (plane: number, forwardW: number, more: object = {}): LiveNow => ({
  latest: { plane, forwardW, seenAt: '', ...more },
  silentS: 0,
  lost: false,
  trend: [],
})

describe('between the places', () => {
  test('what is read as expected is lost as expected', () => {
    const ends = endReadings(known, [], [live(0, forward(0)), live(3, forward(3))])
    const [between] = betweenPlaces(known, ends)
    expect(between!.measuredDb).toBeCloseTo(between!.expectedDb, 2)
    // 50 m of cable and a meter, by hand from its two constants.
    const perMetre = (1.45 * Math.sqrt(8.294) + 0.006 * 8.294) / 100
    expect(between!.expectedDb).toBeCloseTo(50 * perMetre + 0.1, 1)
  })

  test('half of the power more lost is 3.01 dB more', () => {
    const ends = endReadings(known, [], [live(0, forward(0)), live(3, forward(3) / 2)])
    const [between] = betweenPlaces(known, ends)
    expect(between!.measuredDb - between!.expectedDb).toBeCloseTo(3.0103, 3)
    // Two meters of 5 %: some 0.3 dB, and not as much as the fault.
    expect(between!.doubtDb).toBeGreaterThan(0.1)
    expect(between!.doubtDb).toBeLessThan(1)
  })

  test('a meter for peaks and one for means stand at the two ends of speech', () => {
    const speech = { ...channel, mode: 'voice-plain' as const }
    const on = { ...known, channel: speech }
    const mean = 0.2 // any share: both ends are held against what they should show
    const peakReads = forward(3)
    const ends = endReadings(
      on,
      [
        reading('a', forward(0) * mean, { mode: 'voice-plain' }),
        reading('load', peakReads, { instrumentId: 'peak', mode: 'voice-plain' }),
      ],
      [],
    )
    const both = betweenPlaces(on, ends)[0]!
    const averaging = endReadings(
      on,
      [reading('a', forward(0) * mean, { mode: 'voice-plain' })],
      [],
    )[0]!
    expect(both.measuredDb - both.expectedDb).toBeCloseTo(averaging.offDb, 1)
  })

  test('a carrier at half the power on a channel of speech is held against just that', () => {
    const on = { ...known, channel: { ...channel, mode: 'voice-plain' as const } }
    const carrier = { mode: 'key-down' as const, powerW: 25 }
    const ends = endReadings(
      on,
      [reading('a', forward(0) / 2, carrier), reading('load', forward(3) / 2, carrier)],
      [],
    )
    for (const { offDb } of ends) expect(offDb).toBeCloseTo(0, 6)
    expect(betweenPlaces(on, ends)[0]!.doubtDb).toBeLessThan(1)
  })

  test('the newest reading of a place counts, and a live figure more than any', () => {
    const read = [
      reading('a', 40),
      reading('a', 42),
      reading('load', 30, { channelId: 'other' }),
      // A load took the place of the antenna.
      reading('a', 49, { farEnd: 'load' }),
    ]
    expect(endReadings(known, read, []).map(({ watts }) => watts)).toEqual([42])
    const now = [live(0, 44), { ...live(3, 33), lost: true }]
    expect(endReadings(known, read, now).map(({ watts, live: on }) => [watts, on])).toEqual([
      [44, true],
    ])
    expect(endReadings(known, [reading('gone', 9), reading('a', 0)], [])).toEqual([])
  })
})
