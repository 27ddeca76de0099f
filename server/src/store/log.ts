/** A station's log: pages of it, filtered and searched, and all of it in portions. */
import { type Reading, readingSchema, type readingsQuerySchema } from '@saltline/contract'
import {
  and,
  asc,
  desc,
  eq,
  getTableColumns,
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

type Query = z.output<typeof readingsQuerySchema>

/** What lies in the bin with its chain is not in the log. */
async function hiddenChains(db: Database, stationId: string): Promise<string[]> {
  const rows = await db
    .select({ id: chains.id })
    .from(chains)
    .where(and(eq(chains.stationId, stationId), isNotNull(chains.deletedAt)))
  return rows.map(({ id }) => id)
}

/** The condition that readings have to meet; the index of the log answers all of it but the words. */
async function chosen(
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
async function withWords(db: Database, text: string): Promise<Words> {
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
const oldestFirst = [asc(readings.readAt), asc(readings.n)]
const place = { readAt: readings.readAt, n: readings.n }

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

const PORTION = 8000

/**
 * The fields of a reading as JSON values, made by SQLite. Exact, figures have all their digits; else they have fifteen, and
 * what is true is 1.
 */
function valuesOf(fields: readonly (keyof Reading)[], exact: boolean): SQL[] {
  const columns = getTableColumns(readings)
  return fields.map((name) => {
    const column = columns[name]
    const plain = sql`${sql.identifier(column.name)}`
    if (column.dataType === 'boolean' && exact) return sql`json(iif(${plain}, 'true', 'false'))`
    return exact && column.getSQLType() === 'real'
      ? sql`iif(${plain} IS NULL, NULL, json(printf('%!.17g', ${plain})))`
      : plain
  })
}

const fieldNames = Object.keys(readingSchema.shape) as (keyof Reading)[]

/** A reading as a JSON object. */
const object = sql`json_object(${sql.join(
  valuesOf(fieldNames, true).map((value, i) => sql`${sql.raw(`'${fieldNames[i]}'`)}, ${value}`),
  sql`, `,
)})`

/** Some of its fields as a JSON array: read twice as fast. */
const array = (fields: readonly (keyof Reading)[]): SQL =>
  sql`json_array(${sql.join(valuesOf(fields, false), sql`, `)})`

/** Between JSON values in a list. */
const BETWEEN = ',\n'

/** What is selected of rows that are joined: one column, so that SQLite copies no others. */
const texts = (value: SQL) => ({ text: value.as('text') })

/** Rows of one text each as one text, with something between them; nothing for no rows. */
async function joined(db: Database, rows: SQLWrapper, between: string): Promise<string> {
  const { text } = await db.get<{ text: string | null }>(
    sql`SELECT group_concat(text, ${between}) AS text FROM ${rows}`,
  )
  return text ?? ''
}

/** Which readings of a station: all, or those that a list shows. */
export type Chosen = Partial<Query>

/** Where a reading stands in a log, oldest first. */
export interface Moment {
  readAt: string
  n: number
}

/** A part of a log: what comes after one reading, up to and with another. */
export interface Part {
  after?: Moment
  upTo?: Moment
}

/** A log that is shorter is not worth being divided. */
const LONG_LOG = 20_000

/** The reading in the middle of a log; none of a short one, and of one where words are looked for. */
export async function middleOf(
  db: Database,
  stationId: string,
  query: Chosen = {},
): Promise<Moment | null> {
  if (query.text) return null
  const where = await chosen(db, stationId, query)
  const count = await db.$count(readings, where)
  if (count < LONG_LOG) return null
  const [middle] = await db
    .select(place)
    .from(readings)
    .where(where)
    .orderBy(...oldestFirst)
    .limit(1)
    .offset(count >> 1)
  return middle ?? null
}

/**
 * A station's readings, oldest first, as the texts of JSON objects with commas between them, in portions. They
 * cross the driver as one text a portion, which is many times faster than row by row.
 */
export const readingTexts = (
  db: Database,
  stationId: string,
  query?: Chosen,
): AsyncGenerator<string> => textsOf(db, stationId, object, BETWEEN, query)

async function* textsOf(
  db: Database,
  stationId: string,
  value: SQL,
  between: string,
  query: Chosen = {},
  { after, upTo }: Part = {},
): AsyncGenerator<string> {
  const here = sql`(${readings.readAt}, ${readings.n})`
  const where = and(
    await chosen(db, stationId, query),
    query.text ? (await withWords(db, query.text)).condition : undefined,
    upTo && sql`${here} <= (${upTo.readAt}, ${upTo.n})`,
  )
  for (let last = after; ;) {
    const rest = and(where, last && sql`${here} > (${last.readAt}, ${last.n})`)
    // Where the portion ends is found by the index alone.
    const [end] = await db
      .select(place)
      .from(readings)
      .where(rest)
      .orderBy(...oldestFirst)
      .limit(1)
      .offset(PORTION - 1)
    const portion = db
      .select(texts(value))
      .from(readings)
      .where(rest)
      .orderBy(...oldestFirst)
      .limit(PORTION)
    const text = await joined(db, portion, between)
    if (text) yield text
    if (!end) return
    last = end
  }
}

/** Stands between groups, and between readings: JSON has neither (they are escaped in it). */
const [UNIT, RECORD] = ['\u001f', '\u001e']

/**
 * Some fields of a station's readings, oldest first, in portions; figures with up to fifteen digits. Fields that change
 * together come as one text, which whoever reads it need not take apart twice.
 *
 * @returns of each reading, its moment and for each group a JSON array of the values of its fields
 */
export async function* readingGroups(
  db: Database,
  stationId: string,
  groups: readonly (readonly (keyof Reading)[])[],
  query?: Chosen,
  part?: Part,
): AsyncGenerator<string[][]> {
  const values = [sql`${sql.identifier(readings.readAt.name)}`, ...groups.map(array)]
  const row = sql.join(values, sql` || char(31) || `)
  for await (const text of textsOf(db, stationId, row, RECORD, query, part))
    yield text.split(RECORD).map((one) => one.split(UNIT))
}
