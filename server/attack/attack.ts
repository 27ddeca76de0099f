/**
 * `npm run attack`: what can be done to a server that is open to a network, done to one of our own on loopback. One line for
 * every finding, and for every attack that found none.
 *   npm run attack                      some kills, twenty thousand mangled requests
 *   npm run attack -- 1000 200000       so many kills, so many requests
 *   ONLY=longWork,kills npm run attack  some of it
 */
import { type ChildProcess, spawn, spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { connect, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { createClient } from '@libsql/client/sqlite3'
import { othersWhile, shareOf } from '../bench/others.ts'

const KILLS = Number(process.argv[2] ?? 20)
const REQUESTS = Number(process.argv[3] ?? 20_000)
const PASSPHRASE = 'four quiet herons wading'
const ROOT = resolve(import.meta.dirname, '../..')
/** Nobody else may be held up for longer, ms. */
const HELD_UP_MS = 1000
/** Nor wait so much longer for a look, at 99 %, ms. */
const LOOK_MS = 20

/** Ctrl + C ends the kills; what was acknowledged until then is looked for. */
let stopped = false
process.once('SIGINT', () => (stopped = true))

let findings = 0
function tell(attack: string, found: string | null, figures: string): void {
  if (found !== null) findings++
  console.log(
    `${found === null ? 'held   ' : 'FINDING'} ${attack}: ${found ?? 'nothing'} (${figures})`,
  )
}

const folder = mkdtempSync(join(tmpdir(), 'saltline-attack-'))

interface Server {
  base: string
  port: number
  child: ChildProcess
  alive: () => boolean
  said: () => string
}

async function start(file: string): Promise<Server> {
  const child = spawn(
    process.execPath,
    [
      ...['server/dist/main.mjs', '--create', '--demo', '--quiet', '--network'],
      ...['--host', '127.0.0.1', '--port', '0', '--db', file],
    ],
    {
      cwd: ROOT,
      env: { ...process.env, SALTLINE_PASSPHRASE: PASSPHRASE },
      stdio: ['ignore', 'pipe', 'pipe'],
    },
  )
  let said = ''
  let ended = false
  child.once('exit', () => (ended = true))
  child.stdout.on('data', (text) => (said += String(text)))
  child.stderr.on('data', (text) => (said += String(text)))
  for (;;) {
    const port = /at http:\/\/127\.0\.0\.1:(\d+)\//.exec(said)?.[1]
    if (port) {
      const base = `http://127.0.0.1:${port}`
      return { base, port: Number(port), child, alive: () => !ended, said: () => said }
    }
    if (ended) throw new Error(`The server did not start: ${said}`)
    await pause(10)
  }
}

const end = async ({ child, alive }: Server, signal: NodeJS.Signals = 'SIGTERM') => {
  if (!alive()) return
  const gone = new Promise((done) => child.once('exit', done))
  child.kill(signal)
  await gone
}

async function ask(
  base: string,
  method: string,
  path: string,
  { body, headers = {} }: { body?: unknown; headers?: Record<string, string> } = {},
) {
  const began = performance.now()
  const answer = await fetch(base + path, {
    method,
    headers: { ...(body !== undefined && { 'content-type': 'application/json' }), ...headers },
    ...(body !== undefined && { body: JSON.stringify(body) }),
  })
  const text = await answer.text()
  return { status: answer.status, ms: performance.now() - began, text, headers: answer.headers }
}

async function signIn(base: string): Promise<Record<string, string>> {
  const { headers } = await ask(base, 'POST', '/api/access/sign-in', {
    body: { passphrase: PASSPHRASE, device: 'operator' },
  })
  return { cookie: headers.get('set-cookie')!.split(';')[0]! }
}

async function tokenOf(base: string, headers: Record<string, string>, scope: string) {
  const { text } = await ask(base, 'POST', '/api/access/tokens', {
    body: { name: scope, scope, passphrase: PASSPHRASE },
    headers,
  })
  return { authorization: `Bearer ${(JSON.parse(text) as { token: string }).token}` }
}

const reading = (forwardW: number) => ({
  ...{ before: 'load', frequencyHz: 8.294e6, mode: 'key-down', powerW: 125, forwardW },
})

/** Looks and readings of the operator while something goes on: how long they waited, and what was not answered. */
async function operatorDuring(
  { base }: Server,
  headers: Record<string, string>,
  attack: Promise<unknown>,
  atLeast = 15,
) {
  let on = true
  void attack.finally(() => (on = false)).catch(() => undefined)
  const waits = {
    look: [] as number[],
    page: [] as number[],
    reading: [] as number[],
    save: [] as number[],
  }
  const wrong: string[] = []
  let n = 0
  while (on || n < atLeast) {
    n++
    for (const [what, work, right] of [
      ['look', () => ask(base, 'GET', '/api/stations', { headers }), 200],
      ['page', () => ask(base, 'GET', '/mark.svg'), 200],
      [
        'reading',
        () =>
          ask(base, 'PUT', `/api/chains/hf-long-run/readings/a${n}x${Date.now() % 1e6}`, {
            body: reading(80),
            headers,
          }),
        200,
      ],
      [
        'save',
        () =>
          ask(base, 'PUT', '/api/stations/merrow-point', {
            body: { name: 'Merrow Point', note: `${n}` },
            headers,
          }),
        200,
      ],
    ] as const) {
      try {
        const { status, ms } = await work()
        waits[what].push(ms)
        if (status !== right) wrong.push(`${what} ${status}`)
      } catch (error) {
        wrong.push(`${what} ${String(error)}`)
      }
    }
    await pause(30)
  }
  await attack.catch(() => undefined)
  const most = Math.max(...Object.values(waits).flat())
  const worded = Object.entries(waits).map(
    ([what, all]) => `${what} ${shareOf(all, 0.99).toFixed(0)}, ${Math.max(...all).toFixed(0)}`,
  )
  return {
    found:
      wrong.length > 0
        ? `${wrong.length} not answered, such as ${wrong[0]}`
        : most > HELD_UP_MS
          ? `the operator was held up for ${most.toFixed(0)} ms`
          : null,
    figures: `${n} rounds; ms at 99 %, and at most: ${worded.join('; ')}`,
  }
}

/** Saved, killed in the middle, opened again: all that was acknowledged is there. */
async function kills(): Promise<void> {
  const file = join(folder, 'kills.sqlite')
  const kept: string[] = []
  let lost = 0
  let killed = 0
  for (let n = 0; n < KILLS && !stopped; n++) {
    const server = await start(file)
    const headers = await signIn(server.base)
    const stop = 5 + ((n * 7) % 23)
    let acknowledged = 0
    const senders = Array.from({ length: 3 }, async (_, s) => {
      for (let i = 0; server.alive(); i++) {
        const id = `k${n}s${s}i${i}`
        try {
          const { status } = await ask(
            server.base,
            'PUT',
            `/api/chains/hf-long-run/readings/${id}`,
            { body: reading(50 + i), headers },
          )
          if (status === 200) kept.push(id)
          if (++acknowledged === stop) server.child.kill('SIGKILL')
        } catch {
          return
        }
      }
    })
    await Promise.all(senders)
    killed++
    if (killed % 50 === 0) console.log(`        ${killed} of ${KILLS} kills`)
  }
  const client = createClient({ url: `file:${file}` })
  for (let i = 0; i < kept.length; i += 500) {
    const some = kept.slice(i, i + 500)
    const { rows } = await client.execute({
      sql: `select count(*) as n from readings where id in (${some.map(() => '?').join(',')})`,
      args: some,
    })
    lost += some.length - Number(rows[0]!['n'])
  }
  const [integrity] = (await client.execute('pragma integrity_check')).rows
  client.close()
  const whole = String(integrity?.[0]) === 'ok'
  tell(
    'kill -9 in the middle of saving',
    lost > 0 ? `${lost} readings lost` : whole ? null : 'the file is damaged',
    `${killed} kills, ${kept.length} acknowledged, ${lost} lost`,
  )
}

/** Another program holds a database, with streams open. */
async function locks(): Promise<void> {
  for (const [which, ending] of [
    ['access', '-access.sqlite'],
    ['station', '.sqlite'],
  ] as const) {
    const server = await start(join(folder, 'locks.sqlite'))
    const headers = await signIn(server.base)
    const stop = new AbortController()
    const stream = await fetch(`${server.base}/api/changes`, { headers, signal: stop.signal })
    const other = createClient({ url: `file:${join(folder, 'locks')}${ending}` })
    const held = await other.transaction('write')
    await held.execute(
      which === 'access' ? 'update sessions set name = name' : 'update stations set note = note',
    )
    const looks = { slowest: 0, wrong: 0 }
    const until = Date.now() + 25_000
    while (Date.now() < until && server.alive()) {
      for (const path of ['/api/stations', '/mark.svg']) {
        const { ms, status } = await ask(server.base, 'GET', path, { headers }).catch(() => ({
          ms: 0,
          status: 0,
        }))
        looks.slowest = Math.max(looks.slowest, ms)
        if (status !== 200) looks.wrong++
      }
      await pause(100)
    }
    await held.commit()
    other.close()
    const { status } = await ask(server.base, 'POST', '/api/access/sign-out-everywhere', {
      headers,
    })
    tell(
      `the ${which} database locked for 25 s`,
      !server.alive()
        ? `the server ended: ${server.said().slice(-300)}`
        : looks.wrong > 0
          ? `${looks.wrong} looks were not answered`
          : looks.slowest > HELD_UP_MS
            ? `a look took ${looks.slowest.toFixed(0)} ms`
            : status === 200
              ? null
              : `afterwards: ${status}`,
      `slowest look ${looks.slowest.toFixed(0)} ms, stream ${stream.status}`,
    )
    stop.abort()
    await end(server)
  }
}

/** Both databases on a disk without room; needs the right to make one in memory. */
async function fullDisk(): Promise<void> {
  const disk = mkdtempSync(join(tmpdir(), 'saltline-full-'))
  const made = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=12m', 'tmpfs', disk])
  if (made.status !== 0) {
    rmSync(disk, { recursive: true })
    return console.log('skipped a full disk: a small disk in memory cannot be made here')
  }
  try {
    const server = await start(join(disk, 'full.sqlite'))
    const headers = await signIn(server.base)
    spawnSync('sh', ['-c', `cat /dev/zero > ${disk}/filler 2>/dev/null`])
    const until = Date.now() + 15_000
    const statuses = new Map<string, number>()
    let slowest = 0
    while (Date.now() < until && server.alive()) {
      for (const [name, work] of [
        ['look', () => ask(server.base, 'GET', '/api/stations', { headers })],
        [
          'save',
          () =>
            ask(server.base, 'POST', '/api/stations', {
              body: { name: 'x', note: 'y'.repeat(1900) },
              headers,
            }),
        ],
      ] as const) {
        const { status, ms } = await work().catch(() => ({ status: 0, ms: 0 }))
        statuses.set(`${name} ${status}`, (statuses.get(`${name} ${status}`) ?? 0) + 1)
        slowest = Math.max(slowest, ms)
      }
      await pause(50)
    }
    const { status } = await ask(server.base, 'POST', '/api/access/sign-out-everywhere', {
      headers,
    })
    const after = await ask(server.base, 'GET', '/api/stations', { headers })
    const odd = [...statuses.keys()].filter((each) => !/^look 200|^save (201|507|503)/.test(each))
    tell(
      'a full disk under both databases',
      !server.alive()
        ? 'the server ended'
        : odd.length > 0
          ? `answered with ${odd.join(', ')}`
          : status !== 200 || after.status !== 401
            ? `signing out everywhere: ${status}, and then ${after.status}`
            : null,
      [...statuses].map(([each, n]) => `${n} × ${each}`).join(', '),
    )
    await end(server)
  } finally {
    spawnSync('umount', [disk])
    rmSync(disk, { recursive: true, force: true })
  }
}

/** Strangers: connections that trickle, and guesses in flight. */
async function strangers(): Promise<void> {
  const server = await start(join(folder, 'strangers.sqlite'))
  const headers = await signIn(server.base)
  const sockets: Socket[] = []
  const head =
    'POST /api/access/sign-in HTTP/1.1\r\nhost: localhost\r\ncontent-length: 4000\r\n\r\n{'
  const trickling = (async () => {
    for (let i = 0; i < 1000; i++) {
      const socket = connect(server.port, '127.0.0.1', () => socket.write(head))
      socket.on('error', () => undefined).resume()
      sockets.push(socket)
      if (i % 50 === 0) await pause(20)
    }
    for (let second = 0; second < 12; second++) {
      for (const socket of sockets) if (!socket.destroyed) socket.write(' ')
      await pause(1000)
    }
  })()
  const during = await operatorDuring(server, headers, trickling)
  tell('1000 connections that trickle a sign-in', during.found, during.figures)
  for (const socket of sockets) socket.destroy()

  const guessing = Promise.all(
    Array.from({ length: 25 }, (_, i) =>
      ask(server.base, 'POST', '/api/access/sign-in', {
        body: { passphrase: `guess ${i} of many` },
      }),
    ),
  )
  const guessed = await operatorDuring(server, headers, guessing, 40)
  const hashed = (await guessing).filter(({ status }) => status === 401).length
  tell(
    '25 wrong passphrases in flight',
    guessed.found ?? (hashed > 4 ? `${hashed} were looked at` : null),
    `${guessed.figures}; ${hashed} looked at`,
  )
  await end(server)
}

/** Long work of a token that may only read, and of the operator, all at once. */
async function longWork(): Promise<void> {
  const server = await start(join(folder, 'long.sqlite'))
  const { base } = server
  const headers = await signIn(base)
  const reader = await tokenOf(base, headers, 'read')
  const { document } = JSON.parse(
    (await ask(base, 'GET', '/api/chains/hf-long-run', { headers })).text,
  ) as {
    document: { stages: { id: string; kind: string; cable?: object }[] }
  }
  const lines = document.stages.filter(({ kind }) => kind === 'line')
  const candidates = Array.from({ length: 140 }, (_, i) => ({
    id: `c${i}`,
    cable: { ...lines[0]!.cable, name: `c${i}`, k1DbPer100m: 0.5 + i / 50, k2DbPer100m: 0.001 },
    costPerM: 1 + ((i * 37) % 140) / 20,
  }))
  const plan = {
    document,
    sections: lines.slice(0, 3).map(({ id }) => ({ stageId: id, candidates })),
    counts: 'worst',
    costPerSection: 0,
  }
  const idle = await othersWhile(base, () => pause(5000), headers['cookie'])
  const many = { readings: Array.from({ length: 20_000 }, (_, i) => reading(40 + (i % 60))) }
  const leave = new AbortController()
  const plans = Array.from({ length: 6 }, () =>
    fetch(`${base}/api/plan`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', ...reader },
      body: JSON.stringify(plan),
      signal: leave.signal,
    }).then(
      ({ status }) => status,
      () => 0,
    ),
  )
  const rest = Promise.all([
    ask(base, 'POST', '/api/chains/vhf-mast/readings/many', { body: many, headers }),
    ask(base, 'GET', '/api/stations/merrow-point/log.csv', { headers }),
    ask(base, 'GET', '/api/stations/merrow-point/file', { headers }),
    pause(15_000),
  ])
  const { value: during, waits } = await othersWhile(
    base,
    () => operatorDuring(server, headers, rest),
    headers['cookie'],
  )
  leave.abort()
  const refused = (await Promise.all(plans)).filter((status) => status === 429).length
  const [alone, beside] = [idle.waits, waits].map((all) => shareOf(all, 0.99))
  tell(
    'six plans, an import and two exports',
    during.found ??
      (beside! - alone! > LOOK_MS
        ? `looks waited ${(beside! - alone!).toFixed(0)} ms longer`
        : null),
    `${during.figures}; looks one after the other at 99 %: ${alone!.toFixed(1)} ms idle, ${beside!.toFixed(1)} ms (${waits.length}); ${refused} plans refused`,
  )
  await end(server)
}

/** Mangled requests to every address. */
function requests(): void {
  const { status, stdout } = spawnSync('npx', ['tsx', 'server/fuzz/routes.ts', String(REQUESTS)], {
    cwd: ROOT,
    encoding: 'utf8',
  })
  tell(
    'mangled requests',
    status === 0 ? null : 'see npm run fuzz',
    stdout.trim().split('\n').at(-1) ?? '',
  )
}

const attacks: Record<string, () => void | Promise<void>> = {
  locks,
  fullDisk,
  strangers,
  longWork,
  kills,
  requests,
}

try {
  const only = process.env['ONLY']?.split(',') ?? Object.keys(attacks)
  for (const name of only) {
    const attack = attacks[name]
    if (!attack) throw new Error(`ONLY: ${name} is none of ${Object.keys(attacks).join(', ')}`)
    await attack()
  }
} finally {
  rmSync(folder, { recursive: true, force: true })
}
console.log(findings === 0 ? 'No findings.' : `${findings} findings`)
process.exit(findings === 0 ? 0 : 1)
