/** The whole database as one plain SQLite file, there and back. */
import { fork } from 'node:child_process'
import { closeSync, openSync, readSync } from 'node:fs'
import { type Backup, newId } from '@saltline/contract'
import { createClient, type Transaction } from '@libsql/client/sqlite3'
import { getTableColumns, getTableName, sql } from 'drizzle-orm'
import { isSqlite } from '../db/check.ts'
import { type Database, patiently, urlOf } from '../db/connection.ts'
import { allTables } from '../db/tables.ts'
import { built } from '../home.ts'
import { keepCopy } from './copies.ts'
import { StoreError } from './errors.ts'

/** Copies the whole database, as it is at this moment, into one plain SQLite file. */
export async function copyTo(db: Database, file: string): Promise<void> {
  await db.run(sql`VACUUM INTO ${file}`)
}

/**
 * What a backup holds.
 *
 * @throws StoreError where it is none, naming why
 */
export async function previewBackup(file: string): Promise<Backup> {
  const head = Buffer.alloc(16)
  const descriptor = openSync(file, 'r')
  readSync(descriptor, head)
  closeSync(descriptor)
  if (!isSqlite(head)) throw refused('It is no SQLite file.')
  const found = await inspect(file)
  if ('why' in found) throw refused(found.why)
  return found.holds
}

/**
 * Replaces everything by what a backup holds. The file is looked at, and brought up to this version, as a copy
 * that belongs to the caller; the database as it was is kept; then all rows change in one
 * transaction. Revisions get a new epoch: what was edited before cannot be saved onto what is here now.
 *
 * @param file is changed
 * @throws StoreError where it is no backup, naming why; nothing is changed then
 */
export async function restoreFrom(db: Database, file: string) {
  const holds = await previewBackup(file)
  const { name } = await keepCopy(db, 'restore')
  await replaceAll(db.file, file)
  return { ...holds, keptAs: name, aside: null }
}

/**
 * Puts all rows of another database of this version in the place of all that are there; all of them or none. It
 * has one connection alone, since a file is attached to a connection.
 */
export async function replaceAll(main: string, from: string): Promise<void> {
  const client = createClient({ url: urlOf(main), timeout: 0, concurrency: 1 })
  try {
    const tx = await patiently(
      async () => {
        await client.execute({ sql: 'ATTACH DATABASE ? AS restored', args: [from] })
        return client.transaction('write')
      },
      () => void client.reconnect(),
    )
    try {
      await replaceRows(tx)
      await tx.commit()
    } finally {
      tx.close()
    }
  } finally {
    client.close()
  }
}

async function replaceRows(tx: Transaction): Promise<void> {
  for (const table of [...allTables].reverse()) await tx.execute(`DELETE FROM ${quoted(table)}`)
  for (const table of allTables) {
    const columns = Object.values(getTableColumns(table))
      .map(({ name }) => `"${name}"`)
      .join(', ')
    await tx.execute(
      `INSERT INTO main.${quoted(table)} (${columns}) SELECT ${columns} FROM restored.${quoted(table)}`,
    )
  }
  await tx.execute({ sql: 'UPDATE main.record SET epoch = ?', args: [newId()] })
}

const quoted = (table: (typeof allTables)[number]) => `"${getTableName(table)}"`

/** Longer than any honest file takes, ms. */
const INSPECTION_LIMIT_MS = 300_000

export type Inspection = { why: string } | { holds: Backup }

/** Has the file looked at and brought up to this version by a process of its own. */
function inspect(file: string): Promise<Inspection> {
  const child = fork(built('inspectBackup.mjs'), [file], {
    execArgv: [],
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    timeout: INSPECTION_LIMIT_MS,
    killSignal: 'SIGKILL',
  })
  return new Promise((done) => {
    child.once('message', (found) => done(found as Inspection))
    // After a message this changes nothing.
    child.once('exit', () => done({ why: 'It is damaged: it could not be read to its end.' }))
    child.once('error', () => done({ why: 'It could not be looked at.' }))
  })
}

const refused = (why: string): StoreError =>
  new StoreError(
    'invalid',
    'This is no backup of Salt Line',
    `${why} Choose a file that “Back up” has written. Nothing was changed.`,
  )
