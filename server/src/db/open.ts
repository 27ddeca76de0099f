import { existsSync, mkdirSync, statSync } from 'node:fs'
import { dirname } from 'node:path'
import { type Client, createClient } from '@libsql/client'
import { drizzle } from 'drizzle-orm/libsql'
import { migrate } from 'drizzle-orm/libsql/migrator'
import { APPLICATION_ID } from './check.ts'
import { MIGRATIONS, migrationTimes } from './migrations.ts'
import * as schema from './schema.ts'

/** Why a database cannot be used, in words for the person at the keyboard. */
export class DatabaseError extends Error {
  override readonly name = 'DatabaseError'
}

export type Database = Awaited<ReturnType<typeof openDatabase>>

/**
 * Opens a database file and brings it to this version's shape.
 *
 * @param create whether a missing file is made
 * @throws DatabaseError where it is missing, unreadable, no database, or from a newer version
 */
export async function openDatabase(path: string, { create }: { create: boolean }) {
  const existed = existsSync(path) && statSync(path).size > 0
  if (!existsSync(path)) {
    if (!create) {
      throw new DatabaseError(
        `There is no database at ${path}. Check the path, or start with --create to make a new one.`,
      )
    }
    mkdirSync(dirname(path), { recursive: true })
  }
  const client = connect(path)
  try {
    if (existed) await refuseEmpty(client, path)
    // Write-ahead log: readers never wait for a writer. Foreign keys and full synchronisation are
    // this driver's defaults on every connection; asked for here all the same and tested.
    await client.execute('PRAGMA journal_mode = WAL')
    await client.execute('PRAGMA foreign_keys = ON')
    const db = drizzle(client, { schema })
    await refuseNewer(client, path)
    await migrate(db, { migrationsFolder: MIGRATIONS })
    await client.execute(`PRAGMA application_id = ${APPLICATION_ID}`)
    return Object.assign(db, {
      close: () => client.close(),
      /** Brings all that was written into the one file, so that a copy of it is whole. */
      settle: async () => void (await client.execute('PRAGMA wal_checkpoint(TRUNCATE)')),
    })
  } catch (error) {
    client.close()
    throw unreadable(path, error)
  }
}

function connect(path: string): Client {
  try {
    return createClient({ url: `file:${path}`, timeout: 5000 })
  } catch (error) {
    throw unreadable(path, error)
  }
}

function unreadable(path: string, error: unknown): DatabaseError {
  if (error instanceof DatabaseError) return error
  const reason = error instanceof Error ? error.message : String(error)
  return new DatabaseError(
    `The database at ${path} cannot be read (${reason}). ` +
      `It may be damaged, be another kind of file, or belong to another user. Nothing was changed.`,
  )
}

/**
 * A file that was there and has none of our tables is not begun in: it may be another program's, or a copy of
 * the main file alone, whose rows were still in the log beside it.
 */
async function refuseEmpty(client: Client, path: string): Promise<void> {
  const { rows } = await client.execute(
    `SELECT name FROM sqlite_master WHERE type = 'table' AND name = '__drizzle_migrations'`,
  )
  if (rows.length > 0) return
  throw new DatabaseError(
    `The database at ${path} holds none of Salt Line’s tables. If it is a copy, the file whose name ends in ` +
      `“-wal” belongs to it: copy both while Salt Line is stopped, or use “Back up” on the station’s page. ` +
      `If it is left from a first start that was broken off, delete it. Otherwise choose another with --db. ` +
      `Nothing was changed.`,
  )
}

/** A database that has seen a migration this version does not know comes from a newer one. */
async function refuseNewer(client: Client, path: string): Promise<void> {
  const newest = Math.max(...migrationTimes())
  const table = await client.execute(
    `SELECT name FROM sqlite_master WHERE type = 'table' AND name = '__drizzle_migrations'`,
  )
  if (table.rows.length === 0) return
  const { rows } = await client.execute('SELECT max(created_at) AS at FROM __drizzle_migrations')
  if (Number(rows[0]?.['at'] ?? 0) > newest) {
    throw new DatabaseError(
      `The database at ${path} was written by a newer version of Salt Line. ` +
        `Update Salt Line, or choose another file with --db. Nothing was changed.`,
    )
  }
}
