/** The server as a process of its own: started, refused, killed. */
import { type ChildProcess, spawn } from 'node:child_process'
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs'
import { createServer } from 'node:net'
import { join, resolve } from 'node:path'
import type { Readable } from 'node:stream'
import { afterEach, beforeEach, expect, test } from 'vitest'
import type { SQLiteTable } from 'drizzle-orm/sqlite-core'
import { openDatabase } from '../src/db/open.ts'
import * as schema from '../src/db/schema.ts'
import { replaceDamaged } from '../src/store/setAside.ts'
import { callAt, demoAt, temporaryFolder } from './harness.ts'

const ROOT = resolve(import.meta.dirname, '../..')

let folder: string
let running: ChildProcess[]
beforeEach(() => {
  folder = temporaryFolder()
  running = []
})
afterEach(() => {
  for (const child of running) child.kill('SIGKILL')
  rmSync(folder, { recursive: true, force: true })
})

/** Node itself runs the server, so that a kill reaches it and not a wrapper. */
const launch = (...args: string[]) => launchWith({}, ...args)

function launchWith(env: Record<string, string>, ...args: string[]) {
  const child = spawn(process.execPath, ['server/dist/main.mjs', '--quiet', ...args], {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, ...env },
  })
  return watched(child)
}

function watched(child: ChildProcess & { stdout: Readable; stderr: Readable }) {
  running.push(child)
  let output = ''
  child.stdout.on('data', (chunk) => (output += String(chunk)))
  child.stderr.on('data', (chunk) => (output += String(chunk)))
  const exited = new Promise<number | null>((done) => child.once('exit', done))
  const address = new Promise<string>((done, fail) => {
    child.stdout.on('data', () => {
      const found = /http:\/\/127\.0\.0\.1:\d+/.exec(output)
      if (found) done(found[0])
    })
    void exited.then(() => fail(new Error(output)))
  })
  address.catch(() => undefined)
  return { child, address, exited, output: () => output }
}

test('kill -9 in the middle of saving loses nothing that was acknowledged', async () => {
  const db = join(folder, 'kill.sqlite')
  await demoAt(db)
  const first = launch('--db', db, '--port', '0')
  const base = await first.address
  const { document } = (await callAt(base, 'GET', '/api/chains/hf-long-run')).body

  let acknowledged = 1
  const saving = (async () => {
    for (;;) {
      const edit = {
        baseRevision: acknowledged,
        document: { ...document, note: `edit ${acknowledged + 1}` },
      }
      const { body } = await callAt(base, 'PUT', '/api/chains/hf-long-run', edit)
      acknowledged = body.revision
      if (acknowledged === 40) first.child.kill('SIGKILL')
    }
  })()
  await expect(saving).rejects.toThrow()
  await first.exited

  const second = launch('--db', db, '--port', '0')
  const after = (await callAt(await second.address, 'GET', '/api/chains/hf-long-run')).body
  // One more may have been written and not yet answered.
  expect(after.revision).toBeGreaterThanOrEqual(acknowledged)
  expect(after.document.note).toBe(`edit ${after.revision}`)
  const list = (await callAt(await second.address, 'GET', '/api/chains/hf-long-run/revisions')).body
  expect(list).toHaveLength(after.revision)
})

test.each([
  ['readings', 'POST', '/api/chains/vhf-mast/readings/many'],
  ['a station', 'POST', '/api/station-files'],
])('kill -9 while %s come in by portions leaves nothing of them', async (_, method, path) => {
  const file = join(folder, 'arriving.sqlite')
  await demoAt(file)
  const first = launch('--db', file, '--port', '0')
  const base = await first.address
  const body = {
    frequencyHz: 156.45e6,
    mode: 'FM',
    powerW: 25,
    before: 'load',
    forwardW: 20,
  }
  const readings = Array.from({ length: 5000 }, (_unused, i) => ({
    ...body,
    note: `reading ${i}`,
    readAt: new Date(Date.UTC(2000, 0, 1) + i * 4 * 3600_000).toISOString(),
  }))
  const stationFile = (await callAt(base, 'GET', '/api/stations/merrow-point/file')).body
  const [pattern] = stationFile.log.readings
  stationFile.log.readings = readings.map(({ note }) => ({
    ...pattern,
    id: note.replace(' ', '-'),
    note,
  }))
  const before = await counted(file)
  const refused = callAt(
    base,
    method,
    path,
    path.includes('many') ? { readings } : stationFile,
  ).then(
    ({ status }) => `ended with ${status}`,
    () => null,
  )
  for (let now = before; now.readings === before.readings;) {
    now = await counted(file)
    const ended = await Promise.race([
      refused,
      new Promise<null>((done) => setTimeout(() => done(null), 10)),
    ])
    expect(ended).toBeNull()
  }
  first.child.kill('SIGKILL')
  await first.exited
  expect((await counted(file)).arrivals).toBe(1)

  const second = launch('--db', file, '--port', '0')
  const stations = (await callAt(await second.address, 'GET', '/api/stations')).body
  expect(stations).toHaveLength(1)
  expect(await counted(file)).toEqual(before)
})

/** Rows of the tables that an import writes, those included that nobody is shown. */
async function counted(file: string) {
  const db = await openDatabase(file, { create: false })
  const of = (table: SQLiteTable) => db.$count(table)
  const rows = {
    stations: await of(schema.stations),
    chains: await of(schema.chains),
    rounds: await of(schema.rounds),
    readings: await of(schema.readings),
    means: await of(schema.roundMeans),
    arrivals: await of(schema.arrivals),
  }
  db.close()
  return rows
}

test('a run goes on after kill -9 at the step that was acknowledged', async () => {
  const db = join(folder, 'run.sqlite')
  await demoAt(db)
  const first = launch('--db', db, '--port', '0')
  const base = await first.address
  const steps = Array.from({ length: 50 }, (_, i) => ({
    id: `step-${i}`,
    channelId: 'c8',
    kind: 'check',
    title: `Step ${i + 1}`,
  }))
  const body = {
    sheetId: 'own',
    sheetVersion: 1,
    title: 'Fifty steps',
    channelId: 'c8',
    frequencyHz: 8.294e6,
    steps,
    next: 0,
    entries: [] as object[],
    outcome: 'running',
  }
  const address = '/api/chains/hf-long-run/runs/fifty'
  let run = (await callAt(base, 'PUT', address, { baseRevision: 0, run: body })).body
  const going = (async () => {
    for (;;) {
      const { next, revision } = run
      body.entries.push({
        stepId: `step-${next}`,
        at: '2026-05-01T08:00:00.000Z',
        outcome: 'done',
      })
      run = (
        await callAt(base, 'PUT', address, {
          baseRevision: revision,
          run: { ...body, next: next + 1 },
        })
      ).body
      if (run.next === 20) first.child.kill('SIGKILL')
    }
  })()
  await expect(going).rejects.toThrow()
  await first.exited
  const second = launch('--db', db, '--port', '0')
  const after = (await callAt(await second.address, 'GET', `/api/runs/${run.id}`)).body
  // One more may have been written and not yet answered.
  expect(after.next).toBeGreaterThanOrEqual(20)
  expect(after.entries).toHaveLength(after.next)
})

test('a first start that is killed leaves nothing, and the next one is whole', async () => {
  const db = join(folder, 'demo.sqlite')
  const ours = () => readdirSync(folder).filter((name) => name.startsWith('demo.sqlite'))
  // As soon as anything is on the disk, and some time later.
  for (const later of [0, 150, 400]) {
    const first = launch('--create', '--demo', '--db', db, '--port', '0')
    const died = first.exited
    while (ours().length === 0) await new Promise((done) => setTimeout(done, 5))
    await new Promise((done) => setTimeout(done, later))
    first.child.kill('SIGKILL')
    await died
    expect(ours()).not.toContain('demo.sqlite')
  }
  const server = launch('--create', '--demo', '--db', db, '--port', '0')
  const base = await server.address
  expect((await callAt(base, 'GET', '/api/stations')).body[0].chains).toHaveLength(4)
  expect(
    (await callAt(base, 'GET', '/api/stations/merrow-point/readings')).body.total,
  ).toBeGreaterThan(400)
  // What the killed ones had begun is gone.
  expect(ours().filter((name) => name.includes('.new-'))).toEqual([])
})

test('the demo is added to a database without a station at once, or not at all', async () => {
  const db = join(folder, 'empty.sqlite')
  const empty = await openDatabase(db, { create: true })
  empty.close()
  const server = launch('--demo', '--db', db, '--port', '0')
  const { body } = await callAt(await server.address, 'GET', '/api/stations')
  expect(body.map(({ id }: { id: string }) => id)).toEqual(['merrow-point'])
})

test('folders for a moment are gone after any end', async () => {
  const own = join(folder, 'temporary')
  mkdirSync(own)
  const left = join(own, 'saltline-work-99999999-killed')
  mkdirSync(left)
  writeFileSync(join(left, 'file'), 'x')
  const db = join(folder, 'x.sqlite')
  await demoAt(db)
  const server = launchWith({ TMPDIR: own }, '--db', db, '--port', '0')
  const base = await server.address
  expect(existsSync(left)).toBe(false)
  const taken = await fetch(`${base}/api/backup`)
  // Stopped in the middle of what it gives.
  server.child.kill('SIGTERM')
  await server.exited
  await taken.arrayBuffer().catch(() => undefined)
  expect(readdirSync(own).filter((name) => name.startsWith('saltline-work-'))).toEqual([])
})

test('beside busy loops, and behind them, it listens, answers and stays', async () => {
  const db = join(folder, 'slow.sqlite')
  await demoAt(db)
  for (let i = 0; i < 4; i++)
    running.push(spawn(process.execPath, ['-e', 'for (;;);'], { stdio: 'ignore' }))
  const node = [process.execPath, 'server/dist/main.mjs', '--quiet', '--db', db, '--port', '0']
  const server = watched(
    spawn('nice', ['-n', '5', ...node], { cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'] }),
  )
  const base = await server.address
  // Saving and looking need its threads, which have not begun yet.
  const [saved, looked] = await Promise.all([
    callAt(base, 'POST', '/api/stations', { name: 'Tern Sands' }),
    callAt(base, 'GET', '/api/stations/merrow-point/readings'),
  ])
  expect([saved.status, looked.status]).toEqual([201, 200])
  expect(server.child.exitCode).toBeNull()
})

test('after an orderly stop the one file holds everything', async () => {
  const db = join(folder, 'stop.sqlite')
  await demoAt(db)
  const server = launch('--db', db, '--port', '0')
  await callAt(await server.address, 'POST', '/api/stations', { name: 'Tern Sands' })
  server.child.kill('SIGTERM')
  expect(await server.exited).toBe(0)
  const copy = join(folder, 'copied.sqlite')
  copyFileSync(db, copy)
  const second = launch('--db', copy, '--port', '0')
  const { body } = await callAt(await second.address, 'GET', '/api/stations')
  expect((body as { name: string }[]).map(({ name }) => name)).toContain('Tern Sands')
})

test('a taken port is named, with the cure', async () => {
  const other = createServer().listen(0, '127.0.0.1')
  await new Promise((done) => other.once('listening', done))
  const { port } = other.address() as { port: number }
  const started = launch('--create', '--db', join(folder, 'x.sqlite'), '--port', String(port))
  expect(await started.exited).toBe(1)
  expect(started.output()).toContain(`Port ${port} is taken`)
  expect(started.output()).not.toContain('    at ')
  other.close()
})

test.each([
  ['a missing database', () => [], /no database at .*missing\.sqlite/],
  [
    'a file that is none',
    (file: string) => (writeFileSync(file, 'x'.repeat(5000)), []),
    /cannot be read/,
  ],
  ['a strange port', () => ['--create', '--port', 'http'], /“http” is not a port/],
  [
    'a port that only a program reads',
    () => ['--create', '--port', '0x50'],
    /“0x50” is not a port/,
  ],
  ['an option nobody knows', () => ['--prot', '1'], /Unknown option '--prot'[^]*--port N/],
])('%s ends with words, not with a stack', async (_, prepare, words) => {
  const file = join(folder, 'missing.sqlite')
  const started = launch('--db', file, ...prepare(file))
  expect(await started.exited).toBe(1)
  expect(started.output()).toMatch(words)
  expect(started.output()).not.toContain('    at ')
})

test.each([
  ['in its tables', 200_000],
  ['from its first pages on, so that it cannot be opened', 4096],
])(
  'a database damaged %s is moved aside for a copy, and the server goes on with that',
  async (_, from) => {
    const file = join(folder, 'damaged.sqlite')
    await demoAt(file)
    const first = launch('--db', file, '--port', '0')
    const copy = (await callAt(await first.address, 'POST', '/api/backup/kept')).body
    first.child.kill('SIGTERM')
    await first.exited
    const bytes = readFileSync(file)
    bytes.fill(0x5a, from, from + 40_960)
    writeFileSync(file, bytes)

    const second = launch('--db', file, '--port', '0')
    const base = await second.address
    expect((await callAt(base, 'GET', '/api/health')).status).toBe(503)
    const station = { name: 'x' }
    expect((await callAt(base, 'POST', '/api/stations', station)).status).toBe(503)
    const restored = await callAt(base, 'POST', `/api/backup/kept/${copy.name}/restore`)
    expect(restored).toMatchObject({ status: 200, body: { keptAs: null } })
    expect(readFileSync(join(folder, restored.body.aside)).equals(bytes)).toBe(true)
    // It begins anew at the same address.
    await expect
      .poll(() => callAt(base, 'GET', '/api/health').then(({ status }) => status, String), {
        timeout: 60_000,
      })
      .toBe(200)
    expect((await callAt(base, 'GET', '/api/stations/merrow-point')).body.chains).toHaveLength(4)
    expect((await callAt(base, 'POST', '/api/stations', station)).status).toBe(201)
    second.child.kill('SIGTERM')
    expect(await second.exited).toBe(0)
  },
)

test('where the copy finds no place, the damaged database stays where it is', async () => {
  const file = join(folder, 'damaged.sqlite')
  const copy = join(folder, 'copy.sqlite')
  await demoAt(copy)
  writeFileSync(file, 'not a database any more')
  // In the way of the copy, as a full disk is.
  mkdirSync(`${file}.new-${process.pid}`)
  await expect(replaceDamaged(file, copy)).rejects.toThrow()
  expect(readFileSync(file, 'utf8')).toBe('not a database any more')
  expect(readdirSync(folder).filter((name) => name.includes('.damaged-'))).toEqual([])
})
