import { fork } from 'node:child_process'
import { copyFileSync, mkdtempSync, rmSync } from 'node:fs'
import { writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { getTableName, sql } from 'drizzle-orm'
import type { SQLiteTable } from 'drizzle-orm/sqlite-core'
import { isSqlite } from '../db/check.ts'
import type { Database } from '../db/open.ts'
import * as schema from '../db/schema.ts'
import { write } from '../db/writes.ts'
import { ProblemError } from '../http/problem.ts'

const ROOT = resolve(import.meta.dirname, '../../..')
const INSPECTOR = resolve(import.meta.dirname, 'inspectBackup.ts')

/** Every table, those first that others point at. */
const tables: SQLiteTable[] = [
  schema.stations,
  schema.gear,
  schema.antennas,
  schema.sweeps,
  schema.chains,
  schema.chainRevisions,
  schema.rounds,
  schema.readings,
  schema.events,
  schema.measurements,
]

/** A folder of its own that is gone when the work in it is done. */
async function inFolder<T>(run: (folder: string) => Promise<T>): Promise<T> {
  const folder = mkdtempSync(join(tmpdir(), 'saltline-backup-'))
  try {
    return await run(folder)
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

/** Copies the whole database, as it is at this moment, into one plain SQLite file and hands it on. */
export const backUp = <T>(db: Database, run: (file: string) => Promise<T>): Promise<T> =>
  inFolder(async (folder) => {
    const file = join(folder, 'saltline.sqlite')
    await db.run(sql`VACUUM INTO ${file}`)
    return run(file)
  })

/**
 * Replaces everything by what a backup holds. The backup is opened, and brought up to this version, as a
 * copy first; the database as it was is kept beside itself; then all rows change in one transaction.
 *
 * @param bytes of a SQLite file
 * @throws ProblemError where it is no backup, naming why; nothing is changed then
 */
export const restore = (db: Database, bytes: Uint8Array) =>
  inFolder(async (folder) => {
    if (!isSqlite(bytes)) throw refused('It is no SQLite file.')
    const file = join(folder, 'restore.sqlite')
    await writeFile(file, bytes)
    const why = await inspect(file)
    if (why) throw refused(why)
    const main = await mainFile(db)
    const keptAs = `${main}.before-restore-${new Date().toISOString().replace(/[:.]/g, '-')}`
    await backUp(db, async (copy) => copyFileSync(copy, keptAs))
    await db.run(sql`ATTACH DATABASE ${file} AS restored`)
    try {
      await write(db, async (tx) => {
        for (const table of [...tables].reverse()) await tx.delete(table)
        for (const table of tables) {
          const name = sql.identifier(getTableName(table))
          const columns = sql.join(
            Object.values(table as unknown as Record<string, { name?: string }>).flatMap(
              (column) => (column?.name ? [sql.identifier(column.name)] : []),
            ),
            sql`, `,
          )
          await tx.run(
            sql`INSERT INTO main.${name} (${columns}) SELECT ${columns} FROM restored.${name}`,
          )
        }
      })
    } finally {
      await db.run(sql`DETACH DATABASE restored`)
    }
    const count = async (table: SQLiteTable) => db.$count(table)
    return {
      stations: await count(schema.stations),
      readings: await count(schema.readings),
      keptAs,
    }
  })

/** Longer than any honest file takes, ms. */
const INSPECTION_LIMIT_MS = 300_000

/**
 * Has the file looked at and brought up to this version by a process of its own.
 *
 * @returns why it is refused; null where nothing speaks against it
 */
function inspect(file: string): Promise<string | null> {
  const child = fork(INSPECTOR, [file], {
    cwd: ROOT,
    execArgv: ['--import', 'tsx'],
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    timeout: INSPECTION_LIMIT_MS,
    killSignal: 'SIGKILL',
  })
  return new Promise((done) => {
    child.once('message', (why) => done(typeof why === 'string' ? why : null))
    // After a message this changes nothing.
    child.once('exit', () => done('It is damaged: it could not be read to its end.'))
    child.once('error', () => done('It could not be looked at.'))
  })
}

const refused = (why: string): ProblemError =>
  new ProblemError({
    status: 422,
    title: 'This is no backup of Salt Line',
    detail: `${why} Choose a file that “Back up” has written. Nothing was changed.`,
  })

async function mainFile(db: Database): Promise<string> {
  const [main] = await db.all<{ file: string }>(
    sql`SELECT file FROM pragma_database_list WHERE name = 'main'`,
  )
  return main!.file
}
