/** A station's log: pages of it, filtered and searched, and all of it in portions. */
import type { Reading, readingsQuerySchema } from '@saltline/contract'
import {
  and,
  asc,
  desc,
  eq,
  gte,
  inArray,
  isNotNull,
  isNull,
  lt,
  notInArray,
  or,
  type SQL,
  type SQLWrapper,
  sql,
} from 'drizzle-orm'
import type { z } from 'zod'
import type { Database } from '../db/open.ts'
import { chains, readings, rounds } from '../db/schema.ts'
import { missing } from './errors.ts'
import { BETWEEN, joined, object, texts } from './logJson.ts'

export type Query = z.output<typeof readingsQuerySchema>

/** What lies in the bin with its chain is not in the log. */
async function hiddenChains(db: Database, stationId: string): Promise<string[]> {
  const rows = await db
    .select({ id: chains.id })
    .from(chains)
    .where(and(eq(chains.stationId, stationId), isNotNull(chains.deletedAt)))
  return rows.map(({ id }) => id)
}

/** The condition that readings have to meet; the index of the log answers all of it but the words. */
export async function chosen(
  db: Database,
  stationId: string,
  query: Partial<Query> = {},
): Promise<SQL | undefined> {
  const { chain, channel, before, instrument, outside, from, to } = query
  const hidden = await hiddenChains(db, stationId)
  // The day after the last one, so that the whole of it is in.
  const after = to && new Date(Date.parse(to) + 24 * 3600 * 1000).toISOString()
  return and(
    eq(readings.stationId, stationId),
    isNull(readings.deletedAt),
    hidden.length > 0 ? notInArray(readings.chainId, hidden) : undefined,
    chain ? eq(readings.chainId, chain) : undefined,
    channel ? eq(readings.channelId, channel) : undefined,
    before ? eq(readings.before, before) : undefined,
    instrument ? eq(readings.instrumentId, instrument) : undefined,
    outside === undefined ? undefined : eq(readings.inside, !outside),
    from ? gte(readings.readAt, from) : undefined,
    after ? lt(readings.readAt, after) : undefined,
  )
}

/** As few letters as the index of words can find. */
const LEAST_LETTERS = 3
/** What a search for words finds at most: more is no answer, and is said to be more. */
const MOST_FOUND = 5000

interface Words {
  condition: SQL
  /** Whether so few readings have them that it is best to begin there. */
  few: boolean
}

/** Readings with a text anywhere in note, weather or name. */
export async function withWords(db: Database, text: string): Promise<Words> {
  if ([...text].length >= LEAST_LETTERS) {
    const phrase = `"${text.replaceAll('"', '""')}"`
    const hits = sql`SELECT rowid FROM readings_text WHERE words MATCH ${phrase}`
    const { count } = await db.get<{ count: number }>(
      sql`SELECT count(*) AS count FROM (${hits} LIMIT ${MOST_FOUND + 1})`,
    )
    if (count <= MOST_FOUND) return { condition: sql`${readings.n} IN (${hits})`, few: true }
  }
  // What nearly every reading has is found soonest by looking at one after the other.
  const pattern = `%${text.replace(/[\\%_]/g, '\\$&')}%`
  const columns = [readings.note, readings.weather, readings.by]
  const condition = or(...columns.map((column) => sql`${column} LIKE ${pattern} ESCAPE '\\'`))!
  return { condition, few: false }
}

const newestFirst = [desc(readings.readAt), desc(readings.n)]
export const oldestFirst = [asc(readings.readAt), asc(readings.n)]
export const place = { readAt: readings.readAt, n: readings.n }

/** A page of a station's readings, newest first. */
export async function listReadings(db: Database, stationId: string, query: Query) {
  const { after, offset, limit, text } = query
  const where = await chosen(db, stationId, query)
  const page = text
    ? await foundPage(db, where, query, await withWords(db, text))
    : await plainPage(db, where, { ...query, station: stationId })
  const chosenRows = db
    .select(texts(object))
    .from(readings)
    .where(inArray(readings.n, page.numbers))
    .orderBy(...newestFirst)
  const rows = JSON.parse(`[${await joined(db, chosenRows, BETWEEN)}]`) as Reading[]
  return {
    total: page.total,
    more: page.more,
    offset: after ? null : offset,
    readings: rows,
    next: rows.length === limit ? (rows.at(-1)?.id ?? null) : null,
  }
}

interface FoundPage {
  /** Of the readings on the page, or the query that finds them by the index alone. */
  numbers: number[] | SQLWrapper
  total: number
  /** True where there are more than the total says. */
  more: boolean
}

async function plainPage(
  db: Database,
  where: SQL | undefined,
  query: Query & { station: string },
): Promise<FoundPage> {
  const { after, offset, limit } = query
  const numbers = db
    .select({ n: readings.n })
    .from(readings)
    .where(and(where, after ? await olderThan(db, after) : undefined))
    .orderBy(...newestFirst)
    .limit(limit)
    .offset(after ? 0 : offset)
  return { numbers, total: await totalOf(db, where, query), more: false }
}

/** What a chain's rounds have counted need not be counted again. */
async function totalOf(
  db: Database,
  where: SQL | undefined,
  query: Query & { station: string },
): Promise<number> {
  const { channel, before, instrument, outside, from, to } = query
  if ([channel, before, instrument, outside, from, to].some((filter) => filter !== undefined))
    return db.$count(readings, where)
  const [row] = await db
    .select({ total: sql<number>`coalesce(sum(${rounds.readingCount}), 0)` })
    .from(rounds)
    .innerJoin(chains, and(eq(chains.id, rounds.chainId), isNull(chains.deletedAt)))
    .where(
      and(
        eq(chains.stationId, query.station),
        query.chain ? eq(chains.id, query.chain) : undefined,
      ),
    )
  return row!.total
}

/** Words are looked for once, for the page and for the total. */
async function foundPage(
  db: Database,
  where: SQL | undefined,
  { after, offset, limit }: Query,
  { condition, few }: Words,
): Promise<FoundPage> {
  // From the few that have the words to the log, or from the newest of the log to the words.
  const table = few ? sql`${readings} NOT INDEXED` : sql`${readings}`
  const { text } = await db.get<{ text: string }>(
    sql`SELECT json_group_array(n) AS text FROM (
      SELECT ${readings.n} AS n FROM ${table} WHERE ${and(where, condition)}
      ORDER BY ${sql.join(newestFirst, sql`, `)} LIMIT ${MOST_FOUND + 1})`,
  )
  const numbers = JSON.parse(text) as number[]
  const found = numbers.slice(0, MOST_FOUND)
  const at = after ? found.indexOf(await numberOf(db, after)) : offset - 1
  // What does not have the words has nothing that goes on after it.
  return {
    numbers: after && at < 0 ? [] : found.slice(at + 1, at + 1 + limit),
    total: found.length,
    more: numbers.length > MOST_FOUND,
  }
}

async function numberOf(db: Database, id: string): Promise<number> {
  const [row] = await db.select({ n: readings.n }).from(readings).where(eq(readings.id, id))
  if (!row) throw missing('reading to go on after')
  return row.n
}

async function olderThan(db: Database, id: string): Promise<SQL> {
  const [row] = await db.select().from(readings).where(eq(readings.id, id))
  if (!row) throw missing('reading to go on after')
  return sql`(${readings.readAt}, ${readings.n}) < (${row.readAt}, ${row.n})`
}
