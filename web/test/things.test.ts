import { asStage, figuresOf, sameFigures, type Thing } from '@saltline/contract'
import { describe, expect, test } from 'vitest'
import { chainOfDocument } from '../src/model/answers.ts'
import { chainsOf, consequences, thingFacts, withThing } from '../src/model/things.ts'
import { document } from './fixtures.ts'

const line = document.stages.find((stage) => stage.kind === 'line')!
const owned = {
  ...document,
  stages: document.stages.map((s) => (s === line ? { ...s, thingId: 't' } : s)),
}
const chainOf = (each: typeof document) => chainOfDocument(each, undefined)

describe('what a stage is of itself', () => {
  test('is not where it stands, nor whether it is bypassed', () => {
    expect(sameFigures(line, { ...line, id: 'other', bypassed: true, thingId: 'x' })).toBe(true)
    expect(sameFigures(line, { ...line, lengthM: line.lengthM + 0.1 })).toBe(false)
    expect(sameFigures(line, { ...line, name: 'another' })).toBe(false)
    // In whatever order it was written.
    const turned = Object.fromEntries(Object.entries(line).reverse()) as typeof line
    expect(sameFigures(line, turned)).toBe(true)
  })

  test('put where another stood, it keeps its place and its bypass', () => {
    const placed = asStage(
      figuresOf(line),
      { ...line, id: 'here', lengthM: 1, bypassed: true },
      't',
    )
    expect(placed).toEqual({ ...line, id: 'here', bypassed: true, thingId: 't' })
  })
})

describe('what follows', () => {
  test('a longer cable: fewer watts, on the channel where it costs most', () => {
    const longer = withThing(owned, 't', { ...line, lengthM: line.lengthM * 2 })
    expect(longer.stages.find(({ thingId }) => thingId === 't')).toMatchObject({
      lengthM: line.lengthM * 2,
    })
    const [watts] = consequences(owned, longer, chainOf)
    const [, from, to, hz] = /^([\d.]+)\sW → ([\d.]+)\sW on ([\d.]+)\sMHz$/.exec(watts!)!
    expect(Number(to)).toBeLessThan(Number(from))
    expect(owned.channels.map(({ frequencyHz }) => frequencyHz / 1e6)).toContain(Number(hz))
  })

  test('nothing where it stays, nor where it stands in no stage', () => {
    expect(consequences(owned, withThing(owned, 't', line), chainOf)).toEqual([])
    expect(withThing(owned, 'another', { ...line, lengthM: 1 })).toEqual(owned)
  })

  test('what cannot be solved is said', () => {
    expect(consequences(owned, owned, () => null)).toEqual(['it cannot be solved'])
  })
})

test('words', () => {
  expect(thingFacts({ stage: { ...line, lengthM: 46 } }, 'm')).toBe(`${line.cable.name}, 46\u00a0m`)
  expect(thingFacts({ of: { kind: 'antenna', id: 'a' } }, 'm')).toBe('Antenna')
  expect(thingFacts({ of: { kind: 'gear', id: 'gone' } }, 'm')).toBe('')
  const places = (...chains: string[]) => ({
    places: chains.map((chain) => ({ chain })) as Thing['places'],
  })
  expect(chainsOf(places())).toBe('in no chain')
  expect(chainsOf(places('A', 'B', 'C'))).toBe('A, B, and C')
})
