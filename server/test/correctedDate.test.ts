/** A reading whose date is corrected belongs to the session of that date. */
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { type Harness, startHarness } from './harness.ts'

let h: Harness
beforeAll(async () => {
  h = await startHarness()
})
afterAll(() => h.close())

const reading = {
  channelId: 'c4',
  frequencyHz: 4.146e6,
  mode: 'FM',
  powerW: 100,
  before: 'wall',
  forwardW: 97,
}
const post = (body: object) => h.call('POST', '/api/chains/mf-hf-whip/readings', body)

describe('a corrected date', () => {
  const at = (readAt: string, more: object = {}) => ({ ...reading, readAt, ...more })
  const session = async (id: string) => (await h.call('GET', `/api/rounds/${id}`)).body

  test('takes a reading to the session of its day, and the other ends where its readings end', async () => {
    const first = (await post(at('2019-03-01T10:00:00.000Z'))).body
    const second = (await post(at('2019-03-01T10:20:00.000Z'))).body
    const dayBefore = (await post(at('2019-02-28T10:00:00.000Z'))).body
    expect(second.roundId).toBe(first.roundId)
    const moved = await h.call('PUT', `/api/readings/${second.id}`, at('2019-02-28T10:20:00.000Z'))
    expect(moved.status).toBe(200)
    expect(moved.body.roundId).toBe(dayBefore.roundId)
    expect(await session(first.roundId)).toMatchObject({
      readingCount: 1,
      startedAt: '2019-03-01T10:00:00.000Z',
      lastAt: '2019-03-01T10:00:00.000Z',
    })
    expect(await session(dayBefore.roundId)).toMatchObject({
      readingCount: 2,
      lastAt: '2019-02-28T10:20:00.000Z',
    })
  })

  test('of a day without a session begins one; within the session it stays', async () => {
    const first = (await post(at('2018-03-01T10:00:00.000Z'))).body
    const second = (await post(at('2018-03-01T10:20:00.000Z'))).body
    const address = `/api/readings/${second.id}`
    const near = (await h.call('PUT', address, at('2018-03-01T10:05:00.000Z'))).body
    expect(near.roundId).toBe(first.roundId)
    const far = (await h.call('PUT', address, at('2017-01-01T10:00:00.000Z'))).body
    expect(far.roundId).not.toBe(first.roundId)
    expect(await session(far.roundId)).toMatchObject({
      readingCount: 1,
      startedAt: '2017-01-01T10:00:00.000Z',
    })
  })

  test('of the only reading of a session takes the session with it, and its note', async () => {
    const only = (await post(at('2016-03-01T10:00:00.000Z'))).body
    await h.call('PUT', `/api/rounds/${only.roundId}`, { note: 'after the gale' })
    const moved = (await h.call('PUT', `/api/readings/${only.id}`, at('2016-04-01T10:00:00.000Z')))
      .body
    expect(moved.roundId).toBe(only.roundId)
    expect(await session(only.roundId)).toMatchObject({
      note: 'after the gale',
      startedAt: '2016-04-01T10:00:00.000Z',
      lastAt: '2016-04-01T10:00:00.000Z',
    })
  })
})
