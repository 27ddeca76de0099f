import { type EventBody, newId, type StationEvent } from '@saltline/contract'
import { and, asc, eq, isNull } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { events } from '../db/schema.ts'
import { write } from '../db/writes.ts'
import { missing } from './errors.ts'
import { readChain } from './chains.ts'

/** What happened to a chain, in order of time. */
export async function listEvents(db: Database, chainId: string): Promise<StationEvent[]> {
  return db
    .select({ id: events.id, chainId: events.chainId, on: events.on, text: events.text })
    .from(events)
    .where(and(eq(events.chainId, chainId), isNull(events.deletedAt)))
    .orderBy(asc(events.on))
}

export async function addEvent(db: Database, body: EventBody, id = newId()): Promise<StationEvent> {
  await readChain(db, body.chainId)
  await write(db, (tx) => tx.insert(events).values({ id, ...body }))
  return { id, ...body }
}

export async function setEventDeleted(db: Database, id: string, deleted: boolean): Promise<void> {
  const { rowsAffected } = await write(db, (tx) =>
    tx
      .update(events)
      .set({ deletedAt: deleted ? new Date().toISOString() : null })
      .where(eq(events.id, id)),
  )
  if (rowsAffected === 0) throw missing('event')
}
