import { type Database, PATIENCE_MS, patiently } from './connection.ts'

export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0]

const last = new WeakMap<Database, Promise<unknown>>()

/**
 * Runs a write transaction after all earlier ones of this thread. Reads never wait for it. Where another program
 * writes, it waits for that one, from the moment it was asked for.
 *
 * @param run may be called again only where nothing of it had begun
 * @throws what SQLite says where the lock is not given up in time; nothing is written then
 */
export function write<T>(db: Database, run: (tx: Transaction) => Promise<T>): Promise<T> {
  const until = Date.now() + PATIENCE_MS
  const turn = (last.get(db) ?? Promise.resolve()).then(() =>
    patiently(
      () => db.writer.transaction(run),
      () => void db.writer.$client.reconnect(),
      until,
    ),
  )
  last.set(
    db,
    turn.catch(() => undefined),
  )
  return turn
}
