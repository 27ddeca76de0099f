import type { Database } from './open.ts'

type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0]

const last = new WeakMap<Database, Promise<unknown>>()

/**
 * Runs a write transaction after all earlier ones of this process. The driver waits for a lock
 * without yielding, so two open write transactions in one process would block each other.
 */
export function write<T>(db: Database, run: (tx: Transaction) => Promise<T>): Promise<T> {
  const turn = (last.get(db) ?? Promise.resolve()).then(() =>
    db.transaction(run, { behavior: 'immediate' }),
  )
  last.set(
    db,
    turn.catch(() => undefined),
  )
  return turn
}
