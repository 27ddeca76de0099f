/** Whether a file is a database of this program's, and sound: asked before anything is done with it. */
import { type Client, createClient } from '@libsql/client/sqlite3'
import { getTableName } from 'drizzle-orm'
import { allTables } from './tables.ts'
import { migrationsText, migrationTimes } from './migrations.ts'

/** Stands in the head of every database of ours since it has one: `Salt`. */
export const APPLICATION_ID = 0x53616c74

/** How every SQLite file begins. */
const HEADER = Buffer.from('SQLite format 3\0')

export const isSqlite = (bytes: Uint8Array): boolean =>
  HEADER.equals(bytes.subarray(0, HEADER.length))

const tables: ReadonlySet<string> = new Set(allTables.map((table) => getTableName(table)))
/** In every database of ours, from the first version on. */
const ALWAYS = ['stations', 'chains', 'chain_revisions'] as const

/**
 * Why a SQLite file must not take the place of a station's record; null where nothing speaks against it. The file is
 * only read, never migrated: a database of another program stays what it is.
 *
 * @returns a sentence for the operator
 */
export async function whyNotOurs(file: string): Promise<string | null> {
  const client = createClient({ url: `file:${file}` })
  try {
    return (await strangeness(client)) ?? (await damage(client))
  } catch (error) {
    return `It is damaged (${error instanceof Error ? error.message : String(error)}).`
  } finally {
    client.close()
  }
}

/** What tells another program's database, by its head, its migrations and its tables. */
async function strangeness(client: Client): Promise<string | null> {
  const column = async (sql: string): Promise<unknown[]> =>
    (await client.execute(sql)).rows.map((row) => row[0])
  const [applicationId] = await column('PRAGMA application_id')
  if (applicationId !== 0 && applicationId !== APPLICATION_ID)
    return 'It is the database of another program.'
  const names = new Set(await column(`SELECT name FROM sqlite_master WHERE type = 'table'`))
  const missing = ['__drizzle_migrations', ...ALWAYS].filter((name) => !names.has(name))
  if (missing.length > 0) return 'It is a database without the tables of a station.'
  const known = migrationTimes()
  const applied = (await column('SELECT created_at FROM __drizzle_migrations')).map(Number)
  // A newer version may have tables that this one has never heard of: say that first.
  if (applied.some((at) => at > Math.max(...known)))
    return 'It was written by a newer version of Salt Line: update this one first.'
  if (applied.length === 0 || applied.some((at) => !known.includes(at)))
    return 'It has the tables of a station and the history of another program.'
  const strange = [...names].filter(
    (name) =>
      !/^(sqlite_|__drizzle_|readings_text($|_))/.test(String(name)) && !tables.has(String(name)),
  )
  const own = migrationsText()
  const actors = (
    await client.execute(`SELECT name, sql FROM sqlite_master WHERE type IN ('view', 'trigger')`)
  ).rows
    .filter(({ sql }) => !own.includes(String(sql)))
    .map(({ name }) => name)
  if (strange.length + actors.length > 0)
    return `It holds what no database of Salt Line holds (${[...strange, ...actors].slice(0, 3).join(', ')}).`
  const [stations] = await column('SELECT count(*) FROM stations')
  return stations === 0 ? 'It holds no station.' : null
}

/** What SQLite itself finds wrong. */
async function damage(client: Client): Promise<string | null> {
  const [integrity] = (await client.execute('PRAGMA integrity_check(1)')).rows
  if (integrity?.[0] !== 'ok') return `It is damaged (${String(integrity?.[0])}).`
  const [dangling] = (await client.execute('PRAGMA foreign_key_check')).rows
  return dangling
    ? `It is damaged: rows of “${String(dangling['table'])}” belong to something that is not there.`
    : null
}
