/** Opening a database: finding it, making it, bringing it to this version's shape. */
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  renameSync,
  rmSync,
  statfsSync,
  statSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, dirname, join } from 'node:path'
import { migrate } from 'drizzle-orm/libsql/migrator'
import { APPLICATION_ID } from './check.ts'
import { type Database, databaseAt, patiently } from './connection.ts'
import { type Fault, faultOf, faults } from './faults.ts'
import { mend } from './mend.ts'
import { damageOf } from './standing.ts'
import { MIGRATIONS, migrationTimes } from './migrations.ts'

export type { Database } from './connection.ts'

/** Why a database cannot be used, in words for the person at the keyboard. */
export class DatabaseError extends Error {
  override readonly name = 'DatabaseError'
}

/** A database that cannot be opened at all, since it is damaged. */
export class DamagedError extends DatabaseError {
  constructor(
    message: string,
    readonly damage: string,
  ) {
    super(message)
  }
}

export interface Opening {
  /** Whether a missing file is made. */
  create: boolean
  /** What a database that is made begins with. */
  fill?: (db: Database) => Promise<void>
  /** What is done before a database of an older version is brought along; where it fails, the database stays as it is. */
  beforeMigration?: (db: Database) => Promise<void>
}

/**
 * Opens a database file and brings it to this version's shape. A new one is made under another name and takes its
 * own when it is whole, so that a first start that is broken off leaves nothing.
 *
 * @throws DatabaseError where it is missing, unreadable, no database, or from a newer version
 */
export async function openDatabase(
  path: string,
  { create, fill, beforeMigration }: Opening,
): Promise<Database> {
  if (!existsSync(path) && !create) {
    throw new DatabaseError(
      `There is no database at ${path}. Check the path, or start with --create to make a new one.`,
    )
  }
  try {
    removeBeginnings(path)
    if (isEmpty(path)) {
      refuseLostMain(path)
      if (!create)
        throw new DatabaseError(
          `The database at ${path} is empty. Put a copy in its place, or start with --create to begin a new one.`,
        )
    }
    if (!existsSync(path) || isEmpty(path)) await make(path, fill)
    return await prepared(path, { mayBeEmpty: false, beforeMigration })
  } catch (error) {
    throw inWords(path, error)
  }
}

/**
 * An empty one in the place of a database that cannot be opened, so that a copy can be restored in the browser.
 *
 * @param path where the damaged one lies
 */
export async function standInFor(path: string, damage: string): Promise<Database> {
  const folder = mkdtempSync(join(tmpdir(), 'saltline-stand-in-'))
  process.once('exit', () => rmSync(folder, { recursive: true, force: true }))
  const db = await openDatabase(join(folder, 'empty.sqlite'), { create: true })
  return Object.assign(db, { file: path, damage })
}

const isEmpty = (path: string): boolean => existsSync(path) && statSync(path).size === 0

/**
 * A main file that was emptied, with rows still in the log beside it: opened, SQLite would throw the log away.
 *
 * @throws DatabaseError after the log was copied to a name that nothing deletes
 */
function refuseLostMain(path: string): void {
  const log = `${path}-wal`
  if (!existsSync(log) || statSync(log).size === 0) return
  const saved = `${log}.saved-${new Date().toISOString().slice(0, 19).replaceAll(':', '')}`
  copyFileSync(log, saved)
  throw new DatabaseError(
    `The database at ${path} was emptied, and the log beside it still holds what was written last. ` +
      `The log is copied to ${saved}. Put back the file that belongs to it, or a backup under another name with --db. Nothing was changed.`,
  )
}

const beginning = (path: string, pid: number) => `${path}.new-${pid}`

async function make(path: string, fill?: (db: Database) => Promise<void>): Promise<void> {
  mkdirSync(dirname(path), { recursive: true })
  const file = beginning(path, process.pid)
  try {
    const db = await prepared(file, { mayBeEmpty: true })
    try {
      await fill?.(db)
      await db.settle()
    } finally {
      db.close()
    }
    renameSync(file, path)
  } finally {
    for (const ending of ['', '-wal', '-shm']) rmSync(file + ending, { force: true })
  }
}

/** What processes that were killed had begun beside a database: first starts, and copies before a restore. */
function removeBeginnings(path: string): void {
  if (!existsSync(dirname(path))) return
  for (const entry of readdirSync(dirname(path))) {
    const pid = /\.new-(\d+)(-\w+)?$/.exec(entry)?.[1]
    if (!pid || !entry.startsWith(`${basename(path)}.new-`) || isAlive(Number(pid))) continue
    rmSync(join(dirname(path), entry), { force: true })
  }
}

/** Whether a process is there. */
export function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0)
    return true
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM'
  }
}

async function prepared(
  path: string,
  {
    mayBeEmpty,
    beforeMigration,
  }: { mayBeEmpty: boolean; beforeMigration?: Opening['beforeMigration'] },
): Promise<Database> {
  const db = databaseAt(path)
  const client = db.writer.$client
  try {
    await patiently(
      async () => {
        if (!mayBeEmpty) await refuseEmpty(db, path)
        // Write-ahead log: readers never wait for a writer. Foreign keys and full synchronisation are
        // this driver's defaults on every connection, and tested.
        await client.execute('PRAGMA journal_mode = WAL')
        await refuseNewer(db, path)
        db.damage = mayBeEmpty ? null : await damageOf(db)
        if (db.damage !== null) return refuseBehind(db, path)
        if (!mayBeEmpty && (await newestSeen(db)) < Math.max(...migrationTimes()))
          await beforeMigration?.(db)
        await migrate(db.writer, { migrationsFolder: MIGRATIONS })
        await mend(client)
        const [row] = (await client.execute('PRAGMA application_id')).rows
        if (row?.[0] !== APPLICATION_ID)
          await client.execute(`PRAGMA application_id = ${APPLICATION_ID}`)
      },
      () => void client.reconnect(),
    )
    return db
  } catch (error) {
    db.close()
    throw error
  }
}

function inWords(path: string, error: unknown): DatabaseError {
  if (error instanceof DatabaseError) return error
  const reason = error instanceof Error ? error.message : String(error)
  const told = faultOf(error)
  const fault: Fault | null =
    told?.kind === 'unreadable' && !hasRoom(path) ? { kind: 'full', ...faults.full } : told
  if (fault && fault.kind !== 'damaged')
    return new DatabaseError(`${fault.title}: ${path} (${reason}). ${fault.cure}`)
  const message =
    `The database at ${path} cannot be read (${reason}). ` +
    `It may be damaged, be another kind of file, or belong to another user. Nothing was changed.`
  return fault ? new DamagedError(message, reason) : new DatabaseError(message)
}

/** On some disks the first thing that finds no room is a file beside the database, and is told as a failure. */
function hasRoom(path: string): boolean {
  try {
    return statfsSync(dirname(path)).bavail > 0
  } catch {
    return true
  }
}

const hasHistory = async (db: Database): Promise<boolean> => {
  const { rows } = await db.$client.execute(
    `SELECT name FROM sqlite_master WHERE type = 'table' AND name = '__drizzle_migrations'`,
  )
  return rows.length > 0
}

/**
 * A file that was there and has none of our tables is not begun in: it may be another program's, or a copy of
 * the main file alone, whose rows were still in the log beside it.
 */
async function refuseEmpty(db: Database, path: string): Promise<void> {
  if (await hasHistory(db)) return
  throw new DatabaseError(
    `The database at ${path} holds none of Salt Line’s tables. If it is a copy, the file whose name ends in ` +
      `“-wal” belongs to it: copy both while Salt Line is stopped, or use “Back up” on the station’s page. ` +
      `Otherwise choose another with --db. Nothing was changed.`,
  )
}

/** A damaged one is read as it is, and not brought to another shape. */
async function refuseBehind(db: Database, path: string): Promise<void> {
  if ((await newestSeen(db)) === Math.max(...migrationTimes())) return
  throw new DatabaseError(
    `The database at ${path} is damaged (${db.damage}) and of an older version, so that it is not brought along. ` +
      `Keep a copy of it and of the files beside it, and start with the newest backup. Nothing was changed.`,
  )
}

/** When the newest migration that a database has seen was written, ms. */
async function newestSeen(db: Database): Promise<number> {
  const { rows } = await db.$client.execute(
    'SELECT max(created_at) AS at FROM __drizzle_migrations',
  )
  return Number(rows[0]?.['at'] ?? 0)
}

/** A database that has seen a migration this version does not know comes from a newer one. */
async function refuseNewer(db: Database, path: string): Promise<void> {
  const newest = Math.max(...migrationTimes())
  if (!(await hasHistory(db))) return
  if ((await newestSeen(db)) > newest) {
    throw new DatabaseError(
      `The database at ${path} was written by a newer version of Salt Line. ` +
        `Update Salt Line, or choose another file with --db. Nothing was changed.`,
    )
  }
}
