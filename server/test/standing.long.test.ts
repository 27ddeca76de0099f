/** A server that is open to a network, and what strangers, other programs and long work do to those who are signed in. */
import { spawn } from 'node:child_process'
import { rmSync, writeFileSync } from 'node:fs'
import type { Server } from 'node:http'
import { type AddressInfo, connect, type Socket } from 'node:net'
import { join } from 'node:path'
import { createClient } from '@libsql/client/sqlite3'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { keepPassphrase } from '../src/access/passphrase.ts'
import { type AccessStore, openAccess } from '../src/access/store.ts'
import { createApp } from '../src/app.ts'
import { type Database, openDatabase } from '../src/db/open.ts'
import { serverOf } from '../src/http/listen.ts'
import { callAt, demoAt, hardPlanOf, temporaryFolder, until } from './harness.ts'

const PASSPHRASE = 'four quiet herons wading'

let folder: string
let db: Database
let store: AccessStore
let server: Server
let base: string
let port: number
let now = 0
/** How much later it is for sessions, ms. */
let later = 0
const accessFile = () => join(folder, 'test-access.sqlite')

beforeAll(async () => {
  folder = temporaryFolder()
  await demoAt(join(folder, 'test.sqlite'))
  db = await openDatabase(join(folder, 'test.sqlite'), { create: false })
  store = await openAccess(accessFile(), () => Date.now() + later)
  await store.setPassphrase(await keepPassphrase(PASSPHRASE))
  const app = createApp(db, {
    heartbeatMs: 200,
    access: {
      store,
      secure: false,
      port: () => port,
      addresses: () => [],
      audit: () => undefined,
      now: () => now,
    },
  })
  server = serverOf(app, { gated: true }).listen(0, '127.0.0.1')
  await new Promise((done) => server.once('listening', done))
  port = (server.address() as AddressInfo).port
  base = `http://127.0.0.1:${port}`
})
afterAll(async () => {
  server.closeAllConnections()
  await new Promise((done) => server.close(done))
  store.close()
  db.close()
  rmSync(folder, { recursive: true })
})

const call = (method: string, path: string, body?: unknown, headers?: Record<string, string>) =>
  callAt(base, method, path, body, headers)

async function signIn(): Promise<{ cookie: string }> {
  now += 3_600_000
  const { headers } = await call('POST', '/api/access/sign-in', { passphrase: PASSPHRASE })
  return { cookie: headers.get('set-cookie')!.split(';')[0]! }
}

const bearer = async (scope: 'read' | 'enter') => ({
  authorization: `Bearer ${(await store.makeToken({ name: scope, scope }))!.token}`,
})

/** A stream of changes: whether it is open still. */
async function listen(headers: Record<string, string>) {
  const stop = new AbortController()
  const answer = await fetch(`${base}/api/changes`, { headers, signal: stop.signal })
  const state = { status: answer.status, open: answer.status === 200 }
  const reading = (async () => {
    for await (const part of answer.body!) void part
  })()
    .catch(() => undefined)
    .then(() => (state.open = false))
  return { state, close: () => (stop.abort(), reading) }
}

/** Holds the access database as another program would. */
async function holdAccess() {
  const other = createClient({ url: `file:${accessFile()}` })
  const held = await other.transaction('write')
  await held.execute('update sessions set name = name')
  return async () => {
    await held.commit()
    other.close()
  }
}

describe('another program holds the access database', () => {
  test('nobody notices: streams, reads, sign-ins and sign-outs go on, and are kept when it lets go', async () => {
    const mine = await signIn()
    const stream = await listen(mine)
    const token = await bearer('read')
    const release = await holdAccess()
    const before = Date.now()
    for (let i = 0; i < 5; i++) {
      expect((await call('GET', '/api/stations', undefined, mine)).status).toBe(200)
      expect((await call('GET', '/api/stations', undefined, token)).status).toBe(200)
    }
    const other = await signIn()
    expect((await call('GET', '/api/stations', undefined, other)).status).toBe(200)
    expect((await call('POST', '/api/access/sign-out', {}, other)).status).toBe(200)
    expect((await call('GET', '/api/stations', undefined, other)).status).toBe(401)
    // Nobody has waited for the lock: that would have taken ten seconds at least.
    expect(Date.now() - before).toBeLessThan(9_000)
    expect(stream.state.open).toBe(true)
    await release()
    await store.settle()
    const again = await openAccess(accessFile())
    expect(again.holderOfSession(mine.cookie.split('=')[1]!)).not.toBeNull()
    expect(again.holderOfSession(other.cookie.split('=')[1]!)).toBeNull()
    again.close()
    await stream.close()
  })

  test('what must be kept, and cannot be, is said, and is not half done', async () => {
    const mine = await signIn()
    const release = await holdAccess()
    const { status } = await call(
      'POST',
      '/api/access/tokens',
      { name: 'x', scope: 'read', passphrase: PASSPHRASE },
      mine,
    )
    expect(status).toBe(503)
    await release()
    const { body } = await call('GET', '/api/access/tokens', undefined, mine)
    expect(body.filter(({ name }: { name: string }) => name === 'x')).toEqual([])
  })
})

describe('streams', () => {
  test('of somebody who was signed out end at once, of everybody where all were', async () => {
    const mine = await signIn()
    const phone = await signIn()
    const token = await bearer('read')
    const streams = await Promise.all([mine, phone, token].map((each) => listen(each)))
    const open = () => streams.map(({ state }) => state.open)
    const { body } = await call('GET', '/api/access/devices', undefined, mine)
    const other = body.devices.find(({ here }: { here: boolean }) => !here)
    expect((await call('DELETE', `/api/access/devices/${other.id}`, undefined, mine)).status).toBe(
      200,
    )
    await until(() => !open()[1])
    expect(open()).toEqual([true, false, true])
    await call('POST', '/api/access/sign-out-everywhere', { tokens: true }, mine)
    await until(() => !open().includes(true))
  })

  test('of a session that runs out while it listens end too', async () => {
    const stream = await listen(await signIn())
    expect(stream.state.open).toBe(true)
    later = 31 * 86_400_000
    await until(() => !stream.state.open)
    later = 0
  })

  test('ten of one token; another one is not kept out by it', async () => {
    const token = await bearer('read')
    const ten = await Promise.all(Array.from({ length: 10 }, () => listen(token)))
    expect(ten.every(({ state }) => state.open)).toBe(true)
    const eleventh = await call('GET', '/api/changes', undefined, token)
    expect(eleventh).toMatchObject({ status: 429, body: { title: 'Too many windows' } })
    expect(eleventh.headers.get('retry-after')).toBe('5')
    const other = await listen(await signIn())
    expect(other.state.open).toBe(true)
    await Promise.all([...ten, other].map((each) => each.close()))
  })
})

describe('strangers', () => {
  test('who trickle into hundreds of connections do not keep the operator out', async () => {
    const mine = await signIn()
    const sockets: Socket[] = []
    const head =
      'POST /api/access/sign-in HTTP/1.1\r\nhost: localhost\r\ncontent-length: 4000\r\n\r\n{'
    for (let i = 0; i < 400; i++) {
      const socket = connect(port, '127.0.0.1', () => socket.write(head))
      socket.on('error', () => undefined).resume()
      sockets.push(socket)
    }
    for (let i = 0; i < 15; i++)
      expect((await call('GET', '/api/stations', undefined, mine)).status).toBe(200)
    await until(() => sockets.filter(({ destroyed }) => !destroyed).length <= 60)
    for (const socket of sockets) socket.destroy()
  })

  test('who guess, many at once, are hashed one at a time; pages are served meanwhile', async () => {
    now += 3_600_000
    const guesses = Promise.all(
      Array.from({ length: 20 }, (_, i) =>
        call('POST', '/api/access/sign-in', { passphrase: `one of many guesses ${i}` }),
      ),
    )
    expect((await call('GET', '/api/access')).status).toBe(200)
    const statuses = (await guesses).map(({ status }) => status)
    expect(new Set(statuses)).toEqual(new Set([401, 429]))
    // Four are free, and were not let past the limit by coming together.
    expect(statuses.filter((status) => status === 401).length).toBeLessThanOrEqual(4)
  })

  test('of a page from elsewhere change nothing, whatever else the request says', async () => {
    const mine = await signIn()
    const { status } = await call(
      'POST',
      '/api/access/codes',
      {},
      { ...mine, 'sec-fetch-site': 'cross-site' },
    )
    expect(status).toBe(403)
  })
})

describe('long work', () => {
  const hardPlan = async () =>
    hardPlanOf(
      (await call('GET', '/api/chains/hf-long-run', undefined, await bearer('read'))).body.document,
    )

  test('of one who asks for too much waits, and the rest is refused in the right words; readings are kept at once', async () => {
    const mine = await signIn()
    const reader = await bearer('read')
    const plan = await hardPlan()
    const stop = new AbortController()
    const asked = Array.from({ length: 6 }, async () => {
      const answer = await fetch(`${base}/api/plan`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', ...reader },
        body: JSON.stringify(plan),
        signal: stop.signal,
      }).catch(() => null)
      return answer && { status: answer.status, after: answer.headers.get('retry-after') }
    })
    const refused = await Promise.race([
      ...asked.map(async (each) => {
        const answer = await each
        return answer?.status === 429 ? answer : new Promise<never>(() => undefined)
      }),
    ])
    expect(refused).toEqual({ status: 429, after: '10' })
    // Behind the plans, which are at work now, nothing of this waits.
    const reading = {
      before: 'load',
      frequencyHz: 8.294e6,
      mode: 'key-down',
      powerW: 125,
      forwardW: 80,
    }
    for (let i = 0; i < 5; i++)
      expect((await call('POST', '/api/chains/hf-long-run/readings', reading, mine)).status).toBe(
        201,
      )
    // Another one’s plan is not refused for them.
    const other = new AbortController()
    const theirs = fetch(`${base}/api/plan`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', ...mine },
      body: JSON.stringify(plan),
      signal: other.signal,
    }).then(
      ({ status }) => status,
      () => 'left',
    )
    expect(
      await Promise.race([
        theirs,
        call('GET', '/api/stations', undefined, mine).then(() => 'waits'),
      ]),
    ).toBe('waits')
    other.abort()
    stop.abort()
    await Promise.all([theirs, ...asked])
  })
})

test('a promise that nobody listened to does not end the process', async () => {
  const program = join(folder, 'rejecting.mjs')
  writeFileSync(
    program,
    `await import(${JSON.stringify(join(import.meta.dirname, '../dist/main.mjs'))})
     void Promise.reject(new Error('nobody listens'))`,
  )
  const child = spawn(
    process.execPath,
    [program, '--create', '--port', '0', '--db', join(folder, 'rejecting.sqlite')],
    { stdio: ['ignore', 'pipe', 'pipe'] },
  )
  let said = ''
  child.stdout.on('data', (text) => (said += String(text)))
  child.stderr.on('data', (text) => (said += String(text)))
  const [, address] = await until(() => /Salt Line is at (http:\S+)\//.exec(said))
  await until(() => said.includes('nobody listens'))
  expect((await callAt(address!, 'GET', '/api/health')).status).toBe(200)
  const gone = new Promise((done) => child.once('exit', done))
  child.kill('SIGTERM')
  await gone
})
