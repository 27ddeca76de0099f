import {
  type ChainState,
  offeredThingSchema,
  type OfferedThing,
  thingSchema,
  type Thing,
} from '@saltline/contract'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { type Harness, startHarness } from './harness.ts'

let h: Harness
beforeAll(async () => {
  h = await startHarness()
})
afterAll(() => h.close())

const station = '/api/stations/merrow-point'
const all = async (): Promise<Thing[]> =>
  thingSchema.array().parse((await h.call('GET', `${station}/things`)).body)
const marked = async (mark: string) => (await all()).find((thing) => thing.mark === mark)!
const chain = async (id: string): Promise<ChainState> =>
  (await h.call('GET', `/api/chains/${id}`)).body
const stageOf = async (id: string, stageId: string) =>
  (await chain(id)).document.stages.find((stage) => stage.id === stageId)!
const offers = async (): Promise<OfferedThing[]> =>
  offeredThingSchema.array().parse((await h.call('GET', `${station}/things/offered`)).body)
const bodyOf = ({ id: _, places: _places, ...body }: Thing) => body
const save = async (id: string, change: (document: ChainState['document']) => void) => {
  const { document, revision: baseRevision, epoch } = await chain(id)
  change(document)
  return h.call('PUT', `/api/chains/${id}`, { baseRevision, epoch, document, summary: 'by hand' })
}

describe('a thing in two chains', () => {
  test('stands in both, equal', async () => {
    const duct = await marked('L2')
    expect(duct.places.map(({ chain: name, same }) => [name, same])).toEqual([
      ['HF long run', true],
      ['HF with amplifier', true],
    ])
    expect((await stageOf('hf-amplifier', 'duct')).thingId).toBe(duct.id)
  })

  test('changes in both by one revision each, and back by one more; earlier ones stay', async () => {
    const before = [await chain('hf-long-run'), await chain('hf-amplifier')]
    const duct = await marked('L2')
    const longer = { ...bodyOf(duct), stage: { ...duct.stage, lengthM: 52 } }
    const changed = await h.call('PUT', `/api/things/${duct.id}`, longer)
    expect(changed.status, JSON.stringify(changed.body)).toBe(200)
    for (const was of before) {
      const now = await chain(was.id)
      expect(now.revision).toBe(was.revision + 1)
      expect(now.document.stages.find(({ id }) => id === 'duct')).toMatchObject({ lengthM: 52 })
      // Nothing else of the chain moved.
      const without = (state: ChainState) => ({
        ...state.document,
        stages: state.document.stages.filter(({ id }) => id !== 'duct'),
      })
      expect(without(now)).toEqual(without(was))
      const old = (await h.call('GET', `/api/chains/${was.id}/revisions/${was.revision}`)).body
      expect(old).toEqual(was.document)
    }
    await h.call('PUT', `/api/things/${duct.id}`, bodyOf(duct))
    for (const was of before) expect((await chain(was.id)).document).toEqual(was.document)
  })

  test('keeps what belongs to its place: bypass there, dials there', async () => {
    await save('hf-amplifier', ({ stages }) => {
      stages.find(({ id }) => id === 'arrester')!.bypassed = true
    })
    const arrester = await marked('P1')
    // Bypassed is no difference of the thing.
    expect(arrester.places.map(({ same }) => same)).toEqual([true, true])
    const stage = { ...arrester.stage, lossDb: 0.12 }
    await h.call('PUT', `/api/things/${arrester.id}`, { ...bodyOf(arrester), stage })
    expect(await stageOf('hf-amplifier', 'arrester')).toMatchObject({
      lossDb: 0.12,
      bypassed: true,
    })
    expect(await stageOf('hf-long-run', 'arrester')).not.toHaveProperty('bypassed')
  })

  test('edited by hand in one, it differs there, is left alone, and can be taken back', async () => {
    await save('hf-long-run', ({ stages }) => {
      const patch = stages.find(({ id }) => id === 'patch')!
      if (patch.kind === 'line') patch.lengthM = 9
    })
    const patch = await marked('L1')
    expect(patch.places.map(({ same }) => same)).toEqual([false, true])
    const before = (await chain('hf-long-run')).revision
    const stage = { ...patch.stage, lengthM: 2 }
    await h.call('PUT', `/api/things/${patch.id}`, { ...bodyOf(patch), stage })
    expect(await stageOf('hf-long-run', 'patch')).toMatchObject({ lengthM: 9 })
    expect((await chain('hf-long-run')).revision).toBe(before)
    expect(await stageOf('hf-amplifier', 'patch')).toMatchObject({ lengthM: 2 })
    const place = { chainId: 'hf-long-run', stageId: 'patch' }
    expect((await h.call('POST', `/api/things/${patch.id}/places`, place)).status).toBe(201)
    expect(await stageOf('hf-long-run', 'patch')).toMatchObject({ lengthM: 2 })
    expect((await marked('L1')).places.every(({ same }) => same)).toBe(true)
  })

  test('an edit that was made on the chain before conflicts, and is kept aside', async () => {
    const { document, revision: baseRevision, epoch } = await chain('hf-long-run')
    const duct = await marked('L2')
    const stage = { ...duct.stage, lengthM: 47 }
    await h.call('PUT', `/api/things/${duct.id}`, { ...bodyOf(duct), stage })
    const late = await h.call('PUT', '/api/chains/hf-long-run', {
      ...{ baseRevision, epoch, document, summary: 'late' },
    })
    expect(late.status).toBe(409)
    expect(await stageOf('hf-long-run', 'duct')).toMatchObject({ lengthM: 47 })
  })
})

describe('what must not be', () => {
  test('one thing twice in a chain, by a save or by a place', async () => {
    const duct = await marked('L2')
    const twice = await save('hf-long-run', ({ stages }) => {
      stages.find(({ id }) => id === 'desk')!.thingId = duct.id
    })
    expect(twice.status).toBe(422)
    expect(JSON.stringify(twice.body)).toContain('One thing stands twice')
    const place = { chainId: 'hf-long-run', stageId: 'desk' }
    const again = await h.call('POST', `/api/things/${duct.id}/places`, place)
    expect(again.status).toBe(422)
    expect(again.body.detail).toContain('cannot stand twice')
  })

  test('one mark on two things, whatever the case of its letters', async () => {
    const made = await h.call('POST', `${station}/things`, {
      ...{ mark: 'l2', places: [] },
      stage: { id: 'x', kind: 'pad', part: 'filter', name: 'Filter', lossDb: 0.2 },
    })
    expect(made.status).toBe(422)
    expect(made.body.errors[0].pointer).toBe('/mark')
  })

  test('a thing made by half: with a place that will not do, none is made', async () => {
    const revisions = (await chain('vhf-mast')).revision
    const mast = await stageOf('vhf-mast', 'mast')
    const made = await h.call('POST', `${station}/things`, {
      ...{ mark: 'M1', stage: mast },
      places: [
        { chainId: 'vhf-mast', stageId: 'mast' },
        { chainId: 'mf-hf-whip', stageId: 'no-such-stage' },
      ],
    })
    expect(made.status).toBe(404)
    expect((await all()).map(({ mark }) => mark)).not.toContain('M1')
    expect((await chain('vhf-mast')).revision).toBe(revisions)
    expect((await stageOf('vhf-mast', 'mast')).thingId).toBeUndefined()
  })

  test('a cable becomes no arrester', async () => {
    const duct = await marked('L2')
    const stage = { id: 'x', kind: 'pad', part: 'filter', name: 'Filter', lossDb: 0.2 }
    const wrong = await h.call('PUT', `/api/things/${duct.id}`, { ...bodyOf(duct), stage })
    expect(wrong.status).toBe(422)
    const place = { chainId: 'vhf-mast', stageId: 'arrester' }
    expect((await h.call('POST', `/api/things/${duct.id}/places`, place)).status).toBe(422)
  })
})

test('equal stages are offered as one thing, and joined; things of the demo are not offered again', async () => {
  const offered = await offers()
  const names = offered.map(({ stage }) => stage.name)
  // Both HF chains have them; a patch lead of another length is another lead.
  expect(names).toEqual(expect.arrayContaining(['Wattmeter', 'Desk lead', 'Choke', 'Capstan']))
  expect(names).not.toContain('Duct run')
  expect(new Set(offered.map(({ mark }) => mark)).size).toBe(offered.length)
  const desk = offered.find(({ stage }) => stage.name === 'Desk lead')!
  expect(desk.mark).toBe('L3')
  const dials = (await stageOf('hf-long-run', 'tuner')) as { dials?: unknown }
  const tuner = offered.find(({ stage }) => stage.name === 'Capstan')!
  for (const each of [desk, tuner]) {
    const { status, body } = await h.call('POST', `${station}/things`, each)
    expect(status, JSON.stringify(body)).toBe(201)
    expect(body.places).toHaveLength(2)
  }
  // The marks on its dials stay with the chain that they were noted for.
  expect((await stageOf('hf-long-run', 'tuner')) as object).toMatchObject({ dials: dials.dials })
  expect((await stageOf('hf-amplifier', 'tuner')) as object).not.toHaveProperty('dials')
  expect((await offers()).map(({ stage }) => stage.name)).not.toContain('Desk lead')
})

test('deleted it waits in the bin, and its stages stay; another may take its mark, but not both', async () => {
  const desk = await marked('L3')
  await h.call('DELETE', `/api/things/${desk.id}`)
  expect(await marked('L3')).toBeUndefined()
  expect(await stageOf('hf-long-run', 'desk')).toMatchObject({ name: 'Desk lead' })
  const other = await h.call('POST', `${station}/things`, { ...bodyOf(desk), places: [] })
  expect(other.status).toBe(201)
  expect((await h.call('POST', `/api/things/${desk.id}/restore`)).status).toBe(422)
  await h.call('DELETE', `/api/things/${other.body.id}`)
  expect((await h.call('POST', `/api/things/${desk.id}/restore`)).status).toBe(200)
  expect((await marked('L3')).places).toHaveLength(2)
})

test('a stage is let go, with its figures', async () => {
  const desk = await marked('L3')
  const was = await stageOf('hf-amplifier', 'desk')
  await h.call('DELETE', `/api/things/${desk.id}/places/hf-amplifier`)
  const { thingId: _, ...rest } = was
  expect(await stageOf('hf-amplifier', 'desk')).toEqual(rest)
  expect((await marked('L3')).places.map(({ chainId }) => chainId)).toEqual(['hf-long-run'])
})

test('a station file takes things along, and chains still stand in them', async () => {
  const file = (await h.call('GET', `${station}/file`)).body
  const made = (await h.call('POST', '/api/station-files', file)).body
  const there: Thing[] = (await h.call('GET', `/api/stations/${made.id}/things`)).body
  const told = (things: Thing[]) =>
    things.map(({ mark, stage, places }) => [mark, stage, places.map((p) => [p.chain, p.same])])
  expect(told(there)).toEqual(told(await all()))
  const ours = new Set((await all()).map(({ id }) => id))
  expect(there.some(({ id }) => ours.has(id))).toBe(false)
})
