/** What the database and its disk can do to a server, and what it answers then. */
import { closeSync, openSync, readFileSync, rmSync, writeFileSync, writeSync } from 'node:fs'
import type { AddressInfo } from 'node:net'
import { join } from 'node:path'
import { createClient } from '@libsql/client/sqlite3'
import { sql } from 'drizzle-orm'
import { afterEach, beforeEach, describe, expect, test } from 'vitest'
import { createApp } from '../src/app.ts'
import { openDatabase } from '../src/db/open.ts'
import { AnswerError, problemOf } from '../src/http/problem.ts'
import { readStation } from '../src/store/stations.ts'
import { callAt, type Harness, startHarness, temporaryFolder } from './harness.ts'

let h: Harness
beforeEach(async () => {
  h = await startHarness()
})
afterEach(() => h.close())

/** Where a test makes a connection fail, it is this thread's. */
async function withoutWorkers() {
  await h.close()
  h = await startHarness({ workers: false })
}

const add = (name: string, note = '') => h.call('POST', '/api/stations', { name, note })

/** Holds the write lock as another program would. */
async function lock() {
  const other = createClient({ url: `file:${h.file}` })
  const held = await other.transaction('write')
  await held.execute(`UPDATE stations SET note = note`)
  return async () => {
    await held.commit()
    other.close()
  }
}

describe('another program that writes', () => {
  test('is waited for, and nobody else waits', async () => {
    const unlock = await lock()
    let answered = false
    const writing = add('Patient').then((answer) => {
      answered = true
      return answer
    })
    for (let i = 0; i < 5; i++) expect((await h.call('GET', '/api/stations')).status).toBe(200)
    expect(answered).toBe(false)
    await unlock()
    expect((await writing).status).toBe(201)
    // The next ones work as though nothing had been.
    for (let i = 0; i < 5; i++) expect((await add(`After ${i}`)).status).toBe(201)
  })

  test('is named when it does not end, and writing goes on when it has', async () => {
    const unlock = await lock()
    const [one, two] = await Promise.all([add('One'), add('Two')])
    for (const { status, body, headers } of [one, two]) {
      expect(status).toBe(503)
      expect(body.title).toBe('The database is locked')
      expect(body.detail).toMatch(/Nothing was changed.*Another program/)
      expect(headers.get('retry-after')).toBe('5')
    }
    await unlock()
    expect((await add('Three')).status).toBe(201)
    const names = (await h.call('GET', '/api/stations')).body.map((s: { name: string }) => s.name)
    expect(names).toEqual(['Merrow Point', 'Three'])
  })
})

describe('a disk', () => {
  test('that is full is named, and writing goes on when there is room', async () => {
    await withoutWorkers()
    const page = async () =>
      Number(Object.values((await h.db.writer.get(sql`PRAGMA page_count`))!)[0])
    await h.db.writer.run(sql.raw(`PRAGMA max_page_count = ${await page()}`))
    let refused: Awaited<ReturnType<typeof add>> | undefined
    for (let i = 0; i < 400 && refused?.status !== 507; i++)
      refused = await add(`Station ${i}`, 'x'.repeat(2000))
    expect(refused!.status).toBe(507)
    expect(refused!.body.title).toBe('The disk is full')
    expect(refused!.body.detail).toMatch(/Nothing was changed.*Make room/)
    const before = (await h.call('GET', '/api/stations')).body.length
    await h.db.writer.run(sql`PRAGMA max_page_count = 1000000`)
    expect((await add('Room again', 'x'.repeat(2000))).status).toBe(201)
    expect((await h.call('GET', '/api/stations')).body).toHaveLength(before + 1)
  })

  test('that may only be read is named, and writing goes on when it may be written', async () => {
    await withoutWorkers()
    await h.db.writer.run(sql`PRAGMA query_only = ON`)
    const { status, body } = await add('Refused')
    expect([status, body.title]).toEqual([503, 'The database is read-only'])
    expect((await h.call('GET', '/api/stations')).status).toBe(200)
    await h.db.writer.run(sql`PRAGMA query_only = OFF`)
    expect((await add('Taken')).status).toBe(201)
  })

  test('that has spoilt the file is named', async () => {
    await h.db.settle()
    const file = openSync(h.file, 'r+')
    writeSync(file, Buffer.alloc(4096 * 40, 0xa5), 0, undefined, 4096)
    closeSync(file)
    h.db.$client.reconnect()
    const { status, body } = await h.call('GET', '/api/stations')
    expect([status, body.title]).toEqual([503, 'The database is damaged'])
    expect(body.detail).toMatch(/newest backup/)
  })

  test('that has spoilt a part of the file: it is read, and nothing is written to it', async () => {
    await h.db.settle()
    const page = 4096
    // What the first reads do not touch.
    const [root] = await h.db.writer.all<{ rootpage: number }>(
      sql`SELECT rootpage FROM sqlite_schema WHERE name = 'duty_marks'`,
    )
    const n = root!.rootpage
    const spoilt = readFileSync(h.file)
    await h.close()
    spoilt.fill(0xa5, (n - 1) * page, n * page)
    const folder = temporaryFolder()
    const file = join(folder, 'spoilt.sqlite')
    writeFileSync(file, spoilt)
    const db = await openDatabase(file, { create: false })
    expect(db.damage).not.toBeNull()
    // What SQLite puts in front of it says nothing to anybody.
    expect(db.damage).not.toMatch(/^\*|main/)
    const server = createApp(db).listen(0, '127.0.0.1')
    await new Promise((done) => server.once('listening', done))
    const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
    expect((await callAt(base, 'GET', '/api/stations')).status).toBe(200)
    expect(await callAt(base, 'GET', '/api/health')).toMatchObject({
      status: 503,
      body: { ready: false, database: 'The database is damaged' },
    })
    const before = readFileSync(file)
    const refused = await callAt(base, 'POST', '/api/stations', { name: 'One more' })
    expect(refused).toMatchObject({ status: 503, body: { title: 'The database is damaged' } })
    expect(refused.body.detail).toMatch(/restore a copy/)
    expect(readFileSync(file)).toEqual(before)
    server.closeAllConnections()
    await new Promise((done) => server.close(done))
    db.close()
    rmSync(folder, { recursive: true })
    h = await startHarness()
  })

  test('from which the file was deleted: nothing more is said to be kept', async () => {
    expect((await add('Kept')).status).toBe(201)
    const saved = readFileSync(h.file)
    rmSync(h.file)
    for (let i = 0; i < 3; i++) {
      const { status, body } = await add('Lost')
      expect([status, body.title]).toEqual([503, 'The database file is gone'])
    }
    // What only computes goes on, and so does reading.
    expect((await h.call('GET', '/api/stations')).status).toBe(200)
    // Another file in its place is not the one that was opened.
    writeFileSync(h.file, saved)
    expect((await add('Elsewhere')).status).toBe(503)
  })

  test('without a folder for temporary files still serves all the rest', async () => {
    const before = process.env['TMPDIR']
    process.env['TMPDIR'] = join(h.file, 'nowhere')
    try {
      const { status, body } = await h.call('GET', '/api/backup')
      expect(status).toBe(503)
      expect(body.title).toMatch(/folder for temporary files/)
      expect((await add('Taken')).status).toBe(201)
    } finally {
      if (before === undefined) delete process.env['TMPDIR']
      else process.env['TMPDIR'] = before
    }
    expect((await h.call('GET', '/api/backup')).status).toBe(200)
  })
})

test('what was kept and cannot be shown is not said to be lost', () => {
  expect(problemOf(new AnswerError('x'), true)).toMatchObject({
    status: 500,
    title: 'It was kept, but cannot be shown',
  })
  expect(problemOf(new Error('x'), true).detail).not.toMatch(/nothing was changed/i)
})

describe('text that no screen can show', () => {
  const event = { chainId: 'vhf-mast', on: '2026-04-18' }
  const sheet = { kind: 'probe', inputs: {}, result: null }
  test.each<[string, string, string, object, string]>([
    ['a station’s name', 'POST', '/api/stations', { name: 'a\u0000b' }, 'U+0000'],
    ['an event', 'POST', '/api/events', { ...event, text: 'storm\u0007' }, 'U+0007'],
    ['half a character', 'POST', '/api/events', { ...event, text: 'storm \ud800!' }, 'U+D800'],
    ['a line end in a name', 'POST', '/api/stations', { name: 'a\nb' }, 'U+000A'],
    [
      'a sheet’s title',
      'POST',
      '/api/stations/merrow-point/measurements',
      { ...sheet, title: 'x\u001b[0m' },
      'U+001B',
    ],
    [
      'a field of a sheet',
      'POST',
      '/api/stations/merrow-point/measurements',
      { ...sheet, title: 'x', inputs: { a: ['\u0000'] } },
      'cannot be shown',
    ],
  ])('in %s is refused by name and changes nothing', async (_, method, path, body, named) => {
    const answer = await h.call(method, path, body)
    expect(answer.status).toBe(422)
    expect(answer.body.detail).toContain(named)
    expect((await h.call('GET', '/api/stations')).body).toHaveLength(1)
  })

  test('a note may have lines, and comes back with plain ends', async () => {
    const { body } = await add('Lines', 'one\r\ntwo\tthree')
    expect(body.note).toBe('one\ntwo\tthree')
  })

  test('that an older version has let in is put right when the database is opened', async () => {
    const folder = temporaryFolder()
    const file = join(folder, 'older.sqlite')
    const answer = await fetch(`${h.base}/api/backup`)
    writeFileSync(file, Buffer.from(await answer.arrayBuffer()))
    const client = createClient({ url: `file:${file}` })
    await client.execute(`UPDATE stations SET name = 'Merrow' || char(0) || ' Point'`)
    await client.execute(
      `UPDATE chain_revisions SET document = replace(document, '"name":"VHF mast"', '"name":"VHF\\u0000 mast"')`,
    )
    await client.execute(
      `UPDATE stations SET place = 'north' || char(10) || 'shore', note = 'a' || char(10) || 'b'`,
    )
    await client.execute(`UPDATE events SET text = char(7) WHERE id = (SELECT min(id) FROM events)`)
    await client.execute('PRAGMA user_version = 0')
    client.close()
    const db = await openDatabase(file, { create: false })
    const { name } = await db.get<{ name: string }>(sql`SELECT name FROM stations`)
    expect(name).toBe('Merrow Point')
    const station = await readStation(db, 'merrow-point')
    // What may have lines keeps them; what is one line has become one.
    expect([station.place, station.note]).toEqual(['north shore', 'a\nb'])
    const bare = await db.get<{ text: string }>(sql`SELECT text FROM events ORDER BY id LIMIT 1`)
    expect(bare.text).toBe('?')
    const { found } = await db.get<{ found: number }>(
      sql`SELECT count(*) AS found FROM chain_revisions WHERE document LIKE '%"name":"VHF mast"%'`,
    )
    expect(found).toBe(1)
    db.close()
    rmSync(folder, { recursive: true })
  })
})
