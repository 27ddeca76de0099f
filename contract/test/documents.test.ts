import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  antennaBodySchema,
  cableSchema,
  chainDocumentSchema,
  channelSchema,
  idSchema,
  limits,
  newId,
  problemSchema,
  stationBodySchema,
} from '../src/index.ts'

const cable = {
  name: '5 mm solid PE',
  z0Ohm: 50,
  velocityFactor: 0.66,
  k1DbPer100m: 1.45,
  k2DbPer100m: 0.006,
}
const document = {
  version: 3,
  name: 'Chain',
  transmitter: {
    name: 'Set',
    ratedW: 100,
    behaviour: 'levelled',
    foldback: [
      [1.5, 1],
      [3, 0.5],
    ],
  },
  stages: [
    { id: 'a', kind: 'line', name: 'Lead', lengthM: 1, cable },
    { id: 'b', kind: 'pad', part: 'meter', name: 'Meter', lossDb: 0.1 },
    { id: 'c', kind: 'series', name: 'Coil', rOhm: 1, xOhm: 300, atHz: 4e6 },
    { id: 'd', kind: 'shunt', name: 'Capacitor', rOhm: 0, xOhm: -20 },
  ],
  load: { kind: 'fixed', name: 'Vee', rOhm: 50, xOhm: 0 },
  channels: [{ id: 'x', frequencyHz: 7.1e6, mode: 'voice-plain', powerW: 100 }],
}

/** Messages of a document that was changed in one place, by their path. */
function complaints(change: (d: typeof document) => unknown): Record<string, string> {
  const spoiled = structuredClone(document)
  change(spoiled)
  const { error } = chainDocumentSchema.safeParse(spoiled)
  return Object.fromEntries(error?.issues.map((i) => [i.path.join('.'), i.message]) ?? [])
}

describe('a chain document', () => {
  test('of every kind of stage is valid', () => {
    expect(chainDocumentSchema.safeParse(document).error).toBeUndefined()
  })

  test.each([
    ['fixed', { rOhm: 50, xOhm: -3 }],
    ['swr', { swr: 2 }],
    ['antenna', { antennaId: 'a', sweepId: 's' }],
    ['resonator', { resonanceHz: 7e6, rOhm: 60, q: 10 }],
    ['resistors', { ohmEach: 500, count: 10, strayInductanceH: 0, strayCapacitanceF: 0 }],
  ])('may end in a load of kind %s', (kind, fields) => {
    const load = { kind, name: 'Load', ...fields }
    expect(chainDocumentSchema.safeParse({ ...document, load }).error).toBeUndefined()
  })

  test.each([
    [
      'a length below zero',
      (d) => (d.stages[0]!.lengthM = -1),
      'stages.0.lengthM',
      /between 0 and 5000 m/,
    ],
    [
      'a length that is text',
      (d) => (d.stages[0]!.lengthM = '5' as never),
      'stages.0.lengthM',
      /a number in m/,
    ],
    [
      'an infinite loss',
      (d) => (d.stages[1]!.lossDb = Infinity),
      'stages.1.lossDb',
      /Loss must be/,
    ],
    ['a short circuit', (d) => (d.stages[3]!.xOhm = 0), 'stages.3.rOhm', /short circuit/],
    ['a name of blanks', (d) => (d.stages[0]!.name = '  '), 'stages.0.name', /must not be empty/],
    ['an unknown kind', (d) => (d.stages[0]!.kind = 'wormhole'), 'stages.0.kind', /./],
    ['two stages of one id', (d) => (d.stages[1]!.id = 'a'), 'stages', /same id/],
    [
      'foldback that turns back',
      (d) =>
        (d.transmitter.foldback = [
          [3, 1],
          [2, 0.5],
        ]),
      'transmitter.foldback',
      /higher/,
    ],
    [
      'foldback above 1',
      (d) => (d.transmitter.foldback = [[2, 1.5]]),
      'transmitter.foldback.0.1',
      /between 0 and 1/,
    ],
    ['no channel', (d) => (d.channels = []), 'channels', /at least one channel/],
    [
      'a frequency of 5 Hz',
      (d) => (d.channels[0]!.frequencyHz = 5),
      'channels.0.frequencyHz',
      /Hz/,
    ],
    ['a resistance below zero', (d) => (d.load.rOhm = -50), 'load.rOhm', /between 0/],
    ['a later version', (d) => (d.version = 99), 'version', /./],
  ] as [string, (d: typeof document) => unknown, string, RegExp][])(
    '%s is pointed at in words',
    (_, change, path, words) => {
      const found = complaints(change)
      expect(Object.keys(found)).toContain(path)
      expect(found[path]).toMatch(words)
    },
  )

  test('names are kept without blanks around them', () => {
    const parsed = chainDocumentSchema.parse({ ...document, name: '  HF  ' })
    expect(parsed.name).toBe('HF')
  })

  test('ageing has a factor of 1 or more, a reason and a plain date', () => {
    const aged = (ageing: unknown) =>
      chainDocumentSchema.safeParse({ ...document, stages: [{ ...document.stages[0], ageing }] })
    expect(aged({ factor: 1.2, date: '2026-02-01' }).data?.stages[0]).toMatchObject({
      ageing: { reason: '' },
    })
    expect(aged({ factor: 0.8 }).success).toBe(false)
    expect(aged({ factor: 1.2, date: 'last winter' }).error?.issues[0]?.message).toContain(
      '2026-03-01',
    )
  })
})

test('every limit is accepted at its ends and refused beyond them', () => {
  const [low, high] = limits.frequencyHz
  const channel = (frequencyHz: number) =>
    channelSchema.safeParse({ id: 'x', frequencyHz, mode: 'FM', powerW: 1 }).success
  expect([channel(low), channel(high), channel(low * 0.99), channel(high * 1.01)]).toEqual([
    true,
    true,
    false,
    false,
  ])
  const velocity = (velocityFactor: number) =>
    cableSchema.safeParse({ ...cable, velocityFactor }).success
  expect([velocity(0.3), velocity(1), velocity(0.29), velocity(1.01)]).toEqual([
    true,
    true,
    false,
    false,
  ])
})

test('new ids are ids, and do not repeat', () => {
  const ids = Array.from({ length: 500 }, newId)
  expect(new Set(ids).size).toBe(500)
  for (const id of ids) expect(idSchema.safeParse(id).success).toBe(true)
  for (const bad of ['', 'With Capitals', '../up', 'a'.repeat(65), '-first'])
    expect(idSchema.safeParse(bad).success).toBe(false)
})

test('what is left out of a body has its default', () => {
  expect(stationBodySchema.parse({ name: 'A' })).toEqual({
    name: 'A',
    place: '',
    note: '',
    swrLimit: 2,
    environment: 'rural',
    currency: 'EUR',
    prices: { perM: {} },
  })
  expect(antennaBodySchema.parse({ name: 'A', touchstone: '' })).toMatchObject({
    note: '',
    sweepName: 'sweep',
  })
})

test('a document survives the way to the database and back', () => {
  const finite = (min: number, max: number) =>
    fc.double({ min, max, noNaN: true, noDefaultInfinity: true })
  fc.assert(
    fc.property(
      finite(...limits.lengthM),
      finite(...limits.lossDb),
      finite(...limits.powerW),
      (lengthM, lossDb, powerW) => {
        const d = structuredClone(document)
        d.stages[0]!.lengthM = lengthM
        d.stages[1]!.lossDb = lossDb
        d.channels[0]!.powerW = powerW
        const parsed = chainDocumentSchema.parse(d)
        expect(chainDocumentSchema.parse(JSON.parse(JSON.stringify(parsed)))).toEqual(
          JSON.parse(JSON.stringify(parsed)),
        )
      },
    ),
  )
})

test('a problem carries its status and pointers', () => {
  expect(
    problemSchema.safeParse({
      type: 'about:blank',
      title: 'No',
      status: 422,
      errors: [{ pointer: '/a', message: 'b' }],
    }).success,
  ).toBe(true)
  expect(problemSchema.safeParse({ title: 'No' }).success).toBe(false)
})
