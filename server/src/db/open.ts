import { existsSync, mkdirSync } from 'node:fs'
import { dirname } from 'node:path'
import { createClient } from '@libsql/client'
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
  if (!existsSync(path)) {
    if (!create) {
      throw new DatabaseError(
        `There is no database at ${path}. Check the path, or start with --create to make a new one.`,
      )
    }
    mkdirSync(dirname(path), { recursive: true })
  }
  try {
    const client = createClient({ url: `file:${path}`, timeout: 5000 })
    // Write-ahead log: readers never wait for a writer. Foreign keys and full synchronisation are
    // this driver's defaults on every connection; asked for here all the same and tested.
    await client.execute('PRAGMA journal_mode = WAL')
    await client.execute('PRAGMA foreign_keys = ON')
    const db = drizzle(client, { schema })
    await refuseNewer(client, path)
    await migrate(db, { migrationsFolder: MIGRATIONS })
    await client.execute(`PRAGMA application_id = ${APPLICATION_ID}`)
    return Object.assign(db, { close: () => client.close() })
  } catch (error) {
    if (error instanceof DatabaseError) throw error
    const reason = error instanceof Error ? error.message : String(error)
    throw new DatabaseError(
      `The database at ${path} cannot be read (${reason}). ` +
        `It may be damaged, be another kind of file, or belong to another user. Nothing was changed.`,
    )
  }
}

/** A database that has seen a migration this version does not know comes from a newer one. */
async function refuseNewer(client: ReturnType<typeof createClient>, path: string): Promise<void> {
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
