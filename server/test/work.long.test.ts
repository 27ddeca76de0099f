/** Workers: stopped in time, in the middle of anything, without a trace. */
import { readdirSync } from 'node:fs'
import { getPriority } from 'node:os'
import { setFlagsFromString } from 'node:v8'
import { runInNewContext } from 'node:vm'
import { createClient } from '@libsql/client/sqlite3'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { getTableName } from 'drizzle-orm'
import { arrivals } from '../src/db/schema.ts'
import { allTables } from '../src/db/tables.ts'
import { saving } from '../src/work/kinds.ts'
import { endWork, warmUp, work } from '../src/work/pool.ts'
import { type Harness, hardPlanOf, startHarness } from './harness.ts'

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
    readAt: new Date(Date.UTC(2000, 0, 1) + i * 4 * 3600_000).toISOString(),
  })),
})

const importing = (count: number) => ({
  file: h.file,
  route: 'post /chains/:chainId/readings/many',
  params: { chainId: 'vhf-mast' },
  query: {},
  body: new TextEncoder().encode(JSON.stringify(many(count))),
})

/** Holds the database as another program would. */
async function holdStation() {
  const other = createClient({ url: `file:${h.file}` })
  const held = await other.transaction('write')
  await held.execute('update stations set note = note')
  return async () => {
    await held.commit()
    other.close()
  }
}

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

test.runIf(process.platform === 'linux')(
  'threads of long work let those of short work have the processor first',
  async () => {
    await work('answer', importing(1), { lane: 'long', budgetMs: 600_000 })
    const threads = readdirSync('/proc/self/task').map(Number)
    // The first thread has the number of the process: it answers, and stays as it was started.
    const own = getPriority(process.pid)
    expect(Math.max(...threads.map((thread) => getPriority(thread)))).toBe(own + 4)
    await work('answer', importing(1), { lane: 'save', budgetMs: 600_000 })
    expect(getPriority(process.pid)).toBe(own)
  },
)

test.runIf(process.platform === 'linux')(
  'a save begins no thread where the one that is always there has nothing to do',
  async () => {
    const threads = () => readdirSync('/proc/self/task').length
    await endWork()
    await warmUp()
    const begun = threads()
    await work('answer', importing(1), saving)
    await work('answer', importing(1), saving)
    expect(threads()).toBe(begun)
  },
)

test('two save at a time, and the others after them: a third thread is free for a look', async () => {
  const release = await holdStation()
  const saves = Array.from({ length: 5 }, () => work('answer', importing(1), saving))
  const ended = saves.map((save) => save.then(() => 'saved'))
  // All of them wait for the other program, or for each other; a look does not.
  for (let i = 0; i < 3; i++)
    expect((await h.call('GET', '/api/stations/merrow-point/readings?limit=1')).status).toBe(200)
  expect(await Promise.race([...ended, Promise.resolve('none')])).toBe('none')
  await release()
  expect(await Promise.all(ended)).toEqual(saves.map(() => 'saved'))
})

test('slow looks, however many, leave a thread to saves', async () => {
  // What is looked at takes as long as it may, and nothing is read of the database.
  const { body } = await h.call('GET', '/api/chains/hf-long-run')
  const slow = {
    ...{ file: h.file, route: 'post /plan', params: {}, query: {} },
    body: new TextEncoder().encode(JSON.stringify(hardPlanOf(body.document))),
  }
  const looks = Array.from({ length: 6 }, () =>
    work('answer', slow, { lane: 'look', budgetMs: 4000 }).catch(() => undefined),
  )
  const looked = Promise.race(looks).then(() => 'looked')
  expect(
    await Promise.race([looked, work('answer', importing(1), saving).then(() => 'saved')]),
  ).toBe('saved')
  await Promise.all(looks)
})

test('what takes longer than it may is stopped and named', async () => {
  await expect(
    work('answer', importing(12_000), { lane: 'long', budgetMs: 50 }),
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
        importing(12_000),
        { lane: 'long', budgetMs: 300 },
        { stop: new AbortController().signal },
      ),
    ).rejects.toMatchObject({ problem: { status: 503, title: 'This takes too long' } })
  } finally {
    clearInterval(collecting)
  }
})

/** Rows of every table, those included that nobody is shown. */
const rowsOfAll = async () =>
  Object.fromEntries(
    await Promise.all(
      allTables.map(async (table) => [getTableName(table), await h.db.$count(table)] as const),
    ),
  )

test('an import that is stopped anywhere keeps nothing, and holds nobody up', async () => {
  let before = await rowsOfAll()
  for (const ms of [200, 600, 1500]) {
    const stop = new AbortController()
    const running = work(
      'answer',
      importing(12_000),
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
    before = { ...before, stations: before['stations']! + 1 }
    if (ended === 'stopped') expect(await rowsOfAll()).toEqual(before)
    else break
  }
})

test('what arrives is not seen before it is whole, and others write meanwhile', async () => {
  const before = await total()
  let arrived = false
  const running = work('answer', importing(5000), { lane: 'long', budgetMs: 600_000 }).finally(
    () => (arrived = true),
  )
  const one = { ...many(1).readings[0], note: 'typed meanwhile' }
  const seen: number[] = []
  let typed = 0
  while (!arrived) {
    const listed = await total()
    const hidden = await h.db.$count(arrivals)
    // Asked before and after, none had come to its end in between.
    if (hidden > 0) seen.push(listed - before - typed)
    const kept = await h.call('POST', '/api/chains/vhf-mast/readings', one)
    expect([kept.status, kept.body.detail]).toEqual([201, undefined])
    typed++
    await new Promise((done) => setTimeout(done, 50))
    const bin = (await h.call('GET', '/api/stations/merrow-point/bin')).body as { kind: string }[]
    expect(bin.filter(({ kind }) => kind === 'reading')).toEqual([])
  }
  await running
  expect(seen.length).toBeGreaterThan(1)
  expect(new Set(seen)).toEqual(new Set([0]))
  expect(await total()).toBe(before + 5000 + typed)
  expect(await h.db.$count(arrivals)).toBe(0)
  expect((await h.call('DELETE', '/api/stations/merrow-point/bin')).status).toBe(200)
  expect(await total()).toBe(before + 5000 + typed)
})

test('pages of the log and the years go on while long work fills its lane', async () => {
  const long = [1, 2, 3].map(() =>
    work('answer', importing(1500), { lane: 'long', budgetMs: 600_000 }).catch(() => undefined),
  )
  const paths = [
    '/api/stations',
    '/api/stations/merrow-point/readings',
    '/api/chains/vhf-mast/years/c1',
  ]
  for (const path of paths) expect((await h.call('GET', path)).status).toBe(200)
  await Promise.all(long)
})
