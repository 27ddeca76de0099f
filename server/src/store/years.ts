import { type MeterUse, type YearRow, yearRowSchema } from '@saltline/contract'
import {
  and,
  asc,
  eq,
  getTableColumns,
  gte,
  isNull,
  max,
  min,
  ne,
  type SQLWrapper,
  sql,
} from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { readings, roundMeans } from '../db/schema.ts'

/** What a chain showed over the years on one channel: the means of every round at every place, oldest first. */
export const yearRows = (db: Database, chainId: string, channelId: string): Promise<YearRow[]> =>
  asTextOnce(
    db,
    db
      .select()
      .from(roundMeans)
      .where(and(eq(roundMeans.chainId, chainId), eq(roundMeans.channelId, channelId)))
      .orderBy(asc(roundMeans.at)),
    columns,
  )

/** Which meters were read at which place on one channel, each from its first reading to its last. */
export async function meterUses(
  db: Database,
  chainId: string,
  channelId: string,
): Promise<MeterUse[]> {
  const { before, instrument, readAt } = readings
  const rows = await db
    .select({ before, instrument, from: min(readAt), to: max(readAt) })
    .from(readings)
    .where(
      and(
        eq(readings.chainId, chainId),
        eq(readings.channelId, channelId),
        isNull(readings.deletedAt),
        ne(instrument, ''),
      ),
    )
    .groupBy(before, instrument)
  return rows.map(({ from, to, ...row }) => ({ ...row, from: from!, to: to! }))
}

/**
 * The same by the week, for all channels of a chain: what the record comes to, without every round of it. A week with
 * one round is that round.
 */
export async function weekRows(
  db: Database,
  chainId: string,
  since: string,
): Promise<Map<string, YearRow[]>> {
  const m = roundMeans
  const week = sql`CAST(julianday(${m.at}) / 7 AS INTEGER)`
  const mean = (column: SQLWrapper) => sql`avg(${column})`
  const weeks = db
    .select({
      channelId: m.channelId,
      roundId: sql`'w' || ${week}`.as('round_id'),
      before: m.before,
      at: sql`min(${m.at})`.as('at'),
      powerW: mean(m.powerW).as('power_w'),
      forwardW:
        sql`coalesce(avg(${m.forwardW} / ${m.expectedW}) * avg(${m.expectedW}), avg(${m.forwardW}))`.as(
          'forward_w',
        ),
      rho: mean(m.rho).as('rho'),
      expectedW: mean(m.expectedW).as('expected_w'),
      lowW: mean(m.lowW).as('low_w'),
      highW: mean(m.highW).as('high_w'),
      expectedSwr: mean(m.expectedSwr).as('expected_swr'),
      lowSwr: mean(m.lowSwr).as('low_swr'),
      highSwr: mean(m.highSwr).as('high_swr'),
    })
    .from(m)
    .where(and(eq(m.chainId, chainId), gte(m.at, since)))
    .groupBy(m.channelId, m.before, week)
  const rows = await asTextOnce<YearRow & { channelId: string }>(db, weeks, [
    'channelId',
    ...columns,
  ])
  return grouped(rows)
}

function grouped<T extends { channelId: string }>(rows: readonly T[]): Map<string, T[]> {
  const by = new Map<string, T[]>()
  for (const row of rows) {
    const own = by.get(row.channelId)
    if (own) own.push(row)
    else by.set(row.channelId, [row])
  }
  return by
}

const columns = Object.keys(yearRowSchema.shape) as (keyof YearRow)[]

/** Tens of thousands of rows cross the driver six times faster as one text. */
async function asTextOnce<T>(
  db: Database,
  rows: SQLWrapper,
  names: readonly (keyof T & keyof typeof roundMeans.$inferSelect)[],
): Promise<T[]> {
  const known = getTableColumns(roundMeans)
  const fields = sql.join(
    names.map((name) => sql`${sql.raw(`'${name}'`)}, ${sql.identifier(known[name].name)}`),
    sql`, `,
  )
  const { text } = await db.get<{ text: string }>(
    sql`SELECT json_group_array(json_object(${fields})) AS text FROM (${rows})`,
  )
  return JSON.parse(text) as T[]
}
