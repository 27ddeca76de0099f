/** Workers: stopped in time, in the middle of anything, without a trace. */
import { setFlagsFromString } from 'node:v8'
import { runInNewContext } from 'node:vm'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { work } from '../src/work/pool.ts'
import { type Harness, startHarness } from './harness.ts'

let h: Harness
beforeAll(async () => {
  h = await startHarness()
})
afterAll(() => h.close())

const many = (count: number) => ({
  readings: Array.from({ length: count }, (_, i) => ({
    frequencyHz: 156.45e6,
    mode: 'FM',
    powerW: 25,
    before: 'load',
    forwardW: 20,
    note: `reading ${i}`,
    readAt: new Date(Date.UTC(2020, 0, 1) + i * 4 * 3600_000).toISOString(),
  })),
})

const importing = (count: number) => ({
  file: h.file,
  route: 'post /chains/:chainId/readings/many',
  params: { chainId: 'vhf-mast' },
  query: {},
  body: new TextEncoder().encode(JSON.stringify(many(count))),
})

const total = async () =>
  (await h.call('GET', '/api/stations/merrow-point/readings?limit=1')).body.total as number

test('long work is not begun for somebody who has gone before it could be', async () => {
  const before = await total()
  const gone = AbortSignal.abort()
  await expect(
    work('answer', importing(50), { lane: 'long', budgetMs: 600_000 }, { stop: gone }),
  ).rejects.toMatchObject({ name: 'AbortError' })
  expect(await total()).toBe(before)
})

test('what takes longer than it may is stopped and named', async () => {
  await expect(
    work('answer', importing(20_000), { lane: 'long', budgetMs: 50 }),
  ).rejects.toMatchObject({
    problem: { status: 503, title: 'This takes too long' },
  })
})

test('nor does a limit get lost where whoever asked may leave too, whatever is collected meanwhile', async () => {
  setFlagsFromString('--expose-gc')
  const collect = runInNewContext('gc') as () => void
  const collecting = setInterval(collect, 20)
  try {
    await expect(
      work(
        'answer',
        importing(20_000),
        { lane: 'long', budgetMs: 300 },
        { stop: new AbortController().signal },
      ),
    ).rejects.toMatchObject({ problem: { status: 503, title: 'This takes too long' } })
  } finally {
    clearInterval(collecting)
  }
})

test('an import that is stopped anywhere keeps nothing, and holds nobody up', async () => {
  const before = await total()
  for (const ms of [200, 600, 1000, 1500]) {
    const stop = new AbortController()
    const running = work(
      'answer',
      importing(20_000),
      { lane: 'long', budgetMs: 600_000 },
      { stop: stop.signal },
    )
    running.catch(() => undefined)
    await new Promise((done) => setTimeout(done, ms))
    stop.abort()
    const ended = await running.then(
      () => 'done',
      () => 'stopped',
    )
    // The lock of its transaction went with it.
    expect((await h.call('POST', '/api/stations', { name: `After ${ms} ms` })).status).toBe(201)
    if (ended === 'stopped') expect(await total()).toBe(before)
    else break
  }
})

test('pages of the log and the years go on while long work fills its lane', async () => {
  const long = [1, 2, 3].map(() =>
    work('answer', importing(3000), { lane: 'long', budgetMs: 600_000 }).catch(() => undefined),
  )
  const paths = [
    '/api/stations',
    '/api/stations/merrow-point/readings',
    '/api/chains/vhf-mast/years/c1',
  ]
  for (const path of paths) expect((await h.call('GET', path)).status).toBe(200)
  await Promise.all(long)
})
