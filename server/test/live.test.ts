import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { LiveMeters } from '../src/live/meters.ts'
import { Presences } from '../src/live/presence.ts'
import { sendStandIn, standIn } from '../standIn.ts'
import { type Harness, startHarness, until } from './harness.ts'

let h: Harness
beforeAll(async () => (h = await startHarness()))
afterAll(() => h.close())

const send = (path: string, body: unknown) => h.call('POST', `/api/live/${path}`, body)

describe('over HTTP', () => {
  test('a figure is shown to who asks, and stored nowhere', async () => {
    const before = await h.call('GET', '/api/chains/hf-long-run/rounds')
    expect((await send('hf-long-run/3', { forwardW: 61.5, reflectedW: 2 })).status).toBe(200)
    const { body } = await h.call('GET', '/api/live/hf-long-run')
    expect(body).toMatchObject([{ latest: { plane: 3, forwardW: 61.5, reflectedW: 2 } }])
    expect(body[0].trend).toEqual([[expect.any(Number), 61.5]])
    expect(await h.call('GET', '/api/chains/hf-long-run/rounds')).toMatchObject({
      body: before.body,
    })
    expect((await h.call('GET', '/api/live/vhf-mast')).body).toEqual([])
  })

  test.each([
    ['hf-long-run/99', { forwardW: 1 }, 404],
    ['hf-long-run/-1', { forwardW: 1 }, 404],
    ['hf-long-run/x', { forwardW: 1 }, 404],
    ['nowhere/0', { forwardW: 1 }, 404],
    ['hf-long-run/0', { forwardW: -1 }, 422],
    ['hf-long-run/0', { reflectedW: 1 }, 422],
    ['hf-long-run/0', { forwardW: 1, swr: 0.5 }, 422],
    ['hf-long-run/0', '{"forwardW":', 400],
  ])('%s %j is refused with %i', async (path, body, status) =>
    expect((await send(path, body)).status).toBe(status),
  )

  test('a plane that the chain has not is told with those that it has', async () => {
    const { body } = await h.call('POST', '/api/live/hf-long-run/99', { forwardW: 1 })
    expect(body.detail).toBe(
      'The planes of this chain are 0, at the transmitter, to 7, at the antenna.',
    )
  })

  test('what cannot be is refused, and a clock that nobody has set is not believed', async () => {
    const send = (body: object) => h.call('POST', '/api/live/hf-long-run/1', body)
    const swapped = await send({ forwardW: 4, reflectedW: 80 })
    expect(swapped).toMatchObject({ status: 422 })
    expect(swapped.body.detail).toContain('swapped')
    const unknown = await send({ forwardW: 80, instrumentId: 'nobodys' })
    expect(unknown).toMatchObject({ status: 422 })
    expect(unknown.body.errors[0].pointer).toBe('/instrumentId')
    for (const at of ['1970-01-01T00:00:00.000Z', '9999-12-31T00:00:00.000Z']) {
      expect((await send({ forwardW: 80, at })).status).toBe(200)
      const { body } = await h.call('GET', '/api/live/hf-long-run')
      const { latest } = body.find(
        ({ latest: each }: { latest: { plane: number } }) => each.plane === 1,
      )
      expect(latest.at).toBeUndefined()
    }
    const now = new Date().toISOString()
    await send({ forwardW: 80, at: now })
    const { body } = await h.call('GET', '/api/live/hf-long-run')
    expect(body[0].latest.at).toBe(now)
  })

  test('the windows of its chain hear it within a moment, others do not', async () => {
    const stop = new AbortController()
    const heard = { mine: '', other: '' }
    for (const [who, chain] of [
      ['mine', 'hf-long-run'],
      ['other', 'vhf-mast'],
    ] as const) {
      const { body } = await fetch(`${h.base}/api/changes?chain=${chain}`, { signal: stop.signal })
      void (async () => {
        for await (const part of body!.pipeThrough(new TextDecoderStream())) heard[who] += part
      })().catch(() => undefined)
    }
    await send('hf-long-run/1', { forwardW: 99 })
    const own = /event: live\ndata: \[.*\{"forwardW":99,"plane":1,/
    // A meter of the test before may still be live beside it.
    await until(() => own.test(heard.mine))
    expect(heard.other).not.toContain('event: live')
    stop.abort()
  })

  test('who reads where is told to the windows of the chain, and forgotten when one closes', async () => {
    const open = async (window: string, chain = 'hf-long-run') => {
      const stop = new AbortController()
      const { body } = await fetch(`${h.base}/api/changes?chain=${chain}&window=${window}`, {
        signal: stop.signal,
      })
      let heard = ''
      void (async () => {
        for await (const part of body!.pipeThrough(new TextDecoderStream())) heard += part
      })().catch(() => undefined)
      const here = (): { window: string; by: string; before: string }[] =>
        JSON.parse(heard.split('event: here\ndata: ').at(-1)!.split('\n')[0] || '[]')
      const are = async (count: number) => {
        await until(() => here().length === count)
        return here()
      }
      return { stop, are }
    }
    const desk = await open('desk')
    const mast = await open('mast')
    const elsewhere = await open('elsewhere', 'vhf-mast')
    const say = (window: string, body: unknown) =>
      h.call('PUT', `/api/live/hf-long-run/windows/${window}`, body)
    const where = { by: 'Skua', channelId: 'c8', before: 'load' }
    expect((await say('mast', where)).status).toBe(200)
    expect(await desk.are(1)).toEqual([{ window: 'mast', ...where }])
    await say('desk', { ...where, by: '', before: 'duct' })
    expect(await mast.are(2)).toHaveLength(2)
    // Who comes later is told at once.
    expect(await (await open('late')).are(2)).toHaveLength(2)
    await say('desk', null)
    expect(await mast.are(1)).toMatchObject([{ window: 'mast' }])
    mast.stop.abort()
    expect(await desk.are(0)).toEqual([])
    expect(await elsewhere.are(0)).toEqual([])
    expect((await say('Not An Id', where)).status).toBe(404)
    expect((await say('desk', { ...where, before: '<b>' })).status).toBe(422)
    expect((await h.call('PUT', '/api/live/nowhere/windows/desk', where)).status).toBe(404)
  })

  test('a stand-in plays a meter at a plane', async () => {
    const said: string[] = []
    const to = `${h.base}/api/live/hf-long-run/2`
    const meter = standIn(['meter', '--fault', 'reduced', '--to', to, '--every', '20'])
    if (meter?.what !== 'meter') throw new Error('another one was played')
    const stop = sendStandIn(meter, (line) => said.push(line))
    await until(() => said.length > 0)
    stop()
    expect(said).toEqual(['It is heard.'])
    const { body } = await h.call('GET', '/api/live/hf-long-run')
    expect(body.map(({ latest }: { latest: { plane: number } }) => latest.plane)).toContain(2)
  })
})

describe('in memory', () => {
  test('fifty a second are taken, more are not, and a second later again', () => {
    let now = 1e12
    const meters = new LiveMeters(() => now)
    const taken = (count: number) =>
      Array.from({ length: count }, () => meters.take('c', 0, { forwardW: 1 })).filter(Boolean)
        .length
    expect(taken(80)).toBe(50)
    now += 1000
    expect(taken(80)).toBe(50)
    // Another meter has its own.
    expect(meters.take('c', 1, { forwardW: 1 })).toBe(true)
  })

  test('a hundred meters and five minutes are held, whatever is sent', () => {
    let now = 1e12
    const meters = new LiveMeters(() => now)
    for (let i = 0; i < 1000; i++) meters.take('c', i, { forwardW: i })
    expect(meters.of('c')).toHaveLength(100)
    for (let i = 0; i < 1000; i++) {
      now += 1000
      meters.take('d', 0, { forwardW: i })
      meters.take('d', 0, { forwardW: i + 0.5 })
    }
    const [one] = meters.of('d')
    expect(one!.trend).toHaveLength(300)
    expect(one!.trend.at(-1)).toEqual([0, 999.5])
    expect(one!.trend[0]![0]).toBe(299)
  })

  test('each figure is told once, the newest of each meter; the silent are forgotten', () => {
    let now = 1e12
    const meters = new LiveMeters(() => now)
    meters.take('c', 0, { forwardW: 1 })
    meters.take('c', 0, { forwardW: 2 })
    meters.take('c', 1, { forwardW: 3 })
    expect(
      meters
        .takeFresh()
        .get('c')!
        .map(({ forwardW }) => forwardW),
    ).toEqual([2, 3])
    expect(meters.takeFresh().size).toBe(0)
    now += 601_000
    expect(meters.of('c')).toEqual([])
  })
})

test('a window that does not say again that it is here is gone; many windows are bounded', () => {
  let now = 0
  const presences = new Presences(() => now)
  const where = (window: string) => ({ window, by: '', channelId: 'c', before: 'load' })
  expect(presences.put('a', where('w'))).toEqual(['a'])
  expect(presences.put('b', where('w'))).toEqual(['a', 'b'])
  expect([presences.of('a'), presences.of('b')]).toEqual([[], [where('w')]])
  now = 100_000
  expect(presences.of('b')).toEqual([])
  for (let i = 0; i < 500; i++) presences.put('c', where(`w${i}`))
  expect(presences.of('c')).toHaveLength(200)
  expect(presences.leave('never')).toEqual([])
})
