/** Connections to a database file that is there, and waiting for those of other programs. */
import { setTimeout as pause } from 'node:timers/promises'
import { pathToFileURL } from 'node:url'
import {
  type Client,
  createClient,
  type ResultSet,
  type TransactionMode,
} from '@libsql/client/sqlite3'
import { drizzle } from 'drizzle-orm/libsql/sqlite3'
import { isLocked } from './faults.ts'
import * as schema from './schema.ts'
import { throwIfStopped } from './stopping.ts'

/** How long another program's lock is waited for, ms. */
export const PATIENCE_MS = 10_000

/**
 * A driver that waits for a lock holds the whole process up, so it never waits here: it gives up at once, and the
 * waiting is done between attempts.
 */
export const connect = (file: string): Client => createClient({ url: urlOf(file), timeout: 0 })

export const urlOf = (file: string): string => pathToFileURL(file).href

/**
 * Tries until no other program holds the database, for as long as there is patience.
 *
 * @param fresh called before another attempt. A statement that was refused for a lock stays half done until it is
 * collected, and keeps its connection on an old state of the file: such a connection has to be let go.
 * @throws what the last attempt threw
 */
export async function patiently<T>(
  attempt: () => Promise<T>,
  fresh: () => void,
  until = Date.now() + PATIENCE_MS,
): Promise<T> {
  for (let wait = 2; ; wait = Math.min(50, wait * 2)) {
    try {
      return await attempt()
    } catch (error) {
      if (!isLocked(error)) throw error
      fresh()
      if (Date.now() + wait > until) throw error
      await pause(wait)
    }
  }
}

/** A full disk ends a transaction by itself: that there is nothing left to roll back must not hide why. */
function keepFirstError(client: Client): Client {
  const begin = client.transaction.bind(client)
  client.transaction = async (mode?: TransactionMode) => {
    throwIfStopped()
    const tx = await begin(mode)
    const statement = tx.execute.bind(tx)
    tx.execute = (...args) => {
      throwIfStopped()
      return statement(...args)
    }
    const rollback = tx.rollback.bind(tx)
    tx.rollback = () => rollback().catch(() => tx.close())
    return tx
  }
  return client
}

export type Database = ReturnType<typeof databaseAt>

/**
 * A database as this thread sees it: reads on connections of their own, which never wait for a write, and one
 * connection for writes.
 */
export function databaseAt(file: string) {
  const reader = connect(file)
  const execute: (statement: never) => Promise<ResultSet> = reader.execute.bind(reader)
  reader.execute = (statement: never) =>
    patiently(
      () => {
        throwIfStopped()
        return execute(statement)
      },
      () => void reader.reconnect(),
    )
  const writer = keepFirstError(connect(file))
  return Object.assign(drizzle(reader, { schema }), {
    file,
    /** What was found wrong with it when it was opened: it is then read only. */
    damage: null as string | null,
    writer: drizzle(writer, { schema }),
    close: () => {
      reader.close()
      writer.close()
    },
    /** Brings all that was written into the one file, so that a copy of it is whole. */
    settle: async () => void (await writer.execute('PRAGMA wal_checkpoint(TRUNCATE)')),
  })
}
