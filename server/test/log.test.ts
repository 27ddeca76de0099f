import { type Reading, readingSchema, type ReadingBody } from '@saltline/contract'
import { sql } from 'drizzle-orm'
import Papa from 'papaparse'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { type Harness, startHarness } from './harness.ts'

let h: Harness
beforeAll(async () => {
  h = await startHarness()
})
afterAll(() => h.close())

const station = '/api/stations/merrow-point'
const chain = '/api/chains/mf-hf-whip'
const reading: ReadingBody = {
  channelId: 'c4',
  frequencyHz: 4.146e6,
  mode: 'FM',
  powerW: 100,
  before: 'wall',
  forwardW: 97,
  reflectedW: 0.4,
}
const post = (body: object, path = chain) => h.call('POST', `${path}/readings`, body)

describe('a reading', () => {
  test('comes back with its place, its round and what was expected', async () => {
    const { status, body } = await post({
      ...reading,
      supplyV: 13.6,
      weather: 'hail',
      by: 'first desk',
    })
    expect(status).toBe(201)
    const kept = readingSchema.parse(body)
    expect(kept.place).toBe('input of Sea-wall run')
    expect(kept.lowW!).toBeLessThan(kept.expectedW!)
    expect(kept.highW!).toBeGreaterThan(kept.expectedW!)
    expect(kept.expectedW!).toBeGreaterThan(80)
    expect(kept.expectedW!).toBeLessThan(101)
    expect(kept.inside).toBe(true)
  })

  test('into a load is held against the load, and is no part of the years', async () => {
    const at = { readAt: '2024-03-09T10:00:00.000Z' }
    const aired = await post({ ...reading, ...at, before: 'load', forwardW: 60 })
    const { status, body } = await post({
      ...{ ...reading, ...at, before: 'load', forwardW: 60, reflectedW: 0 },
      farEnd: 'load',
    })
    expect(status).toBe(201)
    const kept = readingSchema.parse(body)
    expect(kept.farEnd).toBe('load')
    expect(kept.expectedSwr).toBeCloseTo(1, 6)
    expect(aired.body).toMatchObject({ farEnd: 'antenna' })
    expect(aired.body.expectedSwr).toBeGreaterThan(1.02)
    const day = await h.call('GET', `/api/rounds/${kept.roundId}`)
    expect(day.body.readings.map((own: Reading) => own.farEnd).toSorted()).toEqual([
      'antenna',
      'load',
    ])
    const means = await h.db.all<{ n: number; rho: number }>(
      sql`SELECT count(*) AS n, max(rho) AS rho FROM round_means WHERE round_id = ${kept.roundId}`,
    )
    expect(means[0]!.n).toBe(1)
    expect(means[0]!.rho).toBeCloseTo(Math.sqrt(0.4 / 60), 6)
    const corrected = await h.call('PUT', `/api/readings/${kept.id}`, {
      ...{ ...reading, ...at, before: 'load', forwardW: 60 },
    })
    expect(corrected.body).toMatchObject({
      farEnd: 'antenna',
      expectedSwr: aired.body.expectedSwr,
    })
    const wrong = await post({ ...reading, farEnd: 'kite' })
    expect(wrong.status).toBe(422)
    expect(JSON.stringify(wrong.body)).toContain('farEnd')
  })

  test('from the other end of the cable joins the same round', async () => {
    const near = await post({ ...reading, readAt: '2025-05-03T10:00:00.000Z' })
    const far = await post({
      ...reading,
      before: 'load',
      by: 'mast foot',
      forwardW: 70,
      readAt: '2025-05-03T10:02:00.000Z',
    })
    const later = await post({ ...reading, readAt: '2025-05-04T10:00:00.000Z' })
    expect(far.body.roundId).toBe(near.body.roundId)
    expect(far.body.place).toBe('at the antenna')
    expect(later.body.roundId).not.toBe(near.body.roundId)
    const round = await h.call('GET', `/api/rounds/${near.body.roundId}`)
    expect(round.body).toMatchObject({ readingCount: 2, lastAt: '2025-05-03T10:02:00.000Z' })
    const noted = await h.call('PUT', `/api/rounds/${near.body.roundId}`, { note: 'new joint' })
    expect(noted.body.note).toBe('new joint')
  })

  test('the newest session of each chain is told, with its counts', async () => {
    const other = '/api/chains/hf-amplifier'
    const last = async () =>
      (await h.call('GET', `${station}/rounds/last`)).body.find(
        ({ chainId }: { chainId: string }) => chainId === 'hf-amplifier',
      )
    expect(await last()).toBeUndefined()
    const at = (days: number) => new Date(Date.now() - days * 864e5).toISOString()
    const low = { ...reading, before: 'load', forwardW: 1 }
    const { body: older } = await post({ ...low, readAt: at(2) }, other)
    expect(await last()).toMatchObject({ id: older.roundId, readingCount: 1, outsideCount: 1 })
    const { body: newer } = await post({ ...low, readAt: at(1) }, other)
    expect(newer.roundId).not.toBe(older.roundId)
    expect(await last()).toMatchObject({ id: newer.roundId })
    await h.call('DELETE', `/api/readings/${newer.id}`)
    expect(await last()).toMatchObject({ id: older.roundId })
  })

  test('half of what was expected is outside', async () => {
    const { body } = await post({ ...reading, forwardW: 48, readAt: '2025-06-01T10:00:00.000Z' })
    expect(body.inside).toBe(false)
  })

  test('is corrected, deleted, and taken back', async () => {
    const { body } = await post({ ...reading, forwardW: 10, readAt: '2025-07-01T10:00:00.000Z' })
    const put = await h.call('PUT', `/api/readings/${body.id}`, { ...reading, forwardW: 96 })
    expect(put.body).toMatchObject({ forwardW: 96, inside: true, readAt: body.readAt })
    const address = `/api/readings/${body.id}`
    expect((await h.call('DELETE', address)).status).toBe(200)
    expect((await h.call('PUT', address, reading)).status).toBe(404)
    expect((await h.call('POST', `${address}/restore`)).status).toBe(200)
    expect((await h.call('PUT', address, reading)).status).toBe(200)
  })

  test('of a calibrated instrument is corrected, and what it showed is kept; so it is when it is corrected again', async () => {
    const { body: gear } = await h.call('POST', '/api/stations/merrow-point/gear', {
      kind: 'instrument',
      document: {
        name: 'Old faithful',
        type: 'through-line',
        kind: 'averaging',
        rangesW: [200],
        accuracy: 0.1,
        calibration: {
          on: '2026-05-01',
          points: [
            [50, 45],
            [100, 92],
          ],
          doubt: 0.03,
        },
      },
    })
    const { status, body } = await post({
      ...reading,
      forwardW: 100,
      reflectedW: 10,
      instrumentId: gear.id,
    })
    expect(status).toBe(201)
    expect(body).toMatchObject({
      forwardW: 92,
      reflectedW: 9,
      shownForwardW: 100,
      shownReflectedW: 10,
    })
    const again = await h.call('PUT', `/api/readings/${body.id}`, {
      ...reading,
      forwardW: 50,
      reflectedW: undefined,
      instrumentId: gear.id,
    })
    expect(again.body).toMatchObject({ forwardW: 45, shownForwardW: 50, shownReflectedW: null })
    // What is left of its error is what calibration left, not what its maker promises.
    expect(again.body.highW / again.body.lowW).toBeLessThan(1.4)
  })

  test('carries its instrument, whose accuracy widens or narrows what is expected', async () => {
    const gear = (accuracy: number) =>
      h.call('POST', `${station}/gear`, {
        kind: 'instrument',
        document: {
          name: `Meter ${accuracy}`,
          type: 'power meter',
          kind: 'averaging',
          rangesW: [],
          accuracy,
        },
      })
    const [fine, rough] = await Promise.all([gear(0.01), gear(0.2)])
    const [a, b] = await Promise.all(
      [fine, rough].map(({ body }) => post({ ...reading, instrumentId: body.id })),
    )
    expect(a!.body.instrument).toBe('Meter 0.01')
    const width = (body: { highW: number; lowW: number }) => body.highW - body.lowW
    expect(width(b!.body)).toBeGreaterThan(width(a!.body) * 1.3)
  })

  test('on a frequency that the antenna was not swept on has nothing expected of it', async () => {
    const { status, body } = await post({ ...reading, frequencyHz: 400e6 })
    expect(status).toBe(201)
    expect(body).toMatchObject({ expectedW: null, inside: true })
  })

  test.each([
    [{ forwardW: undefined, reflectedW: undefined }, '/forwardW', /forward power, or an SWR/],
    [{ reflectedW: 120 }, '/reflectedW', /turned round/],
    [{ before: 'attic' }, '/before', /no place on this chain/],
    [{ instrumentId: 'nosuch' }, '/instrumentId', /no such instrument/],
    [{ readAt: 'yesterday' }, '/readAt', /./],
    [{ supplyV: -3 }, '/supplyV', /between 0 and 1000 V/],
  ])('%j is refused at its field', async (change, pointer, words) => {
    const { status, body } = await post({ ...reading, ...change })
    expect(status).toBe(422)
    expect(body.errors[0].pointer).toBe(pointer)
    expect(body.errors[0].message).toMatch(words)
  })

  test('cannot join a round of another chain', async () => {
    const { body } = await post(reading)
    const other = await post(
      { ...reading, before: 'mast', frequencyHz: 156e6, powerW: 25, roundId: body.roundId },
      '/api/chains/vhf-mast',
    )
    expect(other.status).toBe(404)
  })
})

describe('a reading with an identity of its own', () => {
  const put = (id: string, body: object, chain = 'hf-long-run') =>
    h.call('PUT', `/api/chains/${chain}/readings/${id}`, body)
  const own = { frequencyHz: 8.294e6, mode: 'data', powerW: 80, before: 'load', forwardW: 41 }

  test('is kept once, however often it is sent, and whatever became of it', async () => {
    const first = await put('typed-once', own)
    expect(first.body).toMatchObject({ id: 'typed-once', forwardW: 41 })
    const twice = await Promise.all([put('typed-once', own), put('typed-once', own)])
    for (const { status, body } of twice) expect([status, body]).toEqual([200, first.body])
    const { body: round } = await h.call('GET', `/api/rounds/${first.body.roundId}`)
    expect(round.readings.filter(({ id }: { id: string }) => id === 'typed-once')).toHaveLength(1)

    const corrected = await h.call('PUT', '/api/readings/typed-once', { ...own, forwardW: 38 })
    expect((await put('typed-once', own)).body).toEqual(corrected.body)
    await h.call('DELETE', '/api/readings/typed-once')
    expect((await put('typed-once', own)).status).toBe(200)
    const { body: after } = await h.call('GET', `/api/rounds/${first.body.roundId}`)
    expect(after.readings.some(({ id }: { id: string }) => id === 'typed-once')).toBe(false)
  })

  test('sent many times at once it is still one', async () => {
    const all = await Promise.all(Array.from({ length: 8 }, () => put('at-once', own)))
    expect(new Set(all.map(({ status }) => status))).toEqual(new Set([200]))
    const { body: page } = await h.call(
      'GET',
      '/api/stations/merrow-point/readings?chain=hf-long-run&limit=500',
    )
    expect(page.readings.filter(({ id }: { id: string }) => id === 'at-once')).toHaveLength(1)
  })

  test('belongs to its chain, and is an identity', async () => {
    await put('of-one', own)
    const other = await put('of-one', { ...own, before: 'load' }, 'vhf-mast')
    expect([other.status, other.body.title]).toEqual([
      409,
      'Another chain has a reading of this identity',
    ])
    expect((await put('Not An Id', own)).status).toBe(404)
    const { status, body } = await put('bad-one', { ...own, reflectedW: 50 })
    expect([status, body.errors[0].pointer]).toEqual([422, '/reflectedW'])
  })
})

describe('many readings', () => {
  const many = (readings: object[]) => h.call('POST', `${chain}/readings/many`, { readings })

  test('are taken back together, and each can come back', async () => {
    const total = async () =>
      (await h.call('GET', `${station}/readings?limit=0&chain=mf-hf-whip`)).body.total as number
    const before = await total()
    const { ids } = (await many([reading, reading, reading])).body
    expect(ids).toHaveLength(3)
    expect(await total()).toBe(before + 3)
    const remove = (of: string, which: string[]) =>
      h.call('POST', `/api/chains/${of}/readings/delete`, { ids: which })
    // Of another chain they are not found; what is gone already is not counted again.
    expect((await remove('hf-long-run', ids)).body.deleted).toBe(0)
    expect((await remove('mf-hf-whip', ids)).body.deleted).toBe(3)
    expect((await remove('mf-hf-whip', ids)).body.deleted).toBe(0)
    expect((await remove('none', ids)).status).toBe(404)
    expect(await total()).toBe(before)
    await h.call('POST', `/api/readings/${ids[0]}/restore`)
    expect(await total()).toBe(before + 1)
    await remove('mf-hf-whip', ids)
  })

  test('come back as they were kept, and are known when they come again', async () => {
    const at = (minute: number) => `2021-06-01T09:0${minute}:00.000Z`
    const kept = {
      ...{ place: 'input of the old run', instrument: 'Gannet', inside: false },
      ...{ shownForwardW: 97.123456789, shownReflectedW: null },
      ...{ expectedW: 90, lowW: 85.5, highW: 95.25, expectedSwr: 1.2, lowSwr: 1.1, highSwr: 1.5 },
    }
    const old = { ...reading, forwardW: 99.25, reflectedW: undefined, readAt: at(1), kept }
    const own = { ...reading, readAt: at(2) }
    const already = async (readings: object[]) =>
      (await h.call('POST', `${chain}/readings/already`, { readings })).body.already as number[]
    expect(await already([old, own])).toEqual([])
    const { ids } = (await many([old, own])).body
    const page = await h.call('GET', `${station}/readings?from=2021-06-01&to=2021-06-01`)
    const [second, first] = page.body.readings
    expect(first).toMatchObject({ ...kept, forwardW: 99.25 })
    expect([second.place, second.shownForwardW]).not.toEqual([kept.place, kept.shownForwardW])
    expect(second.expectedW).toBeGreaterThan(0)
    // By what the meter showed, at its moment and place; each as often as it is there; without a date never.
    const swr = { ...own, swr: 1.7 }
    expect(await already([own, swr, own, { ...own, before: 'load' }, old, reading])).toEqual([0, 4])
    const shown = { ...old, forwardW: kept.shownForwardW, kept: undefined }
    expect(await already([{ ...old, readAt: at(3) }, shown])).toEqual([1])
    // Into a load it is another reading.
    expect(
      await already([
        { ...own, farEnd: 'load' },
        { ...own, farEnd: 'antenna' },
      ]),
    ).toEqual([1])
    await h.call('POST', `${chain}/readings/delete`, { ids })
    expect(await already([old, own])).toEqual([])
    const bad = await many([{ ...old, kept: { ...kept, lowW: 'few' } }])
    expect([bad.status, bad.body.errors[0].pointer]).toEqual([422, '/readings/0/kept/lowW'])
  })

  test('are kept together, each day its own round', async () => {
    const days = ['2024-03-01', '2024-03-02', '2024-03-03']
    const { status, body } = await many(
      days.map((day) => ({ ...reading, readAt: `${day}T12:00:00.000Z` })),
    )
    expect(status).toBe(201)
    expect(body.added).toBe(3)
    const page = await h.call(
      'GET',
      `${station}/readings?chain=mf-hf-whip&from=2024-03-01&to=2024-03-03`,
    )
    expect(page.body.total).toBe(3)
    expect(new Set(page.body.readings.map((r: { roundId: string }) => r.roundId)).size).toBe(3)
    expect(page.body.readings[0].readAt).toBe('2024-03-03T12:00:00.000Z')
  })

  test('one bad one is named, and none is kept', async () => {
    const at = '2023-01-01T12:00:00.000Z'
    const { status, body } = await many([
      { ...reading, readAt: at },
      { ...reading, readAt: at, before: 'attic' },
    ])
    expect(status).toBe(422)
    expect(body.errors[0].pointer).toBe('/readings/1/before')
    const page = await h.call('GET', `${station}/readings?from=2023-01-01&to=2023-01-01`)
    expect(page.body.total).toBe(0)
  })

  test('are filtered and paged', async () => {
    const outside = await h.call('GET', `${station}/readings?chain=mf-hf-whip&outside=true`)
    expect(outside.body.readings.every((r: { inside: boolean }) => !r.inside)).toBe(true)
    expect(outside.body.total).toBeGreaterThan(0)
    const first = await h.call('GET', `${station}/readings?chain=mf-hf-whip&limit=2`)
    const second = await h.call('GET', `${station}/readings?chain=mf-hf-whip&limit=2&offset=2`)
    expect(first.body.readings).toHaveLength(2)
    expect(second.body.readings[0].id).not.toBe(first.body.readings[1].id)
    const text = await h.call('GET', `${station}/readings?text=hail&chain=mf-hf-whip`)
    expect(text.body.total).toBe(1)
    const wrong = await h.call('GET', `${station}/readings?limit=many`)
    expect(wrong.status).toBe(422)
    expect(wrong.body.errors[0].pointer).toBe('/limit')
  })
})

test('words are found page by page, each reading once; one without them has nothing after it', async () => {
  const at = (day: number) => `2019-06-${String(day).padStart(2, '0')}T10:00:00.000Z`
  const kept = await Promise.all(
    [1, 2, 3, 4, 5].map((day) => post({ ...reading, note: 'kelp on the wire', readAt: at(day) })),
  )
  const other = await post({ ...reading, note: 'clean', readAt: at(9) })
  const pages: string[][] = []
  for (let after: string | null = ''; after !== null;) {
    const { body } = await h.call(
      'GET',
      `${station}/readings?text=kelp&limit=2${after && `&after=${after}`}`,
    )
    expect(body.total).toBe(5)
    pages.push(body.readings.map(({ id }: { id: string }) => id))
    after = body.next
  }
  const newestFirst = kept.map(({ body }) => body.id as string).reverse()
  expect(pages.flat()).toEqual(newestFirst)
  expect(pages.map((page) => page.length)).toEqual([2, 2, 1])
  const nothing = await h.call('GET', `${station}/readings?text=kelp&after=${other.body.id}`)
  expect(nothing.body).toMatchObject({ readings: [], next: null })
})

describe('corrections and pointers', () => {
  test('a correction is held to the same rules as an entry', async () => {
    const { body } = await post({ ...reading, readAt: '2020-01-01T10:00:00.000Z' })
    const put = (change: object) =>
      h.call('PUT', `/api/readings/${body.id}`, { ...reading, ...change })
    const nowhere = await put({ before: 'attic' })
    expect(nowhere.status).toBe(422)
    expect(nowhere.body.errors[0].pointer).toBe('/before')
    expect(nowhere.body.errors[0].message).toMatch(/Known are “patch”, .*“load”/)
    const withNothing = await put({ instrumentId: 'nosuch' })
    expect(withNothing.body.errors[0].pointer).toBe('/instrumentId')
    expect(withNothing.body.errors[0].message).toMatch(/Add it under Gear/)
    // What was refused changed nothing.
    const round = await h.call('GET', `/api/rounds/${body.roundId}`)
    expect(round.body.readings[0]).toEqual(body)
  })

  test('a list of one is still a list', async () => {
    const { body } = await h.call('POST', `${chain}/readings/many`, {
      readings: [{ ...reading, before: 'attic' }],
    })
    expect(body.errors[0].pointer).toBe('/readings/0/before')
  })

  test('an empty list, and one that is too long, are refused', async () => {
    const many = (readings: object[]) => h.call('POST', `${chain}/readings/many`, { readings })
    expect((await many([])).body.errors[0].message).toMatch(/no reading/)
    const long = Array.from({ length: 20_001 }, () => ({ ...reading, before: 'wall' }))
    const { status, body } = await many(long)
    expect(status).toBe(422)
    expect(body.errors[0].message).toMatch(/At most 20 000/)
  })

  test('a reading keeps what was expected of it when its chain is edited', async () => {
    const made = await h.call('POST', `${station}/chains`, {
      ...(await h.call('GET', '/api/chains/vhf-mast')).body.document,
      name: 'To be edited',
    })
    const fm = {
      channelId: 'c1',
      frequencyHz: 156.45e6,
      mode: 'FM',
      powerW: 25,
      before: 'load',
      forwardW: 14,
    }
    const path = `/api/chains/${made.body.id}`
    const before = (await h.call('POST', `${path}/readings`, fm)).body
    const document = made.body.document
    const mast = document.stages.find((s: { id: string }) => s.id === 'mast')
    mast.ageing = { factor: 3, reason: 'wet' }
    await h.call('PUT', path, { baseRevision: 1, document, summary: 'aged' })
    const round = await h.call('GET', `/api/rounds/${before.roundId}`)
    expect(round.body.readings[0].expectedW).toBe(before.expectedW)
    const after = (await h.call('POST', `${path}/readings`, fm)).body
    expect(after.expectedW).toBeLessThan(before.expectedW * 0.6)
    expect(after.roundId).toBe(before.roundId)
  })

  test('the readings of a chain that was deleted lie in the bin with it', async () => {
    const made = await h.call('POST', `${station}/chains`, {
      ...(await h.call('GET', '/api/chains/vhf-mast')).body.document,
      name: 'Short-lived',
    })
    const fm = { frequencyHz: 156.45e6, mode: 'FM', powerW: 25, before: 'load', forwardW: 14 }
    await h.call('POST', `/api/chains/${made.body.id}/readings`, fm)
    await h.call('DELETE', `/api/chains/${made.body.id}`)
    const page = await h.call('GET', `${station}/readings?chain=${made.body.id}`)
    expect(page.body.total).toBe(0)
    const { body: bin } = await h.call('GET', `${station}/bin`)
    expect(bin).toContainEqual(expect.objectContaining({ id: made.body.id, readings: 1 }))
    expect((await h.call('POST', `/api/chains/${made.body.id}/readings`, fm)).status).toBe(404)
    expect((await h.call('GET', `${station}/alerts`)).status).toBe(200)
  })

  test('two stations do not see each other’s readings', async () => {
    const other = (await h.call('POST', '/api/stations', { name: 'Elsewhere' })).body
    const page = await h.call('GET', `/api/stations/${other.id}/readings`)
    expect(page.body).toMatchObject({ total: 0, offset: 0, readings: [], next: null })
    expect((await h.call('GET', `/api/stations/${other.id}/alerts`)).body).toEqual([])
    const { body } = await h.call('GET', `/api/stations/${other.id}/log.csv`)
    expect((body as string).trim().split('\r\n')).toHaveLength(1)
    expect((await h.call('GET', '/api/stations/nowhere/log.csv')).status).toBe(404)
  })

  test('two readings posted at once meet in one round', async () => {
    const at = '2019-06-01T10:00:00.000Z'
    const both = await Promise.all([
      post({ ...reading, readAt: at, by: 'desk' }),
      post({ ...reading, before: 'load', forwardW: 70, readAt: at, by: 'mast foot' }),
    ])
    expect(both.map(({ status }) => status)).toEqual([201, 201])
    expect(both[0].body.roundId).toBe(both[1].body.roundId)
  })
})

describe('over the years', () => {
  test('rounds give one row a place, whatever meters were used', async () => {
    const at = '2022-05-01T12:00:00.000Z'
    await post({ ...reading, forwardW: 90, readAt: at })
    await post({ ...reading, forwardW: 100, readAt: at })
    const { body } = await h.call('GET', `${chain}/years/c4`)
    const row = body.find((r: { at: string }) => r.at === at)
    expect(row.forwardW).toBeCloseTo(95, 9)
    expect(row.before).toBe('wall')
  })

  test('events are noted, listed and taken back', async () => {
    const event = { chainId: 'mf-hf-whip', on: '2026-01-14', text: 'Storm' }
    const { body } = await h.call('POST', '/api/events', event)
    expect((await h.call('GET', `${chain}/events`)).body).toEqual([{ ...event, id: body.id }])
    await h.call('DELETE', `/api/events/${body.id}`)
    expect((await h.call('GET', `${chain}/events`)).body).toEqual([])
    await h.call('POST', `/api/events/${body.id}/restore`)
    expect((await h.call('GET', `${chain}/events`)).body).toHaveLength(1)
    const wrong = await h.call('POST', '/api/events', { ...event, on: '14 January' })
    expect(wrong.body.errors[0].message).toMatch(/year-month-day/)
  })

  test('a loss that grew is called out, one that did not is not', async () => {
    const quiet = await h.call('POST', `${station}/chains`, {
      ...(await h.call('GET', '/api/chains/vhf-mast')).body.document,
      name: 'Second mast',
    })
    const months = Array.from({ length: 24 }, (_, i) =>
      new Date(Date.UTC(2024, i, 10, 9)).toISOString(),
    )
    const fm = { channelId: 'c1', frequencyHz: 156.45e6, mode: 'FM', powerW: 25 }
    const readings = months.flatMap((readAt, i) => {
      const wobble = 0.05 * Math.sin(i * 2.4)
      const worse = i < 16 ? 0 : 0.7
      return [
        { ...fm, before: 'mast', forwardW: 23.5, readAt },
        { ...fm, before: 'load', forwardW: 23.5 * 10 ** (-(1.6 + worse + wobble) / 10), readAt },
      ]
    })
    const path = `/api/chains/${quiet.body.id}/readings/many`
    expect((await h.call('POST', path, { readings })).status).toBe(201)
    const { body } = await h.call('GET', `${station}/alerts`)
    const own = body.filter((a: { chainId: string }) => a.chainId === quiet.body.id)
    const loss = own.find((a: { kind: string }) => a.kind === 'loss')
    expect(loss.text.replaceAll('\u00a0', ' ')).toBe(
      'Mast run: 0.7 dB more than in December 2024, on 156.450 MHz',
    )
    expect(loss.since.slice(0, 7)).toBe('2025-05')
    expect(own.filter((a: { kind: string }) => a.kind === 'power')).toEqual([])
  })
})

describe('bench sheets', () => {
  test('are kept, listed newest first, and taken back', async () => {
    const sheet = {
      kind: 'substitution',
      title: 'Duct run',
      chainId: 'hf-long-run',
      stageId: 'duct',
      inputs: { points: [{ frequencyHz: 7e6, directW: 100, throughW: 80 }] },
      result: { what: 'loss', unit: 'dB', value: 0.97, low: 0.8, high: 1.1, frequencyHz: 7e6 },
    }
    const first = await h.call('POST', `${station}/measurements`, sheet)
    await h.call('POST', `${station}/measurements`, { ...sheet, title: 'Again', result: null })
    const { body } = await h.call('GET', `${station}/measurements`)
    const mine = body.filter(({ title }: { title: string }) => /Duct run|Again/.test(title))
    expect(mine.map(({ title }: { title: string }) => title)).toEqual(['Again', 'Duct run'])
    expect(mine[1]).toMatchObject(sheet)
    await h.call('DELETE', `/api/measurements/${first.body.id}`)
    const left = (await h.call('GET', `${station}/measurements`)).body
    expect(left.some(({ id }: { id: string }) => id === first.body.id)).toBe(false)
  })
})

describe('the log as a file', () => {
  test('CSV has a head, a line a reading, and quotes what needs it', async () => {
    await post({ ...reading, note: 'wet, "odd" joint', readAt: '2018-01-01T00:00:00.000Z' })
    const { body, headers } = await h.call('GET', `${station}/log.csv`)
    expect(headers.get('content-disposition')).toMatch(/merrow-point-log-\d{4}-\d\d-\d\d\.csv/)
    const lines = (body as string).trim().split('\r\n')
    expect(lines[0]).toContain('read at,chain,chain id,channel id,frequency MHz')
    expect(lines[1]).toContain('"wet, ""odd"" joint"')
    const { total } = (await h.call('GET', `${station}/readings?limit=0`)).body
    expect(lines).toHaveLength(total + 1)
  })

  test('is what its list shows, filtered by the same figures and words', async () => {
    await post({ ...reading, note: 'gull on the whip', readAt: '2018-02-01T00:00:00.000Z' })
    for (const filter of [
      'chain=mf-hf-whip',
      'chain=hf-long-run&outside=true',
      'from=2018-01-01&to=2018-12-31',
      'text=gull',
      'chain=mf-hf-whip&before=load',
    ]) {
      const { total } = (await h.call('GET', `${station}/readings?limit=0&${filter}`)).body
      const csv = (await h.call('GET', `${station}/log.csv?${filter}`)).body as string
      expect(csv.trim().split('\r\n'), filter).toHaveLength(total + 1)
      const json = (await h.call('GET', `${station}/log.json?${filter}`)).body
      expect(json.readings, filter).toHaveLength(total)
    }
    const all = (await h.call('GET', `${station}/readings?limit=0`)).body.total
    expect((await h.call('GET', `${station}/readings?limit=0&text=gull`)).body.total).toBe(1)
    expect(all).toBeGreaterThan(1)
    expect((await h.call('GET', `${station}/log.csv?from=yesterday`)).status).toBe(422)
  })

  test('a long log is written by two threads, and reads as if by one', async () => {
    const { body: kept } = await post({ ...reading, readAt: '2019-01-01T00:00:00.000Z' })
    // Seven of each moment, so that the place where it is divided lies among equals.
    const columns = (
      await h.db.all<{ name: string }>(sql`SELECT name FROM pragma_table_info('readings')`)
    ).map(({ name }) => name)
    const value: Record<string, string> = {
      n: 'NULL',
      id: "'long' || i",
      read_at: "strftime('%Y-%m-%dT%H:%M:%fZ', 1483228800 + i / 7, 'unixepoch')",
      forward_w: '90 + i / 1000.0',
      // No reading that is typed may have such signs, but an older one could.
      note: `'a gull' || char(31) || char(30) || 'with, "commas"' || char(13, 10) || 'in 2 lines'`,
    }
    const copied = columns.map((name) => value[name] ?? `"${name}"`).join(', ')
    await h.db.run(
      sql.raw(`WITH RECURSIVE s(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM s WHERE i < 20500)
        INSERT INTO readings SELECT ${copied} FROM s, readings WHERE id = '${kept.id}'`),
    )
    try {
      const csv = (await h.call('GET', `${station}/log.csv`)).body as string
      const [head, ...rows] = Papa.parse<string[]>(csv.trim()).data
      const { readings } = (await h.call('GET', `${station}/log.json`)).body as {
        readings: Reading[]
      }
      expect(rows.length).toBeGreaterThan(20_500)
      const figures = ['read at', 'forward W', 'inside', 'note'].map((name) => head!.indexOf(name))
      expect(rows.map((row) => figures.map((at) => row[at]))).toEqual(
        readings.map(({ readAt, forwardW, inside, note }) => [
          readAt,
          forwardW === null ? '' : String(Number(forwardW.toPrecision(15))),
          inside ? 'yes' : 'no',
          note,
        ]),
      )
    } finally {
      await h.db.run(sql`DELETE FROM readings WHERE id LIKE 'long%'`)
    }
  })

  test('JSON holds the same readings', async () => {
    const { body } = await h.call('GET', `${station}/log.json`)
    const { total } = (await h.call('GET', `${station}/readings?limit=0`)).body
    expect(body.readings).toHaveLength(total)
    expect(readingSchema.parse(body.readings[0]).note).toBe('wet, "odd" joint')
  })
})
