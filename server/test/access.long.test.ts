import { spawn } from 'node:child_process'
import type { IncomingHttpHeaders } from 'node:http'
import { request } from 'node:https'
import { existsSync, mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { afterAll, beforeAll, beforeEach, describe, expect, test } from 'vitest'
import { JoinCodes } from '../src/access/codes.ts'
import { Limiter } from '../src/access/limiter.ts'
import { isPassphrase, keepPassphrase, makePassphrase, weakness } from '../src/access/passphrase.ts'
import { scopeNeeded } from '../src/access/scopes.ts'
import type { Scope } from '@saltline/contract'
import { accessFileOf, type AccessStore, openAccess } from '../src/access/store.ts'
import { callAt, type Harness, startHarness, temporaryFolder, until } from './harness.ts'

const PASSPHRASE = 'four quiet herons wading'

let h: Harness
let store: AccessStore
let folder: string
const audit: { event: string }[] = []
/** The clock of who is made to wait, ms. */
let now = 0
beforeAll(async () => {
  folder = temporaryFolder()
  store = await openAccess(join(folder, 'test-access.sqlite'))
  await store.setPassphrase(await keepPassphrase(PASSPHRASE))
  h = await startHarness({
    access: {
      store,
      secure: false,
      port: () => 4173,
      addresses: () => ['http://192.0.2.7:4173'],
      audit: (line) => void audit.push(line),
      now: () => now,
    },
  })
})
afterAll(async () => {
  await h.close()
  store.close()
  rmSync(folder, { recursive: true })
})

const signIn = async (passphrase = PASSPHRASE) => {
  const answer = await h.call('POST', '/api/access/sign-in', { passphrase })
  const cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? ''
  return { ...answer, cookie }
}

/** Every address of the API, with words for what stands in braces. */
async function everyRoute(cookie: string): Promise<[method: string, path: string][]> {
  const { body } = await h.call('GET', '/api/openapi.json', undefined, { cookie })
  const described = Object.entries(body.paths as Record<string, object>).flatMap(
    ([path, methods]) =>
      Object.keys(methods).map((method): [string, string] => [
        method.toUpperCase(),
        path.replace(/\{\w+\}/g, 'x'),
      ]),
  )
  return [
    ...described,
    ['GET', '/api/openapi.json'],
    ['GET', '/api/schema/station.json'],
    ['GET', '/api/backup'],
    ['POST', '/api/backup/preview'],
    ['POST', '/api/backup/restore'],
    ['GET', '/api/backup/kept'],
    ['POST', '/api/backup/kept/x/restore'],
    ['GET', '/api/stations/merrow-point/log.csv'],
    ['GET', '/api/stations/merrow-point/log.json'],
    ['GET', '/api/stations/merrow-point/file'],
    ['GET', '/api/nowhere'],
  ]
}

describe('open to the network', () => {
  test('nothing is read or written without a session, at no address there is', async () => {
    const { cookie } = await signIn()
    const routes = await everyRoute(cookie)
    expect(routes.length).toBeGreaterThan(50)
    for (const [method, path] of routes) {
      const { status, body } = await h.call(method, path, method === 'GET' ? undefined : {})
      expect([method, path, status]).toEqual([method, path, 401])
      expect(body.title).toBe('Not signed in')
    }
    // The page that asks for the passphrase is there for everybody.
    expect((await h.call('GET', '/')).status).toBe(200)
    expect((await h.call('GET', '/api/access')).body).toEqual({ network: true, signedIn: false })
  })

  test('a token may what its scope says, and nothing beyond', async () => {
    const { cookie } = await signIn()
    const routes = await everyRoute(cookie)
    /** By hand, apart from the table: what each scope holds. */
    const may: Record<Scope, readonly Scope[]> = {
      live: ['live'],
      sweep: ['sweep'],
      calendar: ['calendar'],
      read: ['read', 'calendar'],
      enter: ['read', 'calendar', 'enter', 'live', 'sweep'],
      change: ['read', 'calendar', 'enter', 'live', 'sweep', 'change'],
      own: ['read', 'calendar', 'enter', 'live', 'sweep', 'change', 'own'],
    }
    for (const scope of Object.keys(may) as Scope[]) {
      const { token } = (await store.makeToken({ name: scope, scope }))!
      const authorization = `Bearer ${token}`
      for (const [method, path] of routes) {
        const needed = scopeNeeded(method, path.slice('/api'.length))
        // What this would do to the station of the other tests.
        if (may[scope].includes('own') && method !== 'GET') continue
        const { status } = await h.call(method, path, method === 'GET' ? undefined : {}, {
          authorization,
        })
        if (may[scope].includes(needed))
          expect([401, 403], `${scope} ${method} ${path}`).not.toContain(status)
        else expect([scope, method, path, status]).toEqual([scope, method, path, 403])
      }
      if (scope === 'own') continue
      for (const path of ['/api/BACKUP', '/api/Backup/kept', '/api/backup/'])
        expect((await h.call('GET', path, undefined, { authorization })).status).toBe(403)
    }
  })

  test('a token for the calendar may stand in its address, no other token may, and nowhere else', async () => {
    const keyOf = async (scope: Scope) => (await store.makeToken({ name: scope, scope }))!.token
    const calendar = await keyOf('calendar')
    const at = async (path: string, key: string) =>
      (await h.call('GET', `${path}?key=${key}`)).status
    const ics = '/api/stations/merrow-point/calendar.ics'
    expect(await at(ics, calendar)).toBe(200)
    expect(await at(ics, `${calendar}x`)).toBe(401)
    for (const scope of ['live', 'sweep', 'read', 'enter', 'change', 'own'] as const)
      expect([scope, await at(ics, await keyOf(scope))]).toEqual([scope, 401])
    for (const path of ['/api/stations', '/api/stations/merrow-point/duties', '/api/backup'])
      expect([path, await at(path, calendar)]).toEqual([path, 401])
  })

  test('what each address asks for', () => {
    const needs: [Scope, string, string][] = [
      ['enter', 'POST', '/chains/c/readings'],
      ['enter', 'POST', '/chains/c/readings/many'],
      ['enter', 'PUT', '/chains/c/readings/r'],
      ['enter', 'PUT', '/chains/c/runs/r'],
      ['enter', 'PUT', '/stations/s/attempts/a'],
      ['live', 'POST', '/live/c/2'],
      ['sweep', 'POST', '/chains/c/line-sweeps'],
      ['sweep', 'PUT', '/chains/c/line-sweeps/s'],
      ['read', 'GET', '/chains/c/line-sweeps'],
      ['change', 'DELETE', '/line-sweeps/s'],
      ['change', 'PUT', '/chains/c'],
      ['change', 'DELETE', '/readings/r'],
      ['change', 'POST', '/stations'],
      ['read', 'GET', '/stations/s/log.csv'],
      ['calendar', 'GET', '/stations/s/calendar.ics'],
      ['read', 'HEAD', '/stations'],
      ['own', 'GET', '/backup'],
      ['own', 'DELETE', '/bin'],
      ['own', 'POST', '/chains/c/readings/../../x'],
      ['own', 'GET', '/an/address/nobody/thought/of'],
    ]
    for (const [scope, method, path] of needs) expect(scopeNeeded(method, path)).toBe(scope)
  })

  test('a token for live figures of one chain sends those and sees nothing', async () => {
    const { token } = (await store.makeToken({
      name: 'mast meter',
      scope: 'live',
      chainId: 'hf-long-run',
    }))!
    const authorization = `Bearer ${token}`
    const send = (chain: string) =>
      h.call('POST', `/api/live/${chain}/1`, { forwardW: 80 }, { authorization })
    expect((await send('hf-long-run')).status).toBe(200)
    expect((await send('hf-amplifier')).status).toBe(403)
    for (const path of ['/api/stations', '/api/live/hf-long-run', '/api/changes'])
      expect((await h.call('GET', path, undefined, { authorization })).status).toBe(403)
  })

  test('a token for sweeps of one chain keeps those and sees nothing', async () => {
    const { token } = (await store.makeToken({
      name: 'analyser',
      scope: 'sweep',
      chainId: 'vhf-mast',
    }))!
    const authorization = `Bearer ${token}`
    const rows = Array.from({ length: 20 }, (_, i) => `${140 + i} 0.1 0.05`).join('\n')
    const send = (chain: string, method = 'POST', id = '') =>
      h.call(
        method,
        `/api/chains/${chain}/line-sweeps${id}`,
        {
          before: 'load',
          readAt: new Date().toISOString(),
          touchstone: `# MHz S RI R 50\n${rows}`,
        },
        { authorization },
      )
    expect((await send('vhf-mast')).status).toBe(201)
    expect((await send('vhf-mast', 'PUT', '/sent-again')).status).toBe(200)
    for (const chain of ['hf-long-run', 'VHF-MAST', 'vhf-mast%2f..'])
      expect([chain, (await send(chain)).status]).toEqual([chain, 403])
    for (const path of [
      '/api/stations',
      '/api/chains/vhf-mast/line-sweeps',
      '/api/chains/vhf-mast',
    ])
      expect((await h.call('GET', path, undefined, { authorization })).status).toBe(403)
  })

  test('a session reads and writes; signed out it does not, everywhere at once', async () => {
    const one = await signIn()
    const two = await signIn()
    expect(one.headers.get('set-cookie')).toMatch(
      /^saltline-4173=[\w-]{43}; Path=\/; Max-Age=2592000; HttpOnly; SameSite=Strict$/,
    )
    const reads = async (cookie: string) =>
      (await h.call('GET', '/api/stations', undefined, { cookie })).status
    expect([await reads(one.cookie), await reads(two.cookie)]).toEqual([200, 200])
    await h.call('POST', '/api/access/sign-out', {}, { cookie: one.cookie })
    expect([await reads(one.cookie), await reads(two.cookie)]).toEqual([401, 200])
    const three = await signIn()
    await h.call('POST', '/api/access/sign-out-everywhere', {}, { cookie: two.cookie })
    expect([await reads(two.cookie), await reads(three.cookie)]).toEqual([401, 401])
  })

  test('tokens are shown once, listed without themselves, and revoked', async () => {
    const { cookie } = await signIn()
    const made = await h.call(
      'POST',
      '/api/access/tokens',
      { name: 'mast meter', scope: 'enter', passphrase: PASSPHRASE },
      { cookie },
    )
    expect(made).toMatchObject({ status: 201, body: { name: 'mast meter', scope: 'enter' } })
    expect(made.body.token).toMatch(/^slt_[\w-]{43}$/)
    const listed = await h.call('GET', '/api/access/tokens', undefined, { cookie })
    expect(JSON.stringify(listed.body)).not.toContain(made.body.token)
    const authorization = `Bearer ${made.body.token}`
    expect((await h.call('GET', '/api/stations', undefined, { authorization })).status).toBe(200)
    // A token makes no tokens and no codes.
    for (const path of ['tokens', 'codes', 'sign-out-everywhere'])
      expect((await h.call('POST', `/api/access/${path}`, {}, { authorization })).status).toBe(401)
    await h.call('DELETE', `/api/access/tokens/${made.body.id}`, undefined, { cookie })
    expect((await h.call('GET', '/api/stations', undefined, { authorization })).status).toBe(401)
  })

  test('a phone joins by a code, once', async () => {
    const { cookie } = await signIn()
    const { body } = await h.call('POST', '/api/access/codes', {}, { cookie })
    expect(body.links).toEqual([`http://192.0.2.7:4173/join/${body.code}`])
    const joined = await h.call('POST', '/api/access/join', { code: body.code.toUpperCase() })
    expect(joined.status).toBe(200)
    const phone = joined.headers.get('set-cookie')!.split(';')[0]!
    expect((await h.call('GET', '/api/stations', undefined, { cookie: phone })).status).toBe(200)
    const again = await h.call('POST', '/api/access/join', { code: body.code })
    expect(again).toMatchObject({ status: 401 })
    expect(again.body.detail).toContain('works once')
  })

  test('a page of another origin changes nothing, signed in or not', async () => {
    const { cookie } = await signIn()
    const origin = 'http://elsewhere.example'
    const from = await h.call('POST', '/api/access/codes', {}, { cookie, origin })
    expect(from).toMatchObject({ status: 403, body: { title: 'Wrong origin' } })
    expect(
      (await h.call('POST', '/api/access/sign-in', { passphrase: PASSPHRASE }, { origin })).status,
    ).toBe(403)
  })

  test('a body that is none is named', async () => {
    const { body, status } = await h.call('POST', '/api/access/join', {})
    expect([status, body.errors[0].pointer]).toEqual([422, '/code'])
    expect((await h.call('POST', '/api/access/sign-in', '{no')).status).toBe(400)
  })

  test('who guesses many at once is slowed as well', async () => {
    const answers = await Promise.all(
      Array.from({ length: 12 }, (_, i) => signIn(`one of many guesses ${i}`)),
    )
    const tried = answers.filter(({ status }) => status === 401)
    expect(tried.length).toBeLessThanOrEqual(5)
    now += 3000
    expect((await signIn()).status).toBe(200)
  })

  test('who guesses waits longer and longer, and every attempt is written down', async () => {
    audit.length = 0
    const statuses: number[] = []
    for (let i = 0; i < 7; i++) statuses.push((await signIn(`guess number ${i} of many`)).status)
    expect(statuses.slice(0, 4)).toEqual([401, 401, 401, 401])
    expect(statuses.slice(4)).toEqual([429, 429, 429])
    const slowed = await signIn()
    expect(slowed.status).toBe(429)
    expect(Number(slowed.headers.get('retry-after'))).toBe(1)
    now += 1000
    expect((await signIn()).status).toBe(200)
    expect(audit.filter(({ event }) => event === 'signed in: refused')).toHaveLength(4)
    expect(JSON.stringify(audit)).not.toContain('guess')
  })
})

describe('what is kept', () => {
  test('a backup carries no hash, no session, no token', async () => {
    expect(accessFileOf('/x/data/demo.sqlite')).toBe('/x/data/demo-access.sqlite')
    const { token } = (await store.makeToken({ name: 'all', scope: 'own' }))!
    const answer = await fetch(`${h.base}/api/backup`, {
      headers: { authorization: `Bearer ${token}` },
    })
    const backup = Buffer.from(await answer.arrayBuffer())
    const { salt, hash } = store.passphrase()!
    for (const secret of [salt, hash, Buffer.from(token)])
      expect(backup.includes(secret)).toBe(false)
    const file = readFileSync(join(folder, 'test-access.sqlite'))
    expect(file.includes(Buffer.from(token))).toBe(false)
    expect(file.includes(Buffer.from(PASSPHRASE))).toBe(false)
    expect(statSync(join(folder, 'test-access.sqlite')).mode & 0o077).toBe(0)
  })

  test.each([
    ['short', /at least 12/],
    ['a b c d', /at least 12/],
    ['aaaaaaaaaaaaaa', /easy to guess/],
    ['qwertyuiop12', /easy to guess/],
    ['password1234', /easy to guess/],
    ['P4ssw0rd!2024', /easy to guess/],
    ['abcabcabcabc', /easy to guess/],
    ['saltline saltline', /easy to guess/],
    ['letmein letmein letmein letmein', /easy to guess/],
    ['long enough it is', null],
    ['heron tern gull knot', null],
    ['vT9-kr2w-Lq8e', null],
  ])('%j as a passphrase', async (text, wrong) => {
    if (wrong) expect(await weakness(text)).toMatch(wrong)
    else expect(await weakness(text)).toBeNull()
  })

  test('a made passphrase is good, and none is like another', async () => {
    const made = Array.from({ length: 50 }, makePassphrase)
    expect(new Set(made).size).toBe(50)
    for (const each of made) expect(await weakness(each)).toBeNull()
    const kept = await keepPassphrase(made[0]!)
    expect(await isPassphrase(` ${made[0]!}\n`, kept)).toBe(true)
    expect(await isPassphrase(made[1]!, kept)).toBe(false)
  })

  test('codes end after two minutes, waits after a quarter of an hour', () => {
    let now = 0
    const codes = new JoinCodes(() => now)
    const { code } = codes.make()
    now = 119_000
    const other = codes.make()
    now = 121_000
    expect(codes.take(code)).toBe(false)
    expect(codes.take(other.code)).toBe(true)
    const limiter = new Limiter(() => now)
    for (let i = 0; i < 8; i++) limiter.failed('a')
    expect(limiter.waitMs('a')).toBe(16_000)
    expect(limiter.waitMs('b')).toBe(0)
    now += 16 * 60_000
    expect(limiter.waitMs('a')).toBe(0)
    // Many addresses together are slowed as well.
    for (let i = 0; i < 60; i++) limiter.failed(`c${i}`)
    expect(limiter.waitMs('new')).toBeGreaterThan(0)
  })
})

describe('the command', () => {
  let data: string
  beforeEach(() => {
    data = mkdtempSync(join(tmpdir(), 'saltline-'))
    return () => rmSync(data, { recursive: true, force: true })
  })

  const start = (args: string[], env: Record<string, string> = {}) => {
    const child = spawn(
      process.execPath,
      [
        ...['server/dist/main.mjs', '--create', '--quiet', '--port', '0'],
        ...['--db', join(data, 'own.sqlite'), ...args],
      ],
      {
        cwd: resolve(import.meta.dirname, '../..'),
        env: { ...process.env, ...env },
        stdio: ['ignore', 'pipe', 'pipe'],
      },
    )
    let said = ''
    child.stdout.on('data', (text) => (said += String(text)))
    child.stderr.on('data', (text) => (said += String(text)))
    const ended = new Promise<number | null>((done) => child.once('exit', done))
    return { child, ended, until: (what: RegExp) => until(() => what.exec(said)), said: () => said }
  }

  test('with a certificate it speaks HTTPS alone, and its cookie goes no other way', async () => {
    const fixture = (name: string) => join(import.meta.dirname, 'fixtures', name)
    const ca = readFileSync(fixture('loopback.pem'))
    const server = start(
      [
        '--network',
        '--host',
        '127.0.0.1',
        '--cert',
        fixture('loopback.pem'),
        '--key',
        fixture('loopback.key'),
      ],
      {
        SALTLINE_PASSPHRASE: 'seven terns on a groyne',
      },
    )
    const [, base] = await server.until(/Salt Line is at (https:\/\/127\.0\.0\.1:\d+)\//)
    const ask = (path: string, body?: object) =>
      new Promise<{ status: number; headers: IncomingHttpHeaders }>((done, fail) => {
        const asked = request(
          base + path,
          {
            ca,
            method: body ? 'POST' : 'GET',
            headers: body ? { 'content-type': 'application/json' } : {},
          },
          (answer) => {
            answer.resume()
            done({ status: answer.statusCode!, headers: answer.headers })
          },
        )
        asked.once('error', fail)
        asked.end(body && JSON.stringify(body))
      })
    expect((await ask('/api/stations')).status).toBe(401)
    const signedIn = await ask('/api/access/sign-in', { passphrase: 'seven terns on a groyne' })
    expect(signedIn.status).toBe(200)
    expect(signedIn.headers['set-cookie']![0]).toMatch(
      /^__Host-saltline-\d+=.*Path=\/; .*; HttpOnly; SameSite=Strict; Secure$/,
    )
    expect(signedIn.headers['strict-transport-security']).toMatch(/max-age=/)
    // Whoever trusts nobody does not come in, nor does plain HTTP.
    await expect(fetch(`${base}/api/health`)).rejects.toThrow()
    await expect(fetch(`${base!.replace('https', 'http')}/api/health`)).rejects.toThrow()
    server.child.kill('SIGTERM')
    await server.ended
  })

  test('with --network it listens on another address, asks, and knows its passphrase from then on', async () => {
    const first = start(['--network', '--host', '127.0.0.2'])
    const [, passphrase] = await first.until(/shown this once: (\S+)/)
    const [, base] = await first.until(/Salt Line is at (http:\/\/127\.0\.0\.2:\d+)\//)
    expect((await callAt(base!, 'GET', '/api/stations')).status).toBe(401)
    const signedIn = await callAt(base!, 'POST', '/api/access/sign-in', { passphrase })
    expect(signedIn.status).toBe(200)
    const cookie = signedIn.headers.get('set-cookie')!.split(';')[0]!
    expect((await callAt(base!, 'GET', '/api/stations', undefined, { cookie })).status).toBe(200)
    expect(first.said()).not.toContain(cookie.split('=')[1])
    first.child.kill('SIGTERM')
    await first.ended
    expect(existsSync(join(data, 'own-access.sqlite'))).toBe(true)

    // A cookie is of one port: two servers on one machine do not sign each other out.
    const { port } = new URL(base!)
    const second = start(['--network', '--host', '127.0.0.2', '--port', port])
    const [, again] = await second.until(/Salt Line is at (http:\/\/127\.0\.0\.2:\d+)\//)
    expect(second.said()).not.toContain('shown this once')
    expect((await callAt(again!, 'GET', '/api/stations', undefined, { cookie })).status).toBe(200)
    second.child.kill('SIGTERM')
    await second.ended

    // Another passphrase: every device signs in anew.
    const third = start(['--network', '--host', '127.0.0.2', '--port', port, '--set-passphrase'], {
      SALTLINE_PASSPHRASE: 'seven terns on a groyne',
    })
    const [, last] = await third.until(/Salt Line is at (http:\/\/127\.0\.0\.2:\d+)\//)
    expect((await callAt(last!, 'GET', '/api/stations', undefined, { cookie })).status).toBe(401)
    third.child.kill('SIGTERM')
    await third.ended
  })

  test.each([
    [['--host', '0.0.0.0'], /add --network/],
    [['--cert', 'nowhere.pem'], /give both/],
    [['--cert', 'nowhere.pem', '--key', 'nowhere.key'], /could not be read/],
  ])('%j is refused with the cure', async (args, words) => {
    const run = start(args)
    expect(await run.ended).toBe(1)
    expect(run.said()).toMatch(words)
  })

  test('a weak passphrase from the environment is refused', async () => {
    const run = start(['--network', '--host', '127.0.0.2'], { SALTLINE_PASSPHRASE: 'short' })
    expect(await run.ended).toBe(1)
    expect(run.said()).toMatch(/at least 12/)
  })
})

describe('behind a reverse proxy', () => {
  const guess = (of: Harness, client: string, passphrase = 'a wrong one, again') =>
    of.call('POST', '/api/access/sign-in', { passphrase }, { 'x-forwarded-for': client })
  const access = () => ({
    store,
    secure: true,
    port: () => 4173,
    addresses: () => ['https://radio.example'],
    audit: (line: { event: string }) => void audit.push(line),
    // Nobody waits so long that another guess is let through.
    now: () => now,
  })

  test('guessing is limited for each client, where the proxy is trusted', async () => {
    const behind = await startHarness({ access: access(), trustedProxies: ['127.0.0.1'] })
    const statuses: number[] = []
    for (let i = 0; i < 6; i++) statuses.push((await guess(behind, '203.0.113.5')).status)
    expect(statuses).toEqual([401, 401, 401, 401, 429, 429])
    // Another one is not kept out by that, and a client cannot write itself another address in front.
    expect((await guess(behind, '203.0.113.6')).status).toBe(401)
    expect((await guess(behind, '198.51.100.9, 203.0.113.5')).status).toBe(429)
    expect((await guess(behind, '203.0.113.7', PASSPHRASE)).status).toBe(200)
    expect(store.events().some(({ address }) => address === '203.0.113.7')).toBe(true)
    await behind.close()
  })

  test('where no proxy is trusted, what a client says of itself counts for nothing', async () => {
    const bare = await startHarness({ access: access() })
    const statuses: number[] = []
    for (let i = 0; i < 6; i++) statuses.push((await guess(bare, `203.0.113.${i + 20}`)).status)
    expect(statuses).toContain(429)
    await bare.close()
  })
})
