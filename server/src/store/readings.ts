import {
  type ChainDocument,
  type InstrumentDocument,
  newId,
  type Reading,
  type ReadingBody,
  type readingsQuerySchema,
} from '@saltline/contract'
import { usualMeter } from '@saltline/core'
import {
  and,
  asc,
  count,
  desc,
  eq,
  gte,
  isNotNull,
  isNull,
  like,
  lt,
  notInArray,
  or,
  sql,
} from 'drizzle-orm'
import type { z } from 'zod'
import type { Database } from '../db/open.ts'
import { chains, gear, readings } from '../db/schema.ts'
import { write } from '../db/writes.ts'
import { notFound, ProblemError } from '../http/problem.ts'
import { chainOfDocument } from './antennas.ts'
import { readChain, readRevision, revisionAt } from './chains.ts'
import { type Expected, expectations } from './expected.ts'
import { placeName, planeOf } from './places.ts'
import { asReading } from './readingRow.ts'
import { roundFor } from './rounds.ts'

/** Rows of one insert: SQLite takes a limited number of values. */
const CHUNK = 200

type Row = typeof readings.$inferSelect
type NewRow = typeof readings.$inferInsert
/** A row whose round is not yet known. */
type Roundless = Omit<NewRow, 'roundId'> & { roundId: string | undefined }

/**
 * Keeps readings of a chain with what was expected of each; all of them or none.
 *
 * @param pointerOf where the body of a reading stands in the request, for what is wrong with it
 * @returns their ids, in order
 */
export async function addReadings(
  db: Database,
  chainId: string,
  bodies: readonly ReadingBody[],
  pointerOf: (index: number) => string = (index) => `/readings/${index}`,
): Promise<string[]> {
  const { document, stationId, revision } = await readChain(db, chainId)
  const rowOf = await rowsOf(db, { document, stationId, chainId, revision })
  const rows = bodies.map((body, i) => rowOf(body, pointerOf(i)))
  await write(db, async (tx) => {
    const placed: NewRow[] = []
    for (const row of rows) placed.push({ ...row, roundId: await roundFor(tx, row, row.roundId) })
    for (let i = 0; i < placed.length; i += CHUNK)
      await tx.insert(readings).values(placed.slice(i, i + CHUNK))
  })
  return rows.map(({ id }) => id)
}

/** A chain as it stood when readings were taken. */
interface ChainThen {
  document: ChainDocument
  stationId: string
  chainId: string
  revision: number
}

/** Makes rows of readings on a chain; a body that does not fit it is refused at its pointer. */
async function rowsOf(
  db: Database,
  { document, stationId, chainId, revision }: ChainThen,
): Promise<(body: ReadingBody, pointer: string) => Roundless> {
  const expect = expectations(await chainOfDocument(db, document), document)
  const instruments = await instrumentsOf(db, stationId)
  return (body, pointer) => {
    const plane = planeOf(document, body.before)
    if (plane === null)
      throw invalid(
        `${pointer}/before`,
        `“${body.before}” is no place on this chain. Known are ${placesKnown(document)}.`,
      )
    const instrument = body.instrumentId ? instruments.get(body.instrumentId) : undefined
    if (body.instrumentId && !instrument)
      throw invalid(
        `${pointer}/instrumentId`,
        'This station has no such instrument. Add it under Gear, or leave it out.',
      )
    return newRow({ stationId, chainId, chainRevision: revision }, body, {
      place: placeName(document, plane),
      instrument,
      expected: expect(body, plane, instrument ?? usualMeter),
    })
  }
}

const placesKnown = ({ stages }: ChainDocument): string =>
  [...stages.map(({ id }) => id), 'load'].map((id) => `“${id}”`).join(', ')

const invalid = (pointer: string, message: string): ProblemError =>
  new ProblemError({
    status: 422,
    title: 'Some fields need attention',
    detail: message,
    errors: [{ pointer, message }],
  })

function newRow(
  of: Pick<Roundless, 'stationId' | 'chainId' | 'chainRevision'>,
  body: ReadingBody,
  known: { place: string; instrument: InstrumentDocument | undefined; expected: Expected },
): Roundless {
  return {
    id: newId(),
    ...of,
    roundId: body.roundId,
    channelId: body.channelId ?? null,
    frequencyHz: body.frequencyHz,
    mode: body.mode,
    meanToPeak: body.meanToPeak ?? null,
    powerW: body.powerW,
    before: body.before,
    place: known.place,
    forwardW: body.forwardW ?? null,
    reflectedW: body.reflectedW ?? null,
    swr: body.swr ?? null,
    rangeW: body.rangeW ?? null,
    instrumentId: body.instrumentId ?? null,
    instrument: known.instrument?.name ?? '',
    supplyV: body.supplyV ?? null,
    weather: body.weather ?? '',
    by: body.by ?? '',
    note: body.note ?? '',
    readAt: body.readAt ?? new Date().toISOString(),
    ...known.expected,
  }
}

async function instrumentsOf(
  db: Database,
  stationId: string,
): Promise<Map<string, InstrumentDocument>> {
  const rows = await db.select().from(gear).where(eq(gear.stationId, stationId))
  return new Map(
    rows.flatMap(({ id, body }) => (body.kind === 'instrument' ? [[id, body.document]] : [])),
  )
}

export async function readReading(db: Database, id: string): Promise<Reading> {
  const [row] = await db
    .select()
    .from(readings)
    .where(and(eq(readings.id, id), isNull(readings.deletedAt)))
  if (!row) throw notFound('reading')
  return asReading(row)
}

/**
 * Corrects a reading. What was expected is computed anew for the corrected figures, on the chain of its day:
 * a log does not change its mind about last year because a cable was edited today.
 */
export async function updateReading(db: Database, id: string, body: ReadingBody): Promise<Reading> {
  const [old] = await db
    .select()
    .from(readings)
    .where(and(eq(readings.id, id), isNull(readings.deletedAt)))
  if (!old) throw notFound('reading')
  const { stationId, chainId, readAt } = old
  const revision = old.chainRevision ?? (await revisionAt(db, chainId, readAt))
  const { document } = await readRevision(db, chainId, revision)
  const rowOf = await rowsOf(db, { document, stationId, chainId, revision })
  const { id: _id, roundId: _round, ...row } = rowOf(body, '')
  await write(db, (tx) =>
    tx
      .update(readings)
      .set({ ...row, readAt: body.readAt ?? old.readAt })
      .where(eq(readings.id, id)),
  )
  return readReading(db, id)
}

export async function setReadingDeleted(db: Database, id: string, deleted: boolean): Promise<void> {
  const { rowsAffected } = await write(db, (tx) =>
    tx
      .update(readings)
      .set({ deletedAt: deleted ? new Date().toISOString() : null })
      .where(eq(readings.id, id)),
  )
  if (rowsAffected === 0) throw notFound('reading')
}

type Query = z.output<typeof readingsQuerySchema>

const chosen = (db: Database, stationId: string, query: Omit<Query, 'offset' | 'limit'>) => {
  const { chain, channel, before, instrument, outside, from, to, text } = query
  // The day after the last one, so that the whole of it is in.
  const after = to && new Date(Date.parse(to) + 24 * 3600 * 1000).toISOString()
  return and(
    eq(readings.stationId, stationId),
    isNull(readings.deletedAt),
    // What lies in the bin with its chain is not in the log.
    notInArray(
      readings.chainId,
      db.select({ id: chains.id }).from(chains).where(isNotNull(chains.deletedAt)),
    ),
    chain ? eq(readings.chainId, chain) : undefined,
    channel ? eq(readings.channelId, channel) : undefined,
    before ? eq(readings.before, before) : undefined,
    instrument ? eq(readings.instrumentId, instrument) : undefined,
    outside === undefined ? undefined : eq(readings.inside, !outside),
    from ? gte(readings.readAt, from) : undefined,
    after ? lt(readings.readAt, after) : undefined,
    text
      ? or(...[readings.note, readings.weather, readings.by].map((c) => like(c, `%${text}%`)))
      : undefined,
  )
}

/** A page of a station's readings, newest first. */
export async function listReadings(db: Database, stationId: string, query: Query) {
  const where = chosen(db, stationId, query)
  const [counted] = await db.select({ total: count() }).from(readings).where(where)
  const rows = await db
    .select()
    .from(readings)
    .where(where)
    .orderBy(desc(readings.readAt), desc(readings.id))
    .limit(query.limit)
    .offset(query.offset)
  return { total: counted?.total ?? 0, offset: query.offset, readings: rows.map(asReading) }
}

/** All of a station's readings, oldest first, in portions. */
export async function* allReadings(db: Database, stationId: string): AsyncGenerator<Reading[]> {
  const portion = 1000
  let last: Row | undefined
  do {
    const rows: Row[] = await db
      .select()
      .from(readings)
      .where(
        and(
          chosen(db, stationId, {}),
          last && sql`(${readings.readAt}, ${readings.id}) > (${last.readAt}, ${last.id})`,
        ),
      )
      .orderBy(asc(readings.readAt), asc(readings.id))
      .limit(portion)
    if (rows.length > 0) yield rows.map(asReading)
    last = rows.length === portion ? rows.at(-1) : undefined
  } while (last)
}
