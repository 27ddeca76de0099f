import {
  type Alternative,
  type ChainDocument,
  chainDocumentSchema,
  type Change,
} from '@saltline/contract'
import { cableClasses } from '@saltline/core'
import { describe, expect, test } from 'vitest'
import {
  addAlternative,
  alternativesOf,
  applyAlternative,
  expenseOf,
  takeAlternative,
} from '../src/model/alternatives.ts'
import { removeStage } from '../src/model/edits.ts'
import { copyOfClass } from '../src/model/stages/line.ts'
import { tunerPlaceChanges } from '../src/model/tunerPlace.ts'

const thick = copyOfClass(cableClasses.find(({ id }) => id === 'foam-10')!)
const thin = copyOfClass(cableClasses.find(({ id }) => id === 'pe-5')!)

const chain: ChainDocument = chainDocumentSchema.parse({
  version: 2,
  name: 'Chain',
  transmitter: { name: 'Radio', ratedW: 100, behaviour: 'levelled', foldback: [] },
  stages: [
    { id: 'lead', kind: 'line', name: 'Lead', lengthM: 2, cable: thin },
    { id: 'tuner', kind: 'tuner', name: 'Tuner', method: 'given', lossDb: 0.3, residualSwr: 1.1 },
    {
      id: 'run',
      kind: 'line',
      name: 'Run',
      lengthM: 40,
      cable: thin,
      ageing: { factor: 1.5, reason: 'water' },
      limits: { averageW: 150 },
    },
  ],
  load: { kind: 'fixed', name: 'Antenna', rOhm: 50, xOhm: 0 },
  channels: [{ id: 'c1', frequencyHz: 7e6, mode: 'voice-plain', powerW: 100 }],
})

const of = (...changes: Change[]): Alternative => ({ id: 'a', name: 'A', changes })
const store = (perM: Record<string, number>, connectorPair?: number) => ({
  gear: [],
  prices: { perM, connectorPair },
})
const toThick: Change = { kind: 'cable', stageId: 'run', cable: thick }

describe('an alternative', () => {
  test('of a document of version 2 is none, and the document is of the present version', () => {
    expect(alternativesOf(chain)).toEqual([])
    expect(chain.version).toBe(3)
  })

  test('another cable is a new one: no age, none of the old one’s limits', () => {
    const { document, misfits } = applyAlternative(chain, of(toThick))
    expect(misfits).toEqual([])
    expect(document.stages[2]).toEqual({
      id: 'run',
      kind: 'line',
      name: 'Run',
      lengthM: 40,
      cable: thick,
    })
  })

  test('follows the chain when that changes', () => {
    const longer = {
      ...chain,
      stages: chain.stages.map((stage) => (stage.id === 'run' ? { ...stage, lengthM: 60 } : stage)),
    } as ChainDocument
    expect(applyAlternative(longer, of(toThick)).document.stages[2]).toMatchObject({
      lengthM: 60,
      cable: { name: '10 mm foam PE' },
    })
  })

  test('a change whose part is gone is named, and the others are made', () => {
    const shorter = removeStage('tuner')(chain)
    const { document, misfits } = applyAlternative(
      shorter,
      of({ kind: 'move', stageId: 'tuner', behind: 'run' }, toThick),
    )
    expect(misfits).toEqual([{ change: 0, why: 'That part is no longer in the chain.' }])
    expect(document.stages[1]).toMatchObject({ cable: { name: '10 mm foam PE' } })
  })

  test.each<[string, Change, string[]]>([
    ['moves', { kind: 'move', stageId: 'tuner', behind: 'run' }, ['lead', 'run', 'tuner']],
    [
      'moves to the radio',
      { kind: 'move', stageId: 'tuner', behind: null },
      ['tuner', 'lead', 'run'],
    ],
    ['takes out', { kind: 'remove', stageId: 'lead' }, ['tuner', 'run']],
  ])('%s', (_, change, ids) => {
    expect(applyAlternative(chain, of(change)).document.stages.map(({ id }) => id)).toEqual(ids)
  })

  test('the tuner goes where it is wanted, and a usual one comes in where there is none', () => {
    const at = (document: ChainDocument, place: 'none' | 'radio' | 'feedPoint') =>
      applyAlternative(document, of(...tunerPlaceChanges(document, place))).document.stages.map(
        ({ kind }) => kind,
      )
    expect(at(chain, 'none')).toEqual(['line', 'line'])
    expect(at(chain, 'radio')).toEqual(['tuner', 'line', 'line'])
    expect(at(chain, 'feedPoint')).toEqual(['line', 'line', 'tuner'])
    expect(at(removeStage('tuner')(chain), 'feedPoint')).toEqual(['line', 'line', 'tuner'])
  })

  test('applied it is the chain, and the others stay', () => {
    const other = { ...of({ kind: 'power', powerW: 50 }), id: 'b', name: 'B' }
    const both = addAlternative(other)(addAlternative(of(toThick))(chain))
    const taken = takeAlternative('a')(both)
    expect(taken.stages[2]).toMatchObject({ cable: { name: '10 mm foam PE' } })
    expect(alternativesOf(taken)).toEqual([other])
    expect(chainDocumentSchema.parse(JSON.parse(JSON.stringify(taken)))).toEqual(taken)
  })
})

describe('what it costs', () => {
  test('by hand: 40 m at 3.40 and a pair of connectors at 9', () => {
    expect(expenseOf(chain, of(toThick), store({ 'foam-10': 3.4 }, 9))).toMatchObject({
      price: 145,
      unpriced: [],
      bendMm: 50,
    })
  })

  test('what is not known is unknown, never nothing', () => {
    expect(expenseOf(chain, of(toThick), store({}, 9))).toMatchObject({
      price: null,
      unpriced: ['10 mm foam PE'],
    })
    expect(expenseOf(chain, of(toThick), store({ 'foam-10': 3.4 }))).toMatchObject({
      price: null,
      unpriced: ['connectors'],
    })
  })

  test('a shorter section is cut, and a tuner that comes in has the price that is said', () => {
    const priced = store({ 'pe-5': 1 }, 9)
    const shorter = of({ kind: 'length', stageId: 'run', lengthM: 30 })
    expect(expenseOf(chain, shorter, priced).price).toBe(0)
    const longer = of({ kind: 'length', stageId: 'run', lengthM: 50 })
    expect(expenseOf(chain, longer, priced).price).toBe(59)
    const bare = removeStage('tuner')(chain)
    const tuned = of(...tunerPlaceChanges(bare, 'radio'))
    expect(expenseOf(bare, tuned, priced)).toMatchObject({ price: null, unpriced: ['Tuner'] })
    expect(expenseOf(bare, { ...tuned, otherPrice: 120 }, priced).price).toBe(120)
  })
})
