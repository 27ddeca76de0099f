import { SESSION_GAP_MS, latestMoment, newId, type Round } from '@saltline/contract'
import {
  and,
  asc,
  desc,
  eq,
  getTableColumns,
  gt,
  gte,
  isNotNull,
  isNull,
  lt,
  lte,
  notExists,
  type SQL,
  type SQLWrapper,
  sql,
} from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { chains, readings, roundMeans, rounds } from '../db/schema.ts'
import { insertMany } from '../db/many.ts'
import { type Transaction, write } from '../db/writes.ts'
import { missing } from './errors.ts'
import { readChain } from './chains.ts'
import { asReading } from './readingRow.ts'

interface Span {
  id: string
  startedAt: string
  lastAt: string
}

/**
 * Finds the round that each reading names, joins or begins; rounds grow to hold their readings.
 *
 * @returns the readings in order of time, each with its round
 */
export async function placeInRounds<R extends { readAt: string; roundId: string | undefined }>(
  tx: Transaction,
  { stationId, chainId }: { stationId: string; chainId: string },
  unplaced: readonly R[],
): Promise<(R & { roundId: string })[]> {
  const rows = inOrder(unplaced)
  if (rows.length === 0) return []
  const known: Span[] = await tx
    .select({ id: rounds.id, startedAt: rounds.startedAt, lastAt: rounds.lastAt })
    .from(rounds)
    .where(
      and(
        eq(rounds.chainId, chainId),
        gte(rounds.lastAt, shifted(rows[0]!.readAt, -SESSION_GAP_MS)),
        lt(rounds.startedAt, shifted(rows.at(-1)!.readAt, SESSION_GAP_MS)),
      ),
    )
    .orderBy(asc(rounds.lastAt))
  const named = await namedRounds(tx, chainId, rows, known)
  const begun = new Set<Span>()
  const grown = new Set<Span>()
  const placed = rows.map((row) => {
    const found = row.roundId ? named.get(row.roundId)! : nearest(known, row.readAt)
    const span = found ?? { id: newId(), startedAt: row.readAt, lastAt: row.readAt }
    if (!found) {
      begun.add(span)
      known.push(span)
    } else if (row.readAt < span.startedAt || row.readAt > span.lastAt) {
      if (row.readAt < span.startedAt) span.startedAt = row.readAt
      if (row.readAt > span.lastAt) span.lastAt = row.readAt
      grown.add(span)
    }
    keepInOrder(known, span)
    return { ...row, roundId: span.id }
  })
  await insertMany(
    tx,
    rounds,
    [...begun].map((span) => ({ ...span, stationId, chainId, note: '' })),
  )
  for (const span of grown) {
    const { id, startedAt, lastAt } = span
    if (!begun.has(span))
      await tx.update(rounds).set({ startedAt, lastAt }).where(eq(rounds.id, id))
  }
  return placed
}

const shifted = (at: string, ms: number): string => new Date(Date.parse(at) + ms).toISOString()

export const inOrder = <R extends { readAt: string }>(rows: readonly R[]): R[] =>
  [...rows].sort((a, b) => (a.readAt < b.readAt ? -1 : a.readAt > b.readAt ? 1 : 0))

async function namedRounds(
  tx: Transaction,
  chainId: string,
  rows: readonly { roundId: string | undefined }[],
  known: readonly Span[],
): Promise<Map<string, Span>> {
  const named = new Map<string, Span>()
  for (const id of new Set(rows.flatMap(({ roundId }) => roundId ?? []))) {
    const [found] = await tx
      .select({ id: rounds.id, startedAt: rounds.startedAt, lastAt: rounds.lastAt })
      .from(rounds)
      .where(and(eq(rounds.id, id), eq(rounds.chainId, chainId)))
    if (!found) throw missing('round')
    named.set(id, known.find((span) => span.id === id) ?? found)
  }
  return named
}

/** Of the rounds near a moment the one that ends last; `known` is in order of the ends. */
function nearest(known: readonly Span[], at: string): Span | undefined {
  const near = shifted(at, -SESSION_GAP_MS)
  const far = shifted(at, SESSION_GAP_MS)
  let low = 0
  let high = known.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (known[middle]!.lastAt < near) low = middle + 1
    else high = middle
  }
  let best: Span | undefined
  for (let i = low; i < known.length && known[i]!.startedAt < far; i++) best = known[i]
  return best
}

/** A span that has grown, or was put last, goes to where its end belongs. */
function keepInOrder(known: Span[], span: Span): void {
  let i = known.lastIndexOf(span)
  if (i < 0) return
  for (; i > 0 && known[i - 1]!.lastAt > span.lastAt; i--) known[i] = known[i - 1]!
  for (; i + 1 < known.length && known[i + 1]!.lastAt < span.lastAt; i++) known[i] = known[i + 1]!
  known[i] = span
}

/**
 * Brings what is kept of rounds up to their readings: their counts, and the means at every place on every channel.
 * Called in the transaction that changed readings of theirs.
 */
export async function refreshRounds(tx: Transaction, ids: Iterable<string>): Promise<void> {
  const r = readings
  const these = sql`(SELECT value FROM json_each(${JSON.stringify([...new Set(ids)])}))`
  // Counted once for all of them: looked up for each, twenty thousand rounds take a second.
  await tx.run(sql`
    UPDATE ${rounds} SET
      reading_count = counted.readings,
      outside_count = counted.outside,
      started_at = coalesce(counted.first, started_at),
      last_at = coalesce(counted.last, last_at)
    FROM (
      SELECT named.value AS id, count(r.n) AS readings,
        count(r.n) FILTER (WHERE NOT r.inside) AS outside,
        min(r.read_at) AS first, max(r.read_at) AS last
      FROM json_each(${JSON.stringify([...new Set(ids)])}) AS named
      LEFT JOIN ${r} AS r ON r.round_id = named.value AND r.deleted_at IS NULL
      GROUP BY named.value
    ) AS counted
    WHERE ${rounds}.id = counted.id`)
  await tx.delete(roundMeans).where(sql`${roundMeans.roundId} IN ${these}`)
  await tx
    .insert(roundMeans)
    .select(meansOf(tx, and(sql`${r.roundId} IN ${these}`, isNull(r.deletedAt))))
}

/** Takes readings out as if they had never come, and the sessions that only they were in. */
export async function withdrawReadings(tx: Transaction, which: SQL): Promise<void> {
  const gone = await tx.delete(readings).where(which).returning({ roundId: readings.roundId })
  const touched = [...new Set(gone.map(({ roundId }) => roundId))]
  await refreshRounds(tx, touched)
  await tx
    .delete(rounds)
    .where(
      and(
        sql`${rounds.id} IN (SELECT value FROM json_each(${JSON.stringify(touched)}))`,
        notExists(
          tx.select({ n: readings.n }).from(readings).where(eq(readings.roundId, rounds.id)),
        ),
      ),
    )
}

const meansOf = (tx: Transaction, of: SQL | undefined) => {
  const r = readings
  const rho = sql`CASE
    WHEN ${r.forwardW} > 0 AND ${r.reflectedW} IS NOT NULL THEN sqrt(${r.reflectedW} / ${r.forwardW})
    WHEN ${r.swr} IS NOT NULL THEN (${r.swr} - 1) / (${r.swr} + 1) END`
  const mean = (column: SQLWrapper) => sql<number>`avg(${column})`
  return (
    tx
      .select({
        roundId: r.roundId,
        chainId: r.chainId,
        channelId: sql<string>`${r.channelId}`.as('channel_id'),
        before: r.before,
        at: sql<string>`min(${r.readAt})`.as('at'),
        powerW: mean(r.powerW).as('power_w'),
        forwardW:
          sql<number>`coalesce(avg(${r.forwardW} / ${r.expectedW}) * avg(${r.expectedW}), avg(${r.forwardW}))`.as(
            'forward_w',
          ),
        rho: mean(rho).as('rho'),
        expectedW: mean(r.expectedW).as('expected_w'),
        lowW: mean(r.lowW).as('low_w'),
        highW: mean(r.highW).as('high_w'),
        expectedSwr: mean(r.expectedSwr).as('expected_swr'),
        lowSwr: mean(r.lowSwr).as('low_swr'),
        highSwr: mean(r.highSwr).as('high_swr'),
      })
      .from(r)
      // What was read into a load says nothing of the chain over the years.
      .where(and(of, isNotNull(r.channelId), eq(r.farEnd, 'antenna')))
      .groupBy(r.roundId, r.channelId, r.before)
  )
}

/** The rounds of a chain that have readings, newest first. */
export async function listRounds(db: Database, chainId: string, limit = 200): Promise<Round[]> {
  const { stationId: _station, ...columns } = getTableColumns(rounds)
  const newest = (when: SQL, most: number) =>
    db
      .select(columns)
      .from(rounds)
      .innerJoin(chains, and(eq(chains.id, rounds.chainId), isNull(chains.deletedAt)))
      .where(and(eq(rounds.chainId, chainId), gt(rounds.readingCount, 0), when))
      .orderBy(desc(rounds.lastAt))
      .limit(most)
  const found = await newest(lte(rounds.lastAt, latestMoment(Date.now())), limit)
  // A date that cannot be yet was mistyped once: it is never the newest.
  if (found.length < limit)
    found.push(...(await newest(gt(rounds.lastAt, latestMoment(Date.now())), limit - found.length)))
  // None may mean that there is no such chain.
  if (found.length === 0) await readChain(db, chainId)
  return found
}

/** The newest measurement session of every chain of a station that has one: each looked up by its chain's index. */
export async function lastRounds(db: Database, stationId: string): Promise<Round[]> {
  const { stationId: _station, ...columns } = getTableColumns(rounds)
  const newest = db
    .select({ id: rounds.id })
    .from(rounds)
    .where(
      and(
        eq(rounds.chainId, chains.id),
        gt(rounds.readingCount, 0),
        lte(rounds.lastAt, latestMoment(Date.now())),
      ),
    )
    .orderBy(desc(rounds.lastAt))
    .limit(1)
  return db
    .select(columns)
    .from(chains)
    .innerJoin(rounds, eq(rounds.id, newest))
    .where(and(eq(chains.stationId, stationId), isNull(chains.deletedAt)))
}

export async function readRound(db: Database, roundId: string) {
  const [round] = await db.select().from(rounds).where(eq(rounds.id, roundId))
  if (!round) throw missing('round')
  const rows = await db
    .select()
    .from(readings)
    .where(and(eq(readings.roundId, roundId), isNull(readings.deletedAt)))
    .orderBy(asc(readings.readAt), asc(readings.id))
  const { stationId: _station, ...rest } = round
  return {
    ...rest,
    readings: rows.map(asReading),
  }
}

export async function noteRound(db: Database, roundId: string, note: string) {
  await write(db, (tx) => tx.update(rounds).set({ note }).where(eq(rounds.id, roundId)))
  return readRound(db, roundId)
}
