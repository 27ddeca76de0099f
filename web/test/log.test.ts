import { describe, expect, test } from 'vitest'
import type { Reading, Station } from '@saltline/contract'
import { diagnose } from '@saltline/core'
import { caseOf } from '../src/lenses/log/caseOf.ts'
import { placesOf } from '../src/lenses/log/places.ts'
import { readingsFromText } from '../src/lenses/log/readingsFromText.ts'
import { shareText } from '../src/lenses/log/share.ts'
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
const read = (text: string) => readingsFromText(text, document, channel.id, [skua])

describe('a table of readings', () => {
  test('is understood by its headings; what is missing comes from the channel', () => {
    const { readings, problems, unknown } = read(
      'where,forward W,reflected W,meter,moon phase\nat the radio,99,0.5,skua,full',
    )
    expect(problems).toEqual([])
    expect(unknown).toEqual(['moon phase'])
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

  test('finds the channel by its frequency, and keeps one that is none', () => {
    const mhz = channel.frequencyHz / 1e6
    const { readings } = read(`MHz,forward\n${mhz},50\n1.9,50`)
    expect(readings.map((r) => r.channelId)).toEqual([channel.id, undefined])
    expect(readings[1]!.frequencyHz).toBeCloseTo(1.9e6, 3)
  })

  test.each([
    ['watts\n5', 1, /No column is called “forward”/],
    ['forward\nmany', 2, /forward “many”/],
    ['forward,where\n5,attic', 2, /“attic” is no place on this chain. Known are at the radio/],
    ['forward,meter\n5,Gannet', 2, /“Gannet” is no instrument/],
    ['forward,when\n5,soon', 2, /“soon” is no date/],
    ['forward,mode\n5,whistling', 2, /“whistling” is no mode/],
    ['forward,reflected\n5,9', 2, /turned round/],
  ])('%j is refused by its line', (text, line, words) => {
    const { readings, problems } = read(text)
    expect(readings).toEqual([])
    expect(problems[0]!.line).toBe(line)
    expect(problems[0]!.message).toMatch(words)
  })

  test('one bad line does not hide the others', () => {
    const { readings, problems } = read('forward\n5\nmany\n7')
    expect(readings).toHaveLength(2)
    expect(problems.map(({ line }) => line)).toEqual([3])
  })
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
    expect(made.kase.channels).toHaveLength(1)
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
