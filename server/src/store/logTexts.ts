/** A station's log as text: all of it, in portions, as SQLite writes it. */
import type { Reading } from '@saltline/contract'
import { and, type SQL, sql } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { readings } from '../db/schema.ts'
import { chosen, oldestFirst, place, type Query, withWords } from './log.ts'
import { array, BETWEEN, joined, object, texts } from './logJson.ts'

/** So many readings are read at once. */
const PORTION = 8000

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
