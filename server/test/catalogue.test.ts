/** Every class of the catalogue, every mode and every kind of exercise through the doors of the API. */
import { type ChainDocument, limits } from '@saltline/contract'
import { cableClasses, modeTable, partClasses, runSheets } from '@saltline/core'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { type Harness, startHarness } from './harness.ts'

let h: Harness
beforeAll(async () => {
  h = await startHarness()
})
afterAll(() => h.close())

type Class = (typeof cableClasses)[number]

const [, most] = limits.frequencyHz
const cableOf = ({ id, name, z0Ohm, velocityFactor, k1DbPer100m, k2DbPer100m, maxHz }: Class) => ({
  gearId: id,
  name,
  z0Ohm,
  velocityFactor,
  k1DbPer100m,
  k2DbPer100m,
  // A chain goes as far up as frequencies do.
  maxHz: Math.min(maxHz, most),
})

const chain = (
  stages: object[],
  channel: object = {},
): Omit<ChainDocument, 'stages' | 'channels'> & { stages: object[]; channels: object[] } => ({
  version: 3,
  name: 'Every class',
  transmitter: { name: 'Petrel', ratedW: 100, behaviour: 'levelled', foldback: [] },
  stages,
  load: { kind: 'fixed', name: 'Load', rOhm: 60, xOhm: 10 },
  channels: [{ id: 'c1', frequencyHz: 28e6, mode: 'data', powerW: 50, ...channel }],
})

/** Kept, read back, solved: the watts at the antenna. */
async function through(document: object, frequencyHz = 28e6): Promise<number> {
  const made = await h.call('POST', '/api/stations/merrow-point/chains', document)
  expect(made.body.errors ?? []).toEqual([])
  expect(made.status).toBe(201)
  const kept = await h.call('GET', `/api/chains/${made.body.id}`)
  expect(kept.body.document).toMatchObject(document)
  const solved = await h.call('POST', '/api/solve', {
    document: kept.body.document,
    frequencyHz,
    powerW: 50,
  })
  expect(solved.status).toBe(200)
  await h.call('DELETE', `/api/chains/${made.body.id}`)
  return solved.body.solution.antennaW as number
}

describe('a cable class', () => {
  test.each(cableClasses.map((of) => [of.id, of] as const))(
    '%s is kept in a chain, solved, and kept as a cable of the station’s own',
    async (_, of) => {
      const cable = cableOf(of)
      const watts = await through(
        chain([{ id: 'run', kind: 'line', name: 'Run', lengthM: 20, cable }]),
      )
      expect(watts).toBeGreaterThan(0)
      expect(watts).toBeLessThan(50)
      const { gearId: _id, ...own } = cable
      const added = await h.call('POST', '/api/stations/merrow-point/gear', {
        kind: 'cable',
        document: own,
      })
      expect(added.status).toBe(201)
      expect(added.body.document).toMatchObject(own)
    },
  )
})

test('a station file with every class of cable and part in its chains comes back as it was', async () => {
  const line = (of: Class) => ({
    ...{ id: of.id.replace('.', '-'), kind: 'line', name: of.name, lengthM: 1 },
    cable: cableOf(of),
  })
  const part = ({ id, part, name, pointsDb }: (typeof partClasses)[number]) => ({
    ...{ id, kind: 'pad', part, name, gearId: id, lossDb: 0 },
    points: pointsDb
      .map(([mhz, db]): [number, number] => [mhz * 1e6, db])
      .filter(([hz]) => hz <= most),
  })
  const stages = [...cableClasses.map(line), ...partClasses.map(part)]
  const groups = Array.from({ length: Math.ceil(stages.length / 16) }, (_, i) =>
    stages.slice(i * 16, i * 16 + 16),
  )
  const made = await h.call('POST', '/api/stations', { name: 'All of them' })
  for (const group of groups) {
    const { status, body } = await h.call(
      'POST',
      `/api/stations/${made.body.id}/chains`,
      chain(group),
    )
    expect([status, body.errors]).toEqual([201, undefined])
  }
  const file = await h.call('GET', `/api/stations/${made.body.id}/file`)
  const back = await h.call('POST', '/api/station-files', file.body)
  expect(back.status).toBe(201)
  const kept = await Promise.all(
    (back.body.chains as { id: string }[]).map(async ({ id }) =>
      h.call('GET', `/api/chains/${id}`),
    ),
  )
  const found = kept.flatMap(
    ({ body }) => body.document.stages as { gearId?: string; cable?: object }[],
  )
  expect(found).toHaveLength(stages.length)
  for (const stage of stages) expect(found).toContainEqual(expect.objectContaining(stage))
})

test('every class of cable goes into a plan', async () => {
  const [first, ...others] = cableClasses
  const document = chain([
    { id: 'run', kind: 'line', name: 'Run', lengthM: 20, cable: cableOf(first!) },
  ])
  const { status, body } = await h.call('POST', '/api/plan', {
    document,
    sections: [
      {
        stageId: 'run',
        // Each dearer than the one before by less than it saves: none is passed over.
        candidates: others.map((of, i) => ({ id: of.id, cable: cableOf(of), costPerM: i + 1 })),
      },
    ],
    counts: 'worst',
    costPerSection: 0,
  })
  expect([status, body.errors]).toEqual([200, undefined])
  expect(body.combinations).toBe(cableClasses.length)
})

test('a station begins with its chain, or not at all', async () => {
  const stations = async () => (await h.call('GET', '/api/stations')).body as { name: string }[]
  const [first] = cableClasses
  const line = { id: 'run', kind: 'line', name: 'Run', lengthM: 20, cable: cableOf(first!) }
  const made = await h.call('POST', '/api/stations', { name: 'With one', chain: chain([line]) })
  expect(made.status).toBe(201)
  expect(made.body.chains).toMatchObject([{ name: 'Every class' }])
  const before = await stations()
  for (const wrong of [
    chain([{ ...line, lengthM: -1 }]),
    {
      ...chain([line]),
      load: { kind: 'antenna', name: 'Vee', antennaId: 'none', sweepId: 'none' },
    },
  ]) {
    const refused = await h.call('POST', '/api/stations', { name: 'Without', chain: wrong })
    expect(refused.status).toBe(422)
    expect(refused.body.errors[0].pointer).toMatch(/^\/(chain\/)?(stages|load)/)
  }
  expect(await stations()).toEqual(before)
})

describe('a class of part', () => {
  test.each(partClasses.map((of) => [of.id, of] as const))(
    '%s is kept in a chain and solved',
    async (id, { part, name, pointsDb }) => {
      const points = pointsDb
        .map(([mhz, db]): [number, number] => [mhz * 1e6, db])
        .filter(([hz]) => hz <= most)
      const watts = await through(
        chain([{ id: 'part', kind: 'pad', part, name, gearId: id, points, lossDb: 0 }]),
      )
      expect(watts).toBeGreaterThan(0)
      expect(watts).toBeLessThanOrEqual(50)
    },
  )
})

describe('a filter', () => {
  const filters = partClasses.filter(({ passesMhz }) => passesMhz)

  test.each(filters.map((of) => [of.id, of] as const))(
    '%s lets its band through, and says that it blocks what is outside',
    async (gearId, { part, name, pointsDb, passesMhz }) => {
      const [low, high] = passesMhz!.map((mhz) => mhz * 1e6) as [number, number]
      const points = pointsDb.map(([mhz, db]) => [mhz * 1e6, db])
      const stage = { id: 'f', kind: 'pad', part, name, gearId, points, lossDb: 0 }
      const document = chain([{ ...stage, passes: [low, high] }])
      for (const hz of [low, Math.sqrt(low * high), high])
        expect(await through(document, hz)).toBeGreaterThan(40)
      const blocked = await h.call('POST', '/api/solve', {
        document,
        frequencyHz: high * 1.01,
        powerW: 50,
      })
      expect(blocked.status).toBe(422)
      expect(blocked.body.detail).toMatch(/This filter blocks .* Choose another filter/)
      const wrong = await h.call('POST', '/api/stations/merrow-point/chains', {
        ...chain([{ ...stage, passes: [high, low] }]),
      })
      expect(wrong.body.errors[0].message).toBe('What a filter lets through ends before it begins.')
    },
  )
})

test.each(modeTable.map(({ id }) => id))(
  'the mode %s is kept on a channel and solved',
  async (mode) => {
    expect(await through(chain([], { mode }))).toBeGreaterThan(45)
  },
)

test.each(runSheets.map((sheet) => [sheet.id, sheet] as const))(
  'the sheet %s is kept as one of the station’s own, and comes back as it was',
  async (id, { title, purpose, needs, steps }) => {
    const document = {
      name: `${title}, own`,
      purpose,
      version: 1,
      copiedFrom: id,
      needs: [...needs],
      steps: JSON.parse(JSON.stringify(steps)) as object[],
    }
    const kept = await h.call('POST', '/api/stations/merrow-point/gear', {
      kind: 'sheet',
      document,
    })
    expect(kept.body.errors ?? []).toEqual([])
    expect(kept.status).toBe(201)
    expect(kept.body.document).toEqual(document)
  },
)
