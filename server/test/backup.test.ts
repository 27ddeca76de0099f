import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { createClient } from '@libsql/client'
import { afterAll, beforeAll, expect, test } from 'vitest'
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

test('what was changed after the backup is gone when it is restored, and lies beside the database', async () => {
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
  expect(body['stations']).toBe(1)
  expect((await h.call('GET', '/api/stations/merrow-point')).body).toEqual(before)
  expect((await h.call('GET', '/api/stations')).body).toHaveLength(1)
  // Chains, sweeps and revisions came along, and can be written to.
  expect((await h.call('GET', '/api/sweeps/whip-8m-spring')).status).toBe(200)
  expect((await h.call('POST', '/api/stations', { name: 'After' })).status).toBe(201)
  const kept = createClient({ url: `file:${String(body['keptAs'])}` })
  const { rows } = await kept.execute('SELECT name FROM stations ORDER BY name')
  expect(rows.map((row) => row['name'])).toEqual(['Another', 'Changed'])
  kept.close()
  expect(existsSync(String(body['keptAs']))).toBe(true)
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
