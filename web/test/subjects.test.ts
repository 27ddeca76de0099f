/** What can lie on the bench, and what a result there does to chain and gear. */
import type { ChainDocument, Station } from '@saltline/contract'
import { cableClasses, lineConstants, matchedLossDb } from '@saltline/core'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import {
  ageingOf,
  cableSubjects,
  keepCalibration,
  makeOwnCable,
  subjectsOf,
  takeAsLoss,
  takeAsVelocityFactor,
} from '../src/pages/bench/subjects.ts'
import { document, state } from './fixtures.ts'

const meter = {
  name: 'Heron',
  type: 'power meter',
  kind: 'averaging',
  rangesW: [20, 200],
  accuracy: 0.05,
}
const own = {
  name: 'Own drum',
  z0Ohm: 50,
  velocityFactor: 0.8,
  k1DbPer100m: 1,
  k2DbPer100m: 0.01,
}
const station = {
  id: 'station',
  gear: [
    { id: 'm', kind: 'instrument', document: meter },
    { id: 'drum', kind: 'cable', document: own },
  ],
} as unknown as Station

/** What was sent, in order. */
let sent: { method: string; path: string; body: Record<string, unknown> }[]
beforeEach(() => {
  sent = []
  vi.stubGlobal('fetch', (path: string, init: RequestInit = {}) => {
    const method = init.method ?? 'GET'
    const body =
      typeof init.body === 'string' ? (JSON.parse(init.body) as Record<string, unknown>) : {}
    if (method !== 'GET') sent.push({ method, path, body })
    const answer = path.includes('/chains/')
      ? { ...state(), ...(body['document'] ? { document: body['document'], revision: 2 } : {}) }
      : { id: 'made', stationId: 'station', ...body }
    return Promise.resolve(Response.json(answer, { status: method === 'POST' ? 201 : 200 }))
  })
})
afterEach(() => void vi.unstubAllGlobals())

const subjects = subjectsOf('chain', document)
const lead = subjects[0]!
const wattmeter = subjects[1]!
const changed = () => (sent[0]!.body['document'] as ChainDocument).stages

describe('what can lie on the bench', () => {
  test('the cables and small parts of a chain', () => {
    expect(subjects.map(({ key, kind, name, group }) => [key, kind, name, group])).toEqual([
      ['chain/a', 'line', 'Lead', 'Test chain'],
      ['chain/b', 'pad', 'Meter', 'Test chain'],
      ['chain/c', 'line', 'Run', 'Test chain'],
    ])
    expect(lead).toMatchObject({ lengthM: 10, place: { chainId: 'chain', stageId: 'a' } })
    const others = [{ ...document.stages[0]!, kind: 'stub' }] as ChainDocument['stages']
    expect(subjectsOf('chain', { ...document, stages: others })).toEqual([])
  })

  test('the station’s own cables, then every class', () => {
    const [first, ...classes] = cableSubjects(station)
    expect(first).toMatchObject({ key: 'cable/drum', name: 'Own drum', place: null, cable: own })
    expect(classes.map(({ key }) => key)).toEqual(cableClasses.map(({ id }) => `class/${id}`))
    expect(classes.every(({ group }) => group === 'Cable class')).toBe(true)
  })
})

/** The loss of so many metres of the lead's cable, times a factor. */
const lossOf = (lengthM: number, factor: number): [number, number][] =>
  [3.5e6, 14e6, 28e6].map((hz) => [
    hz,
    factor * matchedLossDb(lineConstants(lead.cable!, hz), lengthM),
  ])

describe('a measured loss', () => {
  test('is so many times that of the data sheet, however long the piece was', () => {
    expect(ageingOf(lead, 10, lossOf(10, 1.3))).toBeCloseTo(1.3, 9)
    expect(ageingOf(lead, 25, lossOf(25, 2))).toBeCloseTo(2, 9)
  })

  test('of a cable becomes its age, with the day and the reason', async () => {
    const words = await takeAsLoss(lead, 10, {
      loss: lossOf(10, 1.304),
      lead: { what: 'loss', unit: 'dB', value: 0.5, low: 0.45, high: 0.57 },
    })
    expect(words).toBe('Lead now has 1.3 times the loss of its data sheet')
    expect(sent).toHaveLength(1)
    expect(sent[0]).toMatchObject({
      method: 'PUT',
      body: { baseRevision: 1, epoch: '', summary: 'Lead: loss as measured' },
    })
    expect(sent[0]!.path).toContain('/chains/chain')
    expect(changed()[0]).toMatchObject({
      ageing: { factor: 1.3, reason: 'measured on the bench' },
    })
    const { ageing, lossKnown } = changed()[0] as {
      ageing: { date: string }
      lossKnown: { share: number; on: string }
    }
    expect(ageing.date).toMatch(/^\d{4}-\d\d-\d\d$/)
    // 0.06 dB of 0.5 holds nine times in ten; nineteen times in twenty is 1.96/1.645 of it.
    expect(lossKnown).toEqual({ share: 0.143, on: ageing.date })
    expect(changed().slice(1)).toEqual(document.stages.slice(1))
  })

  test('less than the data sheet’s does not make a cable better than new', async () => {
    await takeAsLoss(lead, 10, { loss: lossOf(10, 0.8), lead: null })
    expect(changed()[0]).toMatchObject({ ageing: { factor: 1 } })
  })

  test('of a part becomes its table, in the order of frequency, never below nothing', async () => {
    const words = await takeAsLoss(wattmeter, 0, {
      loss: [
        [28e6, 0.2],
        [3.5e6, -0.01],
      ],
      lead: null,
    })
    expect(words).toBe('Meter now has the measured loss')
    expect(changed()[1]).toMatchObject({
      lossDb: 0,
      points: [
        [3.5e6, 0],
        [28e6, 0.2],
      ],
    })
    expect(changed()[1]).not.toHaveProperty('atHz')
  })

  test('of a piece that is in no chain has nowhere to go', async () => {
    const [loose] = cableSubjects(station)
    await expect(takeAsLoss(loose!, 10, { loss: lossOf(10, 1), lead: null })).rejects.toThrow(
      'in no chain',
    )
    expect(sent).toEqual([])
  })

  test('makes a cable of the station’s own, with the law that fits', async () => {
    const { name, points } = await makeOwnCable(station, lead, 10, lossOf(10, 1.2))
    expect(name).toBe('Lead, measured')
    expect(points).toHaveLength(3)
    const made = sent[0]!.body['document'] as typeof own & { maxHz: number }
    expect(made).toMatchObject({ name, z0Ohm: 50, velocityFactor: 0.66, maxHz: 28e6 })
    for (const mhz of [3.5, 14, 28]) {
      const law = made.k1DbPer100m * Math.sqrt(mhz) + made.k2DbPer100m * mhz
      // The loss of a line is a few hundredths beside k₁√f + k₂f.
      const ratio = law / (1.2 * (1.45 * Math.sqrt(mhz) + 0.006 * mhz))
      expect(Math.abs(ratio - 1)).toBeLessThan(0.04)
    }
    await makeOwnCable(station, null, 10, lossOf(10, 1))
    expect(sent[1]!.body['document']).toMatchObject({ name: 'Cable, measured', z0Ohm: 50 })
  })
})

describe('what else is measured', () => {
  test('a velocity factor goes into the section’s own copy of its cable', async () => {
    const words = await takeAsVelocityFactor(lead, 0.67849)
    expect(words).toBe('Lead now has a velocity factor of 0.678')
    expect(changed()[0]).toMatchObject({ cable: { velocityFactor: 0.678, k1DbPer100m: 1.45 } })
    expect(changed()[2]).toEqual(document.stages[2])
  })

  test('a calibration stays with its instrument, and its day', async () => {
    const calibration = {
      instrumentId: 'm',
      name: 'Heron',
      points: [
        [10, 9],
        [100, 95],
      ] as [number, number][],
      doubt: 0.03,
    }
    const words = await keepCalibration(station, calibration as never)
    expect(words).toMatch(/^Readings of Heron are corrected from now on/)
    const kept = sent[0]!.body['document'] as Record<string, unknown>
    expect(kept).toMatchObject({
      name: 'Heron',
      accuracy: 0.05,
      calibration: { points: calibration.points, doubt: 0.03 },
    })
    expect(kept['checkedOn']).toBe((kept['calibration'] as { on: string }).on)
    await expect(
      keepCalibration(station, { ...calibration, instrumentId: 'sold' } as never),
    ).rejects.toThrow('no longer in Gear')
  })
})
