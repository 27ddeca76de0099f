import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { BackupPreview } from '@saltline/contract'
import { createClient } from '@libsql/client/sqlite3'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { copiesFolder } from '../src/store/copies.ts'
import { type Harness, startHarness, temporaryFolder } from './harness.ts'

let h: Harness
beforeAll(async () => {
  h = await startHarness()
})
afterAll(() => h.close())

const download = async () => Buffer.from(await (await fetch(`${h.base}/api/backup`)).arrayBuffer())

async function upload(bytes: Uint8Array) {
  const response = await fetch(`${h.base}/api/backup/restore`, {
    method: 'POST',
    body: new Uint8Array(bytes),
  })
  return { status: response.status, body: (await response.json()) as Record<string, never> }
}

test('a backup is a plain SQLite file with everything in it', async () => {
  const folder = temporaryFolder()
  const file = join(folder, 'copy.sqlite')
  writeFileSync(file, await download())
  expect(readFileSync(file).subarray(0, 15).toString()).toBe('SQLite format 3')
  const client = createClient({ url: `file:${file}` })
  const { rows } = await client.execute('SELECT name FROM stations')
  expect(rows[0]!['name']).toBe('Merrow Point')
  client.close()
  rmSync(folder, { recursive: true })
})

test('what was changed after the backup is gone when it is restored, and is kept as a copy', async () => {
  const backup = await download()
  const before = (await h.call('GET', '/api/stations/merrow-point')).body
  await h.call('PUT', '/api/stations/merrow-point', {
    name: 'Changed',
    note: '',
    place: '',
    swrLimit: 2,
  })
  await h.call('POST', '/api/stations', { name: 'Another' })
  const { status, body } = await upload(backup)
  expect(status).toBe(200)
  expect(body['stations']).toMatchObject([{ name: 'Merrow Point', chains: 4 }])
  expect((await h.call('GET', '/api/stations/merrow-point')).body).toEqual(before)
  expect((await h.call('GET', '/api/stations')).body).toHaveLength(1)
  // Chains, sweeps and revisions came along, and can be written to.
  expect((await h.call('GET', '/api/sweeps/whip-8m-spring')).status).toBe(200)
  expect((await h.call('POST', '/api/stations', { name: 'After' })).status).toBe(201)
  const keptAs = join(copiesFolder(h.file), String(body['keptAs']))
  const kept = createClient({ url: `file:${keptAs}` })
  const { rows } = await kept.execute('SELECT name FROM stations ORDER BY name')
  expect(rows.map((row) => row['name'])).toEqual(['Another', 'Changed'])
  kept.close()
})

test('a backup is looked into before anything is replaced', async () => {
  const folder = temporaryFolder()
  const file = join(folder, 'older.sqlite')
  writeFileSync(file, await download())
  await h.call('POST', '/api/stations', { name: 'Made later' })
  const response = await fetch(`${h.base}/api/backup/preview`, {
    method: 'POST',
    body: readFileSync(file),
  })
  const { file: held, here } = (await response.json()) as BackupPreview
  const merrow = held.stations.find(({ name }) => name === 'Merrow Point')!
  expect(merrow.chains).toBe(4)
  const { body } = await h.call('GET', '/api/stations/merrow-point/readings?limit=1')
  expect(merrow.readings).toBe(body.total)
  expect(merrow.lastAt).toBe(body.readings[0].readAt)
  expect(Date.parse(merrow.firstAt!)).toBeLessThan(Date.parse(merrow.lastAt!))
  expect(held.stations.map(({ name }) => name)).not.toContain('Made later')
  expect(here.stations.map(({ name }) => name)).toContain('Made later')
  // Looking has changed nothing.
  expect((await h.call('GET', '/api/stations')).body).toHaveLength(here.stations.length)
  rmSync(folder, { recursive: true })
})

test('a restore is undone by bringing back the copy from before it', async () => {
  const backup = await download()
  await h.call('POST', '/api/stations', { name: 'Lost and found' })
  const before = (await h.call('GET', '/api/stations')).body
  const { body } = await upload(backup)
  const kept = (await h.call('GET', '/api/backup/kept')).body
  expect(kept[0]).toMatchObject({ name: body['keptAs'] })
  expect(Date.now() - Date.parse(kept[0].keptAt)).toBeLessThan(60_000)
  const undone = await h.call('POST', `/api/backup/kept/${String(body['keptAs'])}/restore`)
  expect(undone.status).toBe(200)
  expect((await h.call('GET', '/api/stations')).body).toEqual(before)
})

test('of copies from before a restore the last five are kept, and nothing else can be brought back', async () => {
  const folder = copiesFolder(h.file)
  mkdirSync(folder, { recursive: true })
  for (const day of ['01', '02', '03', '04', '05', '06'])
    writeFileSync(`${folder}/test.2026-01-${day}T00-00-00-000Z.restore.sqlite`, 'x')
  await upload(await download())
  const kept = (await h.call('GET', '/api/backup/kept')).body as { name: string; why: string }[]
  const restores = kept.filter(({ why }) => why === 'restore')
  expect(restores.length).toBeGreaterThanOrEqual(5)
  // Those made last are kept whatever their names say; the oldest by name has gone all the same.
  expect(restores.map(({ name }) => name).join()).not.toContain('2026-01-01')
  for (const name of ['test.sqlite', '..%2Ftest.sqlite', 'nothing'])
    expect((await h.call('POST', `/api/backup/kept/${name}/restore`)).status).toBe(404)
})

test('a revision from before a restore is not the one of the same number after it', async () => {
  const chain = '/api/chains/vhf-mast'
  const first = (await h.call('GET', chain)).body
  const backup = await download()
  // The first tab has an edit that the backup does not know.
  const edit = (state: typeof first, name: string) =>
    h.call('PUT', chain, {
      baseRevision: state.revision,
      epoch: state.epoch,
      document: { ...state.document, name },
    })
  const mine = (await edit(first, 'Mine')).body
  await upload(backup)
  // The second tab edits what was restored: its revision has the number that the first tab's has.
  const restored = (await h.call('GET', chain)).body
  expect(restored.epoch).not.toBe(first.epoch)
  const theirs = (await edit(restored, 'Theirs')).body
  expect(theirs.revision).toBe(mine.revision)
  const met = await edit(mine, 'Mine again')
  expect(met.status).toBe(409)
  expect(met.body.theirs.document.name).toBe('Theirs')
  expect((await h.call('GET', chain)).body.document.name).toBe('Theirs')
  const stepped = { baseRevision: mine.revision, epoch: mine.epoch }
  expect((await h.call('POST', `${chain}/undo`, stepped)).status).toBe(409)
  // What was refused is there all the same.
  const aside = await h.call('GET', `${chain}/revisions/${met.body.keptAsRevision}`)
  expect(aside.body.name).toBe('Mine again')
})

test.each([
  ['text', Buffer.from('this is no database')],
  ['nothing', Buffer.alloc(0)],
])('%s is refused and changes nothing', async (_, bytes) => {
  const before = (await h.call('GET', '/api/stations')).body
  const { status, body } = await upload(bytes)
  expect(status).toBe(422)
  expect(body['detail']).toMatch(/back up|backup/i)
  expect((await h.call('GET', '/api/stations')).body).toEqual(before)
})

/** A backup with something done to it by hand. */
async function tampered(...statements: string[]): Promise<Buffer> {
  const folder = temporaryFolder()
  const file = join(folder, 'tampered.sqlite')
  writeFileSync(file, await download())
  const client = createClient({ url: `file:${file}` })
  await client.execute('PRAGMA foreign_keys = OFF')
  for (const statement of statements) await client.execute(statement)
  client.close()
  const bytes = readFileSync(file)
  rmSync(folder, { recursive: true })
  return bytes
}

async function foreign(...statements: string[]): Promise<Buffer> {
  const folder = temporaryFolder()
  const file = join(folder, 'foreign.sqlite')
  const client = createClient({ url: `file:${file}` })
  for (const statement of statements) await client.execute(statement)
  client.close()
  const bytes = readFileSync(file)
  rmSync(folder, { recursive: true })
  return bytes
}

test.each<[string, () => Promise<Buffer>, RegExp]>([
  ['one byte', () => Promise.resolve(Buffer.from([0])), /no SQLite file/],
  ['the head alone', () => Promise.resolve(Buffer.from('SQLite format 3\0')), /damaged|without/],
  ['another program’s database', () => foreign('CREATE TABLE notes (text)'), /without the tables/],
  [
    'another program’s database that says so',
    () => foreign('CREATE TABLE notes (text)', 'PRAGMA application_id = 7'),
    /another program/,
  ],
  [
    'tables of the same names',
    () =>
      foreign(
        ...['stations', 'chains', 'chain_revisions', '__drizzle_migrations'].map(
          (name) => `CREATE TABLE ${name} (id, created_at)`,
        ),
      ),
    /history of another program/,
  ],
  [
    'a trigger',
    () => tampered('CREATE TRIGGER t DELETE ON gear BEGIN SELECT 1; END'),
    /no database of Salt Line holds/,
  ],
  ['a view', () => tampered('CREATE VIEW v AS SELECT 1'), /no database of Salt Line holds \(v\)/],
  ['a strange table', () => tampered('CREATE TABLE extra (x)'), /\(extra\)/],
  [
    'no station',
    () =>
      tampered(
        ...[
          'readings',
          'rounds',
          'events',
          'measurements',
          'chain_revisions',
          'chains',
          'sweeps',
          'antennas',
          'gear',
          'stations',
        ].map((t) => `DELETE FROM ${t}`),
      ),
    /holds no station/,
  ],
  [
    'chains of no station',
    () =>
      tampered(
        `DELETE FROM stations`,
        `INSERT INTO stations (id, name, place, note, swr_limit, created_at) VALUES ('x', 'x', '', '', 2, '')`,
      ),
    /not there/,
  ],
  [
    'a chain that is none',
    () => tampered(`UPDATE chain_revisions SET document = '{}' WHERE chain_id = 'vhf-mast'`),
    /chain in it is damaged \(vhf-mast, revision \d+\)/,
  ],
  [
    'text that is no text, on which the driver aborts',
    () => tampered(`UPDATE stations SET name = CAST(x'ff41' AS TEXT)`),
    /could not be read to its end|cannot be read/,
  ],
  ['a document cut short', () => tampered(`UPDATE gear SET body = '{'`), /cannot be read/],
  [
    'pages overwritten',
    async () => {
      const bytes = Buffer.from(await download())
      bytes.fill(0xff, 8192, 8192 + 4096 * 6)
      return bytes
    },
    /damaged|cannot be read/,
  ],
])('%s is refused, says why, and changes nothing', async (_, make, why) => {
  const before = (await h.call('GET', '/api/stations')).body
  const { status, body } = await upload(await make())
  expect(body['detail']).toMatch(why)
  expect(status).toBe(422)
  expect((await h.call('GET', '/api/stations')).body).toEqual(before)
  expect((await h.call('GET', '/api/chains/vhf-mast')).status).toBe(200)
})

test('a backup carries our mark, and one from before the mark is taken by its tables', async () => {
  expect((await download()).readUInt32BE(68)).toBe(0x53616c74)
  expect((await upload(await tampered('PRAGMA application_id = 0'))).status).toBe(200)
})

test('a database of a newer version is refused by that name', async () => {
  const folder = temporaryFolder()
  const file = join(folder, 'newer.sqlite')
  writeFileSync(file, await download())
  const client = createClient({ url: `file:${file}` })
  await client.execute(
    `INSERT INTO __drizzle_migrations (hash, created_at) VALUES ('x', 99999999999999)`,
  )
  client.close()
  const { status, body } = await upload(readFileSync(file))
  expect(status).toBe(422)
  expect(body['detail']).toMatch(/newer version/)
  rmSync(folder, { recursive: true })
})
