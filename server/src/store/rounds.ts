import { newId, type Round } from '@saltline/contract'
import { and, asc, count, desc, eq, gte, isNull, lt, sql } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { readings, rounds } from '../db/schema.ts'
import { write } from '../db/writes.ts'
import { notFound } from '../http/problem.ts'
import { readChain } from './chains.ts'
import { asReading } from './readingRow.ts'

/** A reading joins the round of its chain whose last reading is no further away than this. */
const ROUND_MS = 3 * 3600 * 1000

type Transaction = Parameters<Parameters<typeof write>[1]>[0]

/** The round that a reading names, joins or begins; its limits grow to hold it. */
export async function roundFor(
  tx: Transaction,
  { stationId, chainId, readAt }: { stationId: string; chainId: string; readAt: string },
  roundId: string | undefined,
): Promise<string> {
  const near = new Date(Date.parse(readAt) - ROUND_MS).toISOString()
  const far = new Date(Date.parse(readAt) + ROUND_MS).toISOString()
  const [found] = await tx
    .select()
    .from(rounds)
    .where(
      roundId
        ? and(eq(rounds.id, roundId), eq(rounds.chainId, chainId))
        : and(eq(rounds.chainId, chainId), gte(rounds.lastAt, near), lt(rounds.startedAt, far)),
    )
    .orderBy(desc(rounds.lastAt))
    .limit(1)
  if (roundId && !found) throw notFound('round')
  if (!found) {
    const id = newId()
    await tx
      .insert(rounds)
      .values({ id, stationId, chainId, startedAt: readAt, lastAt: readAt, note: '' })
    return id
  }
  await tx
    .update(rounds)
    .set({
      startedAt: readAt < found.startedAt ? readAt : found.startedAt,
      lastAt: readAt > found.lastAt ? readAt : found.lastAt,
    })
    .where(eq(rounds.id, found.id))
  return found.id
}

/** The rounds of a chain, newest first. */
export async function listRounds(db: Database, chainId: string, limit = 200): Promise<Round[]> {
  await readChain(db, chainId)
  const rows = await db
    .select({
      id: rounds.id,
      chainId: rounds.chainId,
      startedAt: rounds.startedAt,
      lastAt: rounds.lastAt,
      note: rounds.note,
      readingCount: count(readings.id),
      outsideCount: sql<number>`coalesce(sum(1 - ${readings.inside}), 0)`,
    })
    .from(rounds)
    .innerJoin(readings, and(eq(readings.roundId, rounds.id), isNull(readings.deletedAt)))
    .where(eq(rounds.chainId, chainId))
    .groupBy(rounds.id)
    .orderBy(desc(rounds.lastAt))
    .limit(limit)
  return rows
}

export async function readRound(db: Database, roundId: string) {
  const [round] = await db.select().from(rounds).where(eq(rounds.id, roundId))
  if (!round) throw notFound('round')
  const rows = await db
    .select()
    .from(readings)
    .where(and(eq(readings.roundId, roundId), isNull(readings.deletedAt)))
    .orderBy(asc(readings.readAt), asc(readings.id))
  const { stationId: _station, ...rest } = round
  return {
    ...rest,
    readingCount: rows.length,
    outsideCount: rows.filter(({ inside }) => !inside).length,
    readings: rows.map(asReading),
  }
}

export async function noteRound(db: Database, roundId: string, note: string) {
  await write(db, (tx) => tx.update(rounds).set({ note }).where(eq(rounds.id, roundId)))
  return readRound(db, roundId)
}
