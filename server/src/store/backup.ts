import { copyFileSync, mkdtempSync, rmSync } from 'node:fs'
import { writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chainDocumentSchema, gearBodySchema } from '@saltline/contract'
import { getTableName, sql } from 'drizzle-orm'
import type { SQLiteTable } from 'drizzle-orm/sqlite-core'
import { whyNotOurs } from '../db/check.ts'
import { type Database, DatabaseError, openDatabase } from '../db/open.ts'
import * as schema from '../db/schema.ts'
import { write } from '../db/writes.ts'
import { ProblemError } from '../http/problem.ts'

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
    const file = join(folder, 'restore.sqlite')
    await writeFile(file, bytes)
    const why = await whyNotOurs(file)
    if (why) throw refused(why)
    await checkRows(await open(file))
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

async function open(file: string): Promise<Database> {
  try {
    return await openDatabase(file, { create: false })
  } catch (error) {
    if (!(error instanceof DatabaseError)) throw error
    throw refused('It cannot be brought up to this version.')
  }
}

/** As many rows as are read at once. */
const PORTION = 200

/**
 * Holds the documents of a migrated copy against their schemas, and closes it.
 *
 * @throws ProblemError naming the first row that does not fit
 */
async function checkRows(source: Database): Promise<void> {
  const check = async (
    table: SQLiteTable,
    what: string,
    fits: (row: Record<string, unknown>) => boolean,
  ) => {
    for (let offset = 0; ; offset += PORTION) {
      const rows = await source.select().from(table).limit(PORTION).offset(offset)
      const bad = rows.find((row) => !fits(row))
      if (bad)
        throw refused(
          `A ${what} in it is damaged (${String(bad['id'] ?? `${String(bad['chainId'])}, revision ${String(bad['revision'])}`)}).`,
        )
      if (rows.length < PORTION) return
    }
  }
  try {
    await check(
      schema.chainRevisions,
      'chain',
      ({ document }) => chainDocumentSchema.safeParse(document).success,
    )
    await check(schema.gear, 'piece of gear', ({ body }) => gearBodySchema.safeParse(body).success)
  } catch (error) {
    if (error instanceof ProblemError) throw error
    throw refused(`A row in it cannot be read (${error instanceof Error ? error.message : ''}).`)
  } finally {
    source.close()
  }
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
