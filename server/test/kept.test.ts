/** What is kept, taken back, corrected and emptied. */
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { type Harness, startHarness } from './harness.ts'

let h: Harness
beforeAll(async () => {
  h = await startHarness()
})
afterAll(() => h.close())

const newStation = async (name = 'A') =>
  (await h.call('POST', '/api/stations', { name })).body as { id: string }
const demo = async () => (await h.call('GET', '/api/chains/vhf-mast')).body.document
const newChain = async (stationId: string) =>
  (await h.call('POST', `/api/stations/${stationId}/chains`, await demo())).body

/** A reading of the demo's VHF chain. */
const tenWatts = { frequencyHz: 156.45e6, mode: 'FM', powerW: 25, before: 'load', forwardW: 10 }

describe('a save that is sent twice', () => {
  test('is kept once, and answered as it was', async () => {
    const { id } = await newStation()
    const { id: chainId, document } = await newChain(id)
    const body = {
      baseRevision: 1,
      document: { ...document, name: 'Once' },
      key: 'key-of-this-save',
    }
    const first = await h.call('PUT', `/api/chains/${chainId}`, body)
    // The answer was lost; the sender knows nothing of revision 2.
    const again = await h.call('PUT', `/api/chains/${chainId}`, body)
    expect([first.status, again.status]).toEqual([200, 200])
    expect(again.body).toEqual(first.body)
    const { body: revisions } = await h.call('GET', `/api/chains/${chainId}/revisions`)
    expect(revisions).toHaveLength(2)
    // Another edit on the old revision is a conflict as ever.
    const other = await h.call('PUT', `/api/chains/${chainId}`, { ...body, key: 'key-of-another' })
    expect(other.status).toBe(409)
    // And stays one when it is sent again.
    const otherAgain = await h.call('PUT', `/api/chains/${chainId}`, {
      ...body,
      key: 'key-of-another',
    })
    expect(otherAgain.status).toBe(409)
    expect(otherAgain.body.keptAsRevision).toBe(other.body.keptAsRevision)
  })

  test('many at once make one revision', async () => {
    const { id } = await newStation()
    const { id: chainId, document } = await newChain(id)
    const body = { baseRevision: 1, document: { ...document, name: 'Once' }, key: 'the-same-key' }
    const all = await Promise.all(
      Array.from({ length: 8 }, () => h.call('PUT', `/api/chains/${chainId}`, body)),
    )
    expect(all.map(({ status }) => status)).toEqual(Array(8).fill(200))
    expect((await h.call('GET', `/api/chains/${chainId}/revisions`)).body).toHaveLength(2)
  })
})

describe('a station', () => {
  test('has its name, SWR limit, environment and currency changed', async () => {
    const { id } = await newStation()
    const { body } = await h.call('PUT', `/api/stations/${id}`, {
      name: 'Merrow Hill',
      swrLimit: 3,
      environment: 'city',
      currency: 'GBP',
    })
    expect(body).toMatchObject({
      name: 'Merrow Hill',
      swrLimit: 3,
      environment: 'city',
      currency: 'GBP',
    })
    const bad = await h.call('PUT', `/api/stations/${id}`, { name: 'A', environment: 'the moon' })
    expect(bad.status).toBe(422)
    expect(bad.body.errors[0].pointer).toBe('/environment')
  })

  test('that was deleted is listed, taken back, and gone for good only when the bin is emptied', async () => {
    const { id } = await newStation('Gone')
    const chain = await newChain(id)
    await h.call('POST', `/api/chains/${chain.id}/readings`, tenWatts)
    await h.call('DELETE', `/api/stations/${id}`)
    const listed = (await h.call('GET', '/api/bin')).body.find((s: { id: string }) => s.id === id)
    expect(listed).toMatchObject({ name: 'Gone', readings: 1 })
    await h.call('POST', `/api/stations/${id}/restore`)
    expect((await h.call('GET', `/api/stations/${id}`)).body.chains).toHaveLength(1)
    await h.call('DELETE', `/api/stations/${id}`)
    expect((await h.call('DELETE', '/api/bin')).status).toBe(200)
    expect((await h.call('GET', '/api/bin')).body).toEqual([])
    expect((await h.call('POST', `/api/stations/${id}/restore`)).status).toBe(404)
    // Nothing of another station went along.
    expect((await h.call('GET', '/api/chains/vhf-mast')).status).toBe(200)
  })
})

describe('the bin of a station', () => {
  test('lists chains, readings, gear, events and sheets; each comes back', async () => {
    const { id } = await newStation()
    const chain = await newChain(id)
    const reading = (
      await h.call('POST', `/api/chains/${chain.id}/readings`, {
        frequencyHz: 156.45e6,
        mode: 'FM',
        powerW: 25,
        before: 'load',
        forwardW: 10,
      })
    ).body
    const gear = (
      await h.call('POST', `/api/stations/${id}/gear`, {
        kind: 'cable',
        document: {
          name: 'Old coil',
          z0Ohm: 50,
          velocityFactor: 0.66,
          k1DbPer100m: 1,
          k2DbPer100m: 0,
        },
      })
    ).body
    const event = (
      await h.call('POST', '/api/events', { chainId: chain.id, on: '2026-01-14', text: 'Storm' })
    ).body
    const sheet = (
      await h.call('POST', `/api/stations/${id}/measurements`, {
        kind: 'converter',
        title: 'A sum',
        inputs: {},
        result: null,
      })
    ).body
    for (const path of [
      `readings/${reading.id}`,
      `gear/${gear.id}`,
      `events/${event.id}`,
      `measurements/${sheet.id}`,
      `chains/${chain.id}`,
    ])
      expect((await h.call('DELETE', `/api/${path}`)).status).toBe(200)
    const bin = async () => (await h.call('GET', `/api/stations/${id}/bin`)).body
    const kinds = (await bin()).map(({ kind }: { kind: string }) => kind)
    expect(kinds.sort()).toEqual(['bench sheet', 'chain', 'event', 'gear', 'reading'])
    expect((await bin()).find(({ kind }: { kind: string }) => kind === 'chain')).toMatchObject({
      name: chain.document.name,
      readings: 1,
    })
    await h.call('POST', `/api/chains/${chain.id}/restore`)
    await h.call('POST', `/api/events/${event.id}/restore`)
    expect(await bin()).toHaveLength(3)
    expect((await h.call('DELETE', `/api/stations/${id}/bin`)).status).toBe(200)
    expect(await bin()).toEqual([])
    // What was taken back in time is still there; the rest is gone for good.
    expect((await h.call('GET', `/api/chains/${chain.id}`)).status).toBe(200)
    expect((await h.call('GET', `/api/chains/${chain.id}/events`)).body).toHaveLength(1)
    expect((await h.call('POST', `/api/gear/${gear.id}/restore`)).status).toBe(404)
  })

  test('keeps the readings of a chain out of log, CSV and station file until it is taken back', async () => {
    const { id } = await newStation()
    const { id: chainId } = await newChain(id)
    await h.call('POST', `/api/chains/${chainId}/readings`, tenWatts)
    const counts = async () => [
      (await h.call('GET', `/api/stations/${id}/readings`)).body.total,
      (await (await fetch(`${h.base}/api/stations/${id}/log.csv`)).text()).trim().split('\n')
        .length - 1,
      (await h.call('GET', `/api/stations/${id}/file`)).body.log.readings.length,
    ]
    expect(await counts()).toEqual([1, 1, 1])
    await h.call('DELETE', `/api/chains/${chainId}`)
    expect(await counts()).toEqual([0, 0, 0])
    const { body: file } = await h.call('GET', `/api/stations/${id}/file`)
    expect((await h.call('POST', '/api/station-files', file)).status).toBe(201)
    await h.call('POST', `/api/chains/${chainId}/restore`)
    expect(await counts()).toEqual([1, 1, 1])
  })

  test('emptied, a chain takes its readings, sessions and revisions along', async () => {
    const { id } = await newStation()
    const chain = await newChain(id)
    await h.call('POST', `/api/chains/${chain.id}/readings`, tenWatts)
    await h.call('DELETE', `/api/chains/${chain.id}`)
    await h.call('DELETE', `/api/stations/${id}/bin`)
    expect((await h.call('GET', `/api/stations/${id}/readings`)).body.total).toBe(0)
    expect((await h.call('POST', `/api/chains/${chain.id}/restore`)).status).toBe(404)
  })
})

describe('a corrected reading', () => {
  test('is held against the chain of its day', async () => {
    const { id } = await newStation()
    const chain = await newChain(id)
    const body = tenWatts
    const reading = (await h.call('POST', `/api/chains/${chain.id}/readings`, body)).body
    // Then the run is made ten times as long.
    const document = structuredClone(chain.document)
    for (const stage of document.stages) if (stage.kind === 'line') stage.lengthM *= 10
    await h.call('PUT', `/api/chains/${chain.id}`, { baseRevision: 1, document })
    const corrected = (
      await h.call('PUT', `/api/readings/${reading.id}`, { ...body, forwardW: 11 })
    ).body
    expect(corrected.forwardW).toBe(11)
    expect(corrected.expectedW).toBeCloseTo(reading.expectedW, 9)
    // A new reading is expected to show the new chain.
    const now = (await h.call('POST', `/api/chains/${chain.id}/readings`, body)).body
    expect(now.expectedW).toBeLessThan(reading.expectedW / 3)
  })

  test('of the demo, older than the note of revisions, keeps its day too', async () => {
    const { body } = await h.call(
      'GET',
      '/api/stations/merrow-point/readings?chain=vhf-mast&limit=1',
    )
    const old = body.readings[0]
    const asked = {
      frequencyHz: old.frequencyHz,
      mode: old.mode,
      powerW: old.powerW,
      before: old.before,
      forwardW: old.forwardW,
      ...(old.instrumentId && { instrumentId: old.instrumentId }),
      note: 'read again',
    }
    const corrected = await h.call('PUT', `/api/readings/${old.id}`, asked)
    expect(corrected.status).toBe(200)
    expect(corrected.body).toMatchObject({ note: 'read again', readAt: old.readAt })
  })
})

test('text that looks like a formula is made harmless in the CSV; figures stay figures', async () => {
  const { id } = await newStation()
  const chain = await newChain(id)
  for (const note of ['=1+1', '@SUM(A1)', '+5', '-5', 'plain'])
    await h.call('POST', `/api/chains/${chain.id}/readings`, {
      frequencyHz: 156.45e6,
      mode: 'FM',
      powerW: 25,
      before: 'load',
      forwardW: 10,
      note,
    })
  const response = await fetch(`${h.base}/api/stations/${id}/log.csv`)
  const text = await response.text()
  for (const note of ["'=1+1", "'@SUM(A1)", "'+5", "'-5", 'plain']) expect(text).toContain(note)
  expect(text).not.toMatch(/,[=@]/)
  expect(text).toContain(',10,')
})
