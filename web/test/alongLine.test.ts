import { alongLine, type AlongLine, expectedSweep, frequencyGrid } from '@saltline/core'
import { describe, expect, test } from 'vitest'
import {
  planesAlong,
  planFor,
  reachWords,
  seenWords,
  planWords,
  whereWords,
} from '../src/model/alongLine.ts'
import { chainOfDocument } from '../src/model/answers.ts'
import { document } from './fixtures.ts'

const plain = (words: string) => words.replaceAll('\u00a0', ' ')

describe('where one can look along the line', () => {
  test('behind the last tuner, as far as there is cable; places are named as everywhere', () => {
    const places = planesAlong(document)
    const behind = document.stages.findLastIndex(({ kind }) => kind === 'tuner')
    const last = document.stages.findLastIndex(({ kind }) => kind === 'line')
    expect(places.map(({ plane }) => plane)).toEqual(
      Array.from({ length: last - behind }, (_, i) => behind + 1 + i),
    )
    for (const { plane } of places) {
      const { lowHz, highHz, points } = planFor(document.stages.slice(plane))
      expect(lowHz).toBeLessThan(highHz)
      const hz = frequencyGrid(lowHz, highHz, points)
      const chain = chainOfDocument(
        { ...document, load: { kind: 'fixed', name: 'A', rOhm: 50, xOhm: 0 } },
        undefined,
      )!
      const along = alongLine(chain, plane, expectedSweep(chain, plane, hz, 'open'), 'open')
      // A sound line is as expected from every place, and its end is where it is.
      expect(seenWords(along, document.stages.slice(plane), 'open', 'm')).toEqual([
        expect.stringMatching(/^As expected along all /),
      ])
    }
  })

  test('nowhere without cable, from the radio without a tuner', () => {
    expect(planesAlong({ ...document, stages: [] })).toEqual([])
    const cable = document.stages.find(({ kind }) => kind === 'line')!
    expect(planesAlong({ ...document, stages: [cable] }).map(({ plane }) => plane)).toEqual([0])
    expect(plain(planWords(seen, { name: 'input of Choke' }, 'm'))).toBe(
      'A sweep at the input of Choke would show where 50 m of line reflects, to 1 m. This is what to expect.',
    )
    expect(planWords(seen, { name: 'at the radio' }, 'ft')).toMatch(
      /^A sweep at the radio would .*ft/,
    )
  })
})

const said = (...args: Parameters<typeof whereWords>) => plain(whereWords(...args))
const seen: AlongLine = {
  distanceM: Float64Array.of(0, 10, 20),
  measured: Float64Array.of(0, 0.1, 0),
  expected: Float64Array.of(0, 0, 0),
  placesM: [0, 4, 4, 50],
  resolutionM: 1,
  unambiguousM: 200,
  lowPass: false,
  endKnown: true,
  findings: [],
  end: null,
  endHeight: 0.8,
}
const stages = [{ name: 'Desk lead' }, { name: 'Arrester' }, { name: 'Duct run' }]
const plan = { lowHz: 10e6, highHz: 110e6, points: 201 }

describe('what was seen, in words', () => {
  test('a joint by the part it is at the input of, a place in a cable by its metre', () => {
    const at = { measured: 0.1, expected: 0.01 }
    expect(
      said({ ...at, atM: 4.1, stage: 1, atJoint: true, rises: null }, stages, seen.placesM, 'm'),
    ).toBe('at 4.1 m, at the input of Arrester')
    expect(
      said({ ...at, atM: 14, stage: 2, atJoint: false, rises: null }, stages, seen.placesM, 'm'),
    ).toBe('at 14 m, 10 m into Duct run')
    const found = { ...seen, findings: [{ ...at, atM: 4.1, stage: 1, atJoint: true, rises: null }] }
    expect(plain(seenWords(found, stages, 'load', 'm')[0]!)).toBe(
      'More is reflected than expected at 4.1 m, at the input of Arrester: |ρ| 0.10 (return loss 20 dB), expected 0.01.',
    )
  })

  test('the end: further, nearer, more loss, less, or not there', () => {
    const end = (atM: number, extraLossDb: number) =>
      seenWords({ ...seen, end: { atM, extraLossDb } }, stages, 'open', 'm').map(plain)
    expect(end(50.3, 0.1)).toEqual(['As expected along all 50 m.'])
    expect(end(53, 0)[0]).toMatch(/^The open end is found at 53 m, 3 m further than expected/)
    expect(end(44, 0)[0]).toMatch(/6 m nearer than expected/)
    expect(end(50, 1.3)).toEqual(['The line loses 1.3 dB more than expected, one way.'])
    expect(end(50, -0.5)[0]).toMatch(/0.5 dB less than expected/)
    expect(seenWords(seen, stages, 'short', 'm')[0]).toMatch(/^No end is seen/)
    expect(plain(seenWords(seen, stages, 'antenna', 'm')[0]!)).toBe('As expected along all 50 m.')
  })

  test('how near and how far a sweep tells, and what would be better', () => {
    const words = (own: Partial<AlongLine>) => plain(reachWords({ ...seen, ...own }, plan, 'm'))
    expect(words({})).toBe(
      '201 points from 10.000 MHz to 110.000 MHz: resolution 1 m, range 200 m. From 550.0 kHz on in steps of 550.0 kHz it would resolve half of that, and say whether an impedance rises or falls.',
    )
    expect(words({ lowPass: true })).toMatch(/It begins at its own step/)
    // No analyser begins at 44 kHz.
    const narrow = { ...plan, lowHz: 2e6, highHz: 17.6e6, points: 401 }
    expect(reachWords(seen, narrow, 'm')).not.toContain('From')
    expect(words({ unambiguousM: 25 })).toMatch(
      /The line is longer, 50 m: .* Take 483 points or more\./,
    )
    expect(words({ resolutionM: 8 })).toMatch(/shortest cable is 4 m: a span of 200.MHz would/)
    expect(reachWords(seen, plan, 'ft')).toMatch(/resolution .*ft/)
  })
})
