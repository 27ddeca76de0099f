import {
  type ChainState,
  newId,
  offeredThingSchema,
  type OfferedThing,
  suspectSchema,
  thingHistorySchema,
  thingSchema,
  type Thing,
  type ThingHistory,
  unmarkedThingSchema,
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
const bodyOf = ({ id: _, places: _places, name: _name, notes: _notes, ...body }: Thing) => body
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
    const stage = { ...arrester.stage!, lossDb: 0.12 }
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
  // What Gear keeps is offered with the stages that are it, once, and also where it stands in one chain alone.
  expect(offered.filter(({ stage }) => stage.name === 'Capstan')).toHaveLength(1)
  expect(offered.find(({ stage }) => stage.name === 'Bollard 500')!.places).toHaveLength(1)
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

const history = async (id: string): Promise<ThingHistory> => {
  const { status, body } = await h.call('GET', `/api/things/${id}/history`)
  expect(status, JSON.stringify(body)).toBe(200)
  return thingHistorySchema.parse(body)
}
const readAt = (chainId: string, before: string, forwardW: number, at: string) =>
  h.call('POST', `/api/chains/${chainId}/readings`, {
    ...{ before, channelId: 'c8', mode: 'CW', powerW: 100, frequencyHz: 14_100_000 },
    ...{ forwardW, reflectedW: 1, readAt: at },
  })

describe('its history', () => {
  test('says where it was, and until when; what was undone never happened', async () => {
    const patch = await marked('L1')
    const stays = async () =>
      Object.fromEntries(
        (await history(patch.id)).stays.map(({ chainId, stageId, to }) => [
          chainId,
          `${stageId}${to === null ? '' : ', until a day'}`,
        ]),
      )
    const both = { 'hf-amplifier': 'patch', 'hf-long-run': 'patch' }
    expect(await stays()).toEqual(both)
    await h.call('DELETE', `/api/things/${patch.id}/places/hf-amplifier`)
    expect(await stays()).toEqual({ ...both, 'hf-amplifier': 'patch, until a day' })
    const { revision: baseRevision, epoch } = await chain('hf-amplifier')
    await h.call('POST', '/api/chains/hf-amplifier/undo', { baseRevision, epoch })
    expect(await stays()).toEqual(both)
  })

  test('knows the losses of readings around it in any chain, by the watts that were read', async () => {
    const duct = await marked('L2')
    const { stages } = (await chain('hf-long-run')).document
    const at = stages.findIndex(({ id }) => id === 'duct')
    const behind = stages[at + 1]!.id
    // In two weeks that the demo’s record does not reach.
    for (const [days, farW] of [
      [12, 80],
      [4, 50],
    ] as const) {
      const at = Date.now() - days * 864e5
      const near = await readAt('hf-long-run', 'duct', 100, new Date(at).toISOString())
      expect(near.status, JSON.stringify(near.body)).toBe(201)
      await readAt('hf-long-run', behind, farW, new Date(at + 6e4).toISOString())
    }
    const { losses } = await history(duct.id)
    const own = losses.find(
      ({ chainId, channelId }) => chainId === 'hf-long-run' && channelId === 'c8',
    )!
    const [first, second] = own.points.slice(-2)
    expect(own.with).toEqual([])
    // 10·log₁₀(100/80) and 10·log₁₀(100/50), by hand.
    expect(first!.lossDb).toBeCloseTo(0.969, 3)
    expect(second!.lossDb).toBeCloseTo(3.0103, 3)
  })

  test('what it lost in one chain makes it suspect in the other, not in its own', async () => {
    const suspects = async (id: string) =>
      suspectSchema.array().parse((await h.call('GET', `/api/chains/${id}/suspects`)).body)
    const [found] = await suspects('hf-amplifier')
    expect(found).toMatchObject({ stageId: 'duct', mark: 'L2', chain: 'HF long run' })
    const { losses } = await history((await marked('L2')).id)
    const last = losses
      .find(({ chainId, channelId }) => chainId === 'hf-long-run' && channelId === 'c8')!
      .points.at(-1)!
    expect(found!.excessDb).toBeCloseTo(last.lossDb - last.expectedDb!, 6)
    expect(await suspects('hf-long-run')).toEqual([])
  })

  test('outlives a chain that was deleted', async () => {
    const duct = await marked('L2')
    await h.call('DELETE', '/api/chains/hf-amplifier')
    const { stays } = await history(duct.id)
    expect(stays.find(({ chainId }) => chainId === 'hf-amplifier')!.to).not.toBeNull()
    await h.call('POST', '/api/chains/hf-amplifier/restore')
  })

  test('goes along in a station file, though revisions do not', async () => {
    const patch = await marked('L1')
    await h.call('DELETE', `/api/things/${patch.id}/places/hf-amplifier`)
    const told = async (id: string) =>
      (await history(id)).stays
        .map(({ chain: name, stageId, to }) => `${name} ${stageId} ${to === null ? 'now' : 'then'}`)
        .toSorted((a, b) => a.localeCompare(b))
    const ours = await told(patch.id)
    expect(ours).toContain('HF with amplifier patch then')
    const file = (await h.call('GET', `${station}/file`)).body
    const made = (await h.call('POST', '/api/station-files', file)).body
    const there: Thing[] = (await h.call('GET', `/api/stations/${made.id}/things`)).body
    expect(await told(there.find(({ mark }) => mark === 'L1')!.id)).toEqual(ours)
    await h.call('POST', `/api/things/${patch.id}/places`, {
      ...{ chainId: 'hf-amplifier', stageId: 'patch' },
    })
  })

  test('of a radio is where it is the transmitter', async () => {
    const radio = await h.call('POST', `${station}/things`, {
      ...{ mark: 'R9', of: { kind: 'gear', id: 'petrel-125' } },
    })
    expect(radio.body.places.map((each: { chain: string }) => each.chain)).toContain('HF long run')
    const { stays } = await history(radio.body.id)
    expect(stays.find(({ chainId }) => chainId === 'hf-long-run')).toMatchObject({
      ...{ stageId: 'transmitter', to: null },
    })
    const file = (await h.call('GET', `${station}/file`)).body
    const made = (await h.call('POST', '/api/station-files', file)).body
    const there: Thing[] = (await h.call('GET', `/api/stations/${made.id}/things`)).body
    // Its chains still name it there, under the id that it has there.
    const names = (places: { chain: string }[]) => places.map(({ chain: name }) => name)
    expect(names(there.find(({ mark }) => mark === 'R9')!.places)).toEqual(names(radio.body.places))
    await h.call('DELETE', `/api/things/${radio.body.id}`)
  })

  test('of an instrument is where it was read', async () => {
    const made = await h.call('POST', `${station}/things`, {
      ...{ mark: 'M9', of: { kind: 'gear', id: 'skua' } },
    })
    expect(made.body.name).toBe('Skua')
    const { stays, losses } = await history(made.body.id)
    expect(stays.map(({ chainId }) => chainId)).toContain('vhf-mast')
    expect(losses).toEqual([])
    await h.call('DELETE', `/api/things/${made.body.id}`)
  })
})

describe('what is in Gear', () => {
  const unmarked = async () =>
    unmarkedThingSchema.array().parse((await h.call('GET', `${station}/things/unmarked`)).body)

  test('is offered with a free mark, and no more once it is a thing', async () => {
    const before = await unmarked()
    const { gear, antennas } = (await h.call('GET', station)).body
    const owned = (gear as { kind: string; id: string }[]).filter(
      ({ kind }) => kind === 'transmitter' || kind === 'instrument',
    )
    expect(before.map(({ of }) => of.id).sort()).toEqual(
      [...owned, ...antennas].map(({ id }: { id: string }) => id).sort(),
    )
    const antenna = before.find(({ of }) => of.kind === 'antenna')!
    const { mark, of } = antenna
    const made = await h.call('POST', `${station}/things`, { mark, of })
    expect(made.status, JSON.stringify(made.body)).toBe(201)
    // It stands in the chains that end in it.
    const ends = [...new Set(made.body.places.map(({ stageId }: { stageId: string }) => stageId))]
    expect(ends).toEqual(['load'])
    expect((await unmarked()).map(({ of: each }) => each.id)).not.toContain(of.id)
    const twice = await h.call('POST', `${station}/things`, { mark: 'N9', of })
    expect(twice.status).toBe(422)
    expect(twice.body.detail).toContain(`already, as ${mark}`)
    await h.call('DELETE', `/api/things/${made.body.id}`)
  })

  test.each([
    [
      'both a stage and an entry',
      {
        stage: { id: 'x', kind: 'pad', part: 'filter', name: 'F', lossDb: 0.2 },
        of: { kind: 'gear', id: 'skua' },
      },
    ],
    ['neither', {}],
    ['an entry that is not there', { of: { kind: 'gear', id: 'nobody' } }],
    ['an antenna of gear', { of: { kind: 'antenna', id: 'skua' } }],
  ])('%s is refused', async (_, what) => {
    const { status } = await h.call('POST', `${station}/things`, { mark: 'Q1', ...what })
    expect(status).toBe(422)
  })
})

test('moved to one chain, it is gone from the others, until it is brought back', async () => {
  const patch = await marked('L1')
  const gone = async () =>
    (await marked('L1')).places.map(({ chainId, gone: away }) => [chainId, away])
  const place = { chainId: 'hf-amplifier', stageId: 'patch' }
  const revision = (await chain('hf-amplifier')).revision
  await h.call('POST', `/api/things/${patch.id}/places`, { ...place, moved: true })
  expect(await gone()).toEqual([
    ['hf-long-run', true],
    ['hf-amplifier', false],
  ])
  // Nothing of either chain was changed by it.
  expect((await chain('hf-amplifier')).revision).toBe(revision)
  await h.call('POST', `/api/things/${patch.id}/places`, place)
  expect((await gone()).map(([, away]) => away)).toEqual([false, false])
})

test('repairs are noted, once however often they are sent, and kept through a change', async () => {
  const duct = await marked('L2')
  const noteId = newId()
  const note = { on: '2026-04-18', kind: 'repair', text: 'new connector at the far end' }
  for (let i = 0; i < 2; i++)
    expect((await h.call('PUT', `/api/things/${duct.id}/notes/${noteId}`, note)).status).toBe(200)
  await h.call('PUT', `/api/things/${duct.id}`, { ...bodyOf(duct), where: 'east duct' })
  expect(await marked('L2')).toMatchObject({ where: 'east duct', notes: [{ ...note, id: noteId }] })
  const file = (await h.call('GET', `${station}/file`)).body
  const made = (await h.call('POST', '/api/station-files', file)).body
  const there: Thing[] = (await h.call('GET', `/api/stations/${made.id}/things`)).body
  expect(there.find(({ mark }) => mark === 'L2')!.notes.map(({ text }) => text)).toEqual([
    note.text,
  ])
  await h.call('DELETE', `/api/things/${duct.id}/notes/${noteId}`)
  expect((await marked('L2')).notes).toEqual([])
  expect((await h.call('DELETE', `/api/things/${duct.id}/notes/${noteId}`)).status).toBe(404)
})

test('the table of the log says what was radiated, by readings in front of an antenna with a gain', async () => {
  await save('vhf-mast', (document) => {
    document.antennaGainDbi = 6
  })
  const read = await h.call('POST', '/api/chains/vhf-mast/readings', {
    ...{ before: 'load', channelId: 'c1', mode: 'FM', powerW: 25, frequencyHz: 145_000_000 },
    ...{ forwardW: 10, reflectedW: 1, note: 'radiated' },
  })
  expect(read.status, JSON.stringify(read.body)).toBe(201)
  const csv: string = (await h.call('GET', `${station}/log.csv`)).body
  const [head, ...rows] = csv.trim().split('\r\n')
  expect(head).toMatch(/,EIRP W$/)
  const [row] = rows.filter((line) => line.includes('radiated'))
  // 9 W and 6 dB: 9·10^0.6.
  expect(Number(row!.split(',').at(-1))).toBeCloseTo(35.8296, 3)
  // Elsewhere along the chain nobody can say.
  expect(rows.filter((line) => line.split(',').at(-1) !== '')).toEqual([row])
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
