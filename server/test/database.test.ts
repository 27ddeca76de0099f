import { readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { createClient } from '@libsql/client/sqlite3'
import { sql } from 'drizzle-orm'
import { afterEach, beforeEach, describe, expect, test } from 'vitest'
import { DatabaseError, openDatabase } from '../src/db/open.ts'
import { sweeps } from '../src/db/schema.ts'
import { write } from '../src/db/writes.ts'
import { seedDemo } from '../src/demo/seed.ts'
import { createStation, listStations } from '../src/store/stations.ts'
import { temporaryFolder } from './harness.ts'

let folder: string
let file: string
beforeEach(() => {
  folder = temporaryFolder()
  file = join(folder, 'x.sqlite')
})
afterEach(() => rmSync(folder, { recursive: true }))

const station = { name: 'A', place: '', note: '', swrLimit: 2 }

describe('opening', () => {
  test('a missing file is named, with the cure, and not made', async () => {
    await expect(openDatabase(file, { create: false })).rejects.toThrow(/no database at .*--create/)
  })

  test('a file that is no database is left alone', async () => {
    const text = 'This is a letter to my aunt. '.repeat(100)
    writeFileSync(file, text)
    await expect(openDatabase(file, { create: true })).rejects.toThrow(DatabaseError)
    expect(readFileSync(file, 'utf8')).toBe(text)
  })

  test('a main file without its log is not taken for an empty station', async () => {
    const client = createClient({ url: `file:${file}` })
    await client.execute('PRAGMA journal_mode = WAL')
    client.close()
    const before = readFileSync(file)
    expect(before.length).toBeGreaterThan(0)
    for (const create of [true, false])
      await expect(openDatabase(file, { create })).rejects.toThrow(
        /none of Salt Line’s tables.*-wal/,
      )
    expect(readFileSync(file)).toEqual(before)
  })

  test('an empty file may be begun in', async () => {
    writeFileSync(file, '')
    const db = await openDatabase(file, { create: true })
    expect(await listStations(db)).toEqual([])
    db.close()
  })

  test('an empty file is not begun in without being asked to', async () => {
    writeFileSync(file, '')
    await expect(openDatabase(file, { create: false })).rejects.toThrow(/is empty.*--create/)
    expect(readFileSync(file).length).toBe(0)
  })

  test('a main file that was emptied beside its log is refused, and the log is saved', async () => {
    const db = await openDatabase(file, { create: true })
    await createStation(db, station)
    const log = readFileSync(`${file}-wal`)
    expect(log.length).toBeGreaterThan(0)
    db.close()
    // As a copy that was broken off leaves it.
    writeFileSync(file, '')
    writeFileSync(`${file}-wal`, log)
    for (const create of [true, false])
      await expect(openDatabase(file, { create })).rejects.toThrow(/was emptied.*copied to/)
    expect(readFileSync(`${file}-wal`)).toEqual(log)
    const saved = readdirSync(folder).filter((name) => name.includes('-wal.saved-'))
    expect(readFileSync(join(folder, saved[0]!))).toEqual(log)
  })

  test('a database from a newer version is refused in words', async () => {
    const db = await openDatabase(file, { create: true })
    await db.run(
      sql`INSERT INTO __drizzle_migrations (hash, created_at) VALUES ('future', 9999999999999)`,
    )
    db.close()
    await expect(openDatabase(file, { create: false })).rejects.toThrow(
      /newer version of Salt Line/,
    )
  })

  test('opening again keeps everything, and the demo is not added twice', async () => {
    const db = await openDatabase(file, { create: true })
    await seedDemo(db)
    db.close()
    const again = await openDatabase(file, { create: false })
    await seedDemo(again)
    expect((await listStations(again)).map(({ id, chains }) => [id, chains.length])).toEqual([
      ['merrow-point', 4],
    ])
    again.close()
  })
})

describe('on every connection', () => {
  test('foreign keys hold, inside and outside of transactions', async () => {
    const db = await openDatabase(file, { create: true })
    const orphan = {
      id: 's',
      antennaId: 'nobody',
      name: '',
      addedAt: '',
      referenceOhm: 50,
      pointCount: 0,
      lowHz: 0,
      highHz: 0,
      points: Buffer.alloc(0),
    }
    await expect(db.insert(sweeps).values(orphan)).rejects.toThrow()
    await expect(write(db, (tx) => tx.insert(sweeps).values(orphan))).rejects.toThrow()
    await createStation(db, station)
    await expect(db.insert(sweeps).values(orphan)).rejects.toThrow()
    db.close()
  })

  test('the log is written ahead and fully synchronised', async () => {
    const db = await openDatabase(file, { create: true })
    for (let i = 0; i < 2; i++) {
      expect(Object.values((await db.get(sql`PRAGMA journal_mode`))!)).toContain('wal')
      expect(Object.values((await db.get(sql`PRAGMA synchronous`))!)).toContain(2)
      await createStation(db, station)
    }
    db.close()
  })

  test('writers that come at once wait for each other', async () => {
    const db = await openDatabase(file, { create: true })
    await Promise.all(Array.from({ length: 30 }, (_, i) => createStation(db, station, `s${i}`)))
    expect(await listStations(db)).toHaveLength(30)
    db.close()
  })

  test('a write that fails does not hold up the next', async () => {
    const db = await openDatabase(file, { create: true })
    await createStation(db, station, 'one')
    await expect(createStation(db, station, 'one')).rejects.toThrow()
    expect((await createStation(db, station, 'two')).id).toBe('two')
    db.close()
  })
})
