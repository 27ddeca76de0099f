import { idSchema, type ImportedReading, type Reading, type ReadingBody } from '@saltline/contract'
import { and, eq, isNull, ne, sql } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { readings } from '../db/schema.ts'
import { insertMany } from '../db/many.ts'
import { type Transaction, write } from '../db/writes.ts'
import { arrive, byPortions, PORTION } from './arrivals.ts'
import { missing, StoreError } from './errors.ts'
import { readChain, readRevision, revisionAt } from './chains.ts'
import { asReading } from './readingRow.ts'
import { inOrder, placeInRounds, refreshRounds } from './rounds.ts'
import { type Path, type Roundless, rowsOf } from './readingRows.ts'

/**
 * Keeps readings of a chain with what was expected of each; all of them or none.
 *
 * @param pathOf where the body of a reading stands in the request, for what is wrong with it
 * @returns their ids, in order
 */
export async function addReadings(
  db: Database,
  chainId: string,
  bodies: readonly ImportedReading[],
  pathOf: (index: number) => Path = (index) => ['readings', index],
): Promise<string[]> {
  const { document, stationId, revision } = await readChain(db, chainId)
  const rowOf = await rowsOf(db, { document, stationId, chainId, revision })
  const rows = bodies.map((body, i) => rowOf(body, pathOf(i)))
  const of = { stationId, chainId }
  if (rows.length <= PORTION) await write(db, (tx) => insertReadings(tx, of, rows))
  else await arriveReadings(db, of, rows)
  return rows.map(({ id }) => id)
}

/**
 * Keeps a reading under the identity that it was given where it was typed. Sent again it changes nothing, whether it
 * was corrected or deleted since.
 */
export async function keepReading(
  db: Database,
  chainId: string,
  id: string,
  body: ReadingBody,
): Promise<Reading> {
  const { document, stationId, revision } = await readChain(db, chainId)
  if (!idSchema.safeParse(id).success) throw missing('reading')
  const taken = await takenBefore(db, id, chainId)
  if (taken) return taken
  const row = { ...(await rowsOf(db, { document, stationId, chainId, revision }))(body, []), id }
  return write(db, async (tx) => {
    // The same one may have come in twice at once.
    const meanwhile = await takenBefore(tx, id, chainId)
    if (meanwhile) return meanwhile
    await insertReadings(tx, { stationId, chainId }, [row])
    return (await takenBefore(tx, id, chainId))!
  })
}

/** The reading of this identity, where there is one. */
async function takenBefore(
  db: Pick<Database, 'select'>,
  id: string,
  chainId: string,
): Promise<Reading | undefined> {
  const [row] = await db.select().from(readings).where(eq(readings.id, id))
  if (row && row.chainId !== chainId)
    throw new StoreError(
      'conflict',
      'Another chain has a reading of this identity',
      'Give the reading an identity of its own.',
    )
  return row && asReading(row)
}

async function insertReadings(
  tx: Transaction,
  of: { stationId: string; chainId: string },
  rows: readonly Roundless[],
): Promise<void> {
  const placed = await placeInRounds(tx, of, rows)
  await insertMany(tx, readings, placed)
  await refreshRounds(
    tx,
    placed.map(({ roundId }) => roundId),
  )
}

/** Readings of which there are so many that others write between them. */
async function arriveReadings(
  db: Database,
  of: { stationId: string; chainId: string },
  rows: readonly Roundless[],
): Promise<void> {
  const roundIds = new Set<string>()
  await arrive(
    db,
    of,
    (mark) =>
      byPortions(inOrder(rows), (portion) =>
        write(db, async (tx) => {
          const placed = await placeInRounds(tx, of, portion)
          await insertMany(
            tx,
            readings,
            placed.map((row) => ({ ...row, deletedAt: mark })),
          )
          placed.forEach(({ roundId }) => roundIds.add(roundId))
        }),
      ),
    async (tx, mark) => {
      const { rowsAffected } = await tx
        .update(readings)
        .set({ deletedAt: null })
        .where(and(eq(readings.chainId, of.chainId), eq(readings.deletedAt, mark)))
      // The chain went for good meanwhile.
      if (rowsAffected !== rows.length) throw missing('chain')
      await refreshRounds(tx, roundIds)
    },
  )
}

export async function readReading(db: Database, id: string): Promise<Reading> {
  const [row] = await db
    .select()
    .from(readings)
    .where(and(eq(readings.id, id), isNull(readings.deletedAt)))
  if (!row) throw missing('reading')
  return asReading(row)
}

/**
 * Corrects a reading. What was expected is computed anew for the corrected figures, on the chain of its day:
 * a log does not change its mind about last year because a cable was edited today. A corrected date takes it to the
 * session of that date.
 */
export async function updateReading(db: Database, id: string, body: ReadingBody): Promise<Reading> {
  const [old] = await db
    .select()
    .from(readings)
    .where(and(eq(readings.id, id), isNull(readings.deletedAt)))
  if (!old) throw missing('reading')
  const { stationId, chainId, readAt } = old
  const revision = old.chainRevision ?? (await revisionAt(db, chainId, readAt))
  const { document } = await readRevision(db, chainId, revision)
  const rowOf = await rowsOf(db, { document, stationId, chainId, revision })
  const { id: _id, roundId: _round, ...row } = rowOf(body, [])
  const at = body.readAt ?? readAt
  await write(db, async (tx) => {
    const others = await tx.$count(
      readings,
      and(eq(readings.roundId, old.roundId), ne(readings.id, id), isNull(readings.deletedAt)),
    )
    // Of another day it belongs to the session of that day; a session that is this one reading goes with it.
    const [placed] =
      at === readAt || others === 0
        ? [old]
        : await placeInRounds(tx, { stationId, chainId }, [{ readAt: at, roundId: undefined }])
    const { roundId } = placed
    const changed = await tx
      .update(readings)
      .set({ ...row, readAt: at, roundId })
      .where(and(eq(readings.id, id), isNull(readings.deletedAt)))
      .returning({ id: readings.id })
    // It was deleted meanwhile.
    if (changed.length === 0) throw missing('reading')
    await refreshRounds(tx, [old.roundId, roundId])
  })
  return readReading(db, id)
}

export async function setReadingDeleted(db: Database, id: string, deleted: boolean): Promise<void> {
  const deletedAt = deleted ? new Date().toISOString() : null
  await write(db, async (tx) => {
    const changed = await tx
      .update(readings)
      .set({ deletedAt })
      .where(eq(readings.id, id))
      .returning({ roundId: readings.roundId })
    if (changed.length === 0) throw missing('reading')
    await refreshRounds(
      tx,
      changed.map(({ roundId }) => roundId),
    )
  })
}

/** Puts readings of a chain into the bin together; what is there already stays as it is. */
export async function deleteReadings(
  db: Database,
  chainId: string,
  ids: readonly string[],
): Promise<number> {
  await readChain(db, chainId)
  const deletedAt = new Date().toISOString()
  let deleted = 0
  await byPortions(ids, (portion) =>
    write(db, async (tx) => {
      const gone = await tx
        .update(readings)
        .set({ deletedAt })
        .where(
          and(
            eq(readings.chainId, chainId),
            isNull(readings.deletedAt),
            sql`${readings.id} IN (SELECT value FROM json_each(${JSON.stringify(portion)}))`,
          ),
        )
        .returning({ roundId: readings.roundId })
      deleted += gone.length
      await refreshRounds(
        tx,
        gone.map(({ roundId }) => roundId),
      )
    }),
  )
  return deleted
}
