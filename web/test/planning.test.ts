/** What the planner is asked for by what is ticked, and what its answer makes of a chain. */
import { copyOfClass } from '../src/model/stages/line.ts'
import type { Station } from '@saltline/contract'
import { cableClasses } from '@saltline/core'
import { describe, expect, test } from 'vitest'
import { alternativesOf, applyAlternative } from '../src/model/alternatives.ts'
import { chainOfDocument } from '../src/model/answers.ts'
import { newStage } from '../src/model/edits.ts'
import { firstWanted, linesOf, planFor, plannedAlternative } from '../src/model/planning.ts'
import { document as plain } from './fixtures.ts'

const known = cableClasses.find(({ z0Ohm, outerMm }) => z0Ohm === 50 && outerMm > 9)!
const document = {
  ...plain,
  stages: plain.stages.map((stage) =>
    stage.kind === 'line' ? { ...stage, cable: copyOfClass(known) } : stage,
  ),
}
const chain = chainOfDocument(document, undefined)!
const station = {
  gear: [],
  prices: { perM: { [known.id]: 3 }, connectorPair: 12 },
} as unknown as Pick<Station, 'gear' | 'prices'>
const first = firstWanted(linesOf(document))
const asked = (change: Partial<typeof first>) =>
  planFor(document, chain, station, { ...first, ...change })

describe('what is asked for', () => {
  test('at first the longest section, by price, on the worst channel', () => {
    expect(first.sections).toEqual(['c'])
    const { request } = asked({})
    expect(request.sections.map(({ stage }) => stage)).toEqual([2])
    expect(request).toMatchObject({ counts: 'worst', costPerSection: 12, budget: undefined })
    expect(request.tuner).toBeUndefined()
    expect(firstWanted([]).sections).toEqual([])
  })

  test('a section that is bypassed or gone is not planned', () => {
    const bypassed = {
      ...document,
      stages: document.stages.map((stage) => ({ ...stage, bypassed: stage.id === 'c' })),
    }
    expect(planFor(bypassed, chain, station, first).request.sections).toEqual([])
  })

  test('the cable that is there is no candidate; others of its impedance are', () => {
    const [section] = asked({}).request.sections
    const ids = section!.candidates.map(({ id }) => id)
    expect(ids).not.toContain(known.id)
    expect(ids.length).toBeGreaterThan(5)
    const every = asked({ sameImpedance: false }).request.sections[0]!.candidates
    expect(every.some(({ cable }) => cable.z0Ohm === 75)).toBe(true)
    expect(section!.candidates.every(({ cable }) => Math.abs(cable.z0Ohm - 50) < 5)).toBe(true)
  })

  test('bounds rule out what is beyond them, and what is not known', () => {
    for (const [bound, of] of [
      ['mostOuterMm', 'outerMm'],
      ['mostBendMm', 'minBendMm'],
      ['mostKgPer100m', 'weightKgPer100m'],
    ] as const) {
      const all = asked({}).request.sections[0]!.candidates
      const middle = cableClasses.find(({ id }) => id === all[all.length >> 1]!.id)![of]
      const { candidates } = asked({ [bound]: middle }).request.sections[0]!
      expect(candidates.length).toBeLessThan(all.length)
      for (const { id } of candidates)
        expect(cableClasses.find((each) => each.id === id)![of]).toBeLessThanOrEqual(middle!)
    }
    // No other class has a price here: none is known to stay below one.
    expect(asked({ mostPricePerM: 5 }).request.sections[0]!.candidates).toEqual([])
  })

  test('what counts: all alike, by weight, or one channel alone', () => {
    expect(asked({ counts: 'all' }).request.counts).toEqual([1, 1])
    expect(asked({ counts: 'weights', weights: { c2: 3 } }).request.counts).toEqual([1, 3])
    expect(asked({ counts: 'one c2' }).request.counts).toEqual([0, 1])
  })

  test('by weight a section costs what it weighs now, and connectors nothing', () => {
    const { request } = asked({ by: 'weight', budget: 20 })
    expect(request.costPerSection).toBe(0)
    expect(request.budget).toBe(20)
    expect(request.sections[0]!.presentCost).toBeCloseTo((known.weightKgPer100m! * 40) / 100, 9)
    const { id, costPerM } = request.sections[0]!.candidates[0]!
    const { weightKgPer100m } = cableClasses.find((each) => each.id === id)!
    expect(costPerM).toBeCloseTo(weightKgPer100m! / 100, 9)
    expect(asked({}).request.sections[0]!.presentCost).toBe(0)
  })

  test('a tuner: bought at its price, or moved for nothing', () => {
    const bought = asked({ tuner: true, tunerPrice: 250 }).request.tuner!
    expect(bought).toMatchObject({ places: ['radio', 'feedPoint'], cost: 250 })
    expect(asked({ tuner: true, tunerPrice: 250, by: 'weight' }).request.tuner!.cost).toBe(0)
    const tuner = newStage('tuner', document)
    const own = { ...document, stages: [tuner, ...document.stages] }
    const moved = planFor(own, chainOfDocument(own, undefined)!, station, {
      ...first,
      tuner: true,
      tunerPrice: 250,
    }).request.tuner!
    expect(moved.cost).toBe(0)
    expect(moved.places).toHaveLength(3)
  })
})

describe('what an answer makes of the chain', () => {
  const member = { cost: 0, lossDb: 1, antennaW: [50, 50] }
  test('the cables that are bought, in their sections, by name', () => {
    const plan = asked({ sections: ['a', 'c'] })
    const { id } = plan.request.sections[1]!.candidates[0]!
    const made = plannedAlternative({ ...member, cables: [null, id], place: null }, plan, document)
    const { name } = cableClasses.find((each) => each.id === id)!
    expect(made.name).toBe(`Run: ${name}`)
    const applied = applyAlternative(document, made)
    const changed = applied.document.stages.find((stage) => stage.id === 'c')!
    expect(changed.kind === 'line' && changed.cable.gearId).toBe(id)
    expect(alternativesOf(document)).toEqual([])
  })

  test('the tuner where it is to be; nothing at all is the chain as it stands', () => {
    const plan = asked({ tuner: true })
    const tuned = { ...member, cables: [null], place: 'feedPoint' as const }
    const made = plannedAlternative(tuned, plan, document)
    expect(made.changes).not.toEqual([])
    expect(made.name).toMatch(/feed point/)
    const same = plannedAlternative({ ...member, cables: [null], place: null }, plan, document)
    expect(same).toMatchObject({ name: 'As it stands', changes: [] })
  })
})
