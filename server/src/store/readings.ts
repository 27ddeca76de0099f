import {
  type ChainDocument,
  type InstrumentDocument,
  newId,
  type Reading,
  type ReadingBody,
  type readingsQuerySchema,
  type Round,
  type YearRow,
  yearRowSchema,
} from '@saltline/contract'
import {
  answerChain,
  type Chain,
  drawChain,
  expectReading,
  InputError,
  type Meter,
  planeRanges,
  type PredictedPlane,
  swrRead,
  usualMeter,
  usualTolerances,
} from '@saltline/core'
import { and, asc, count, desc, eq, gte, isNull, like, lt, or, type SQL, sql } from 'drizzle-orm'
import type { z } from 'zod'
import type { Database } from '../db/open.ts'
import { gear, readings, rounds } from '../db/schema.ts'
import { write } from '../db/writes.ts'
import { notFound, ProblemError } from '../http/problem.ts'
import { chainOfDocument } from './antennas.ts'
import { readChain } from './chains.ts'

/** A reading joins the round of its chain whose last reading is no further away than this. */
const ROUND_MS = 3 * 3600 * 1000
/** Draws for what a reading should be: enough for 5 and 95 %. */
const DRAWS = 240
/** Rows of one insert: SQLite takes a limited number of values. */
const CHUNK = 200

type Row = typeof readings.$inferSelect
type NewRow = typeof readings.$inferInsert
type Expected = Pick<
  NewRow,
  'expectedW' | 'lowW' | 'highW' | 'expectedSwr' | 'lowSwr' | 'highSwr' | 'inside'
>

/** Keeps readings of a chain with what was expected of each; all of them or none. */
export async function addReadings(
  db: Database,
  chainId: string,
  bodies: readonly ReadingBody[],
): Promise<Reading[]> {
  const { document, stationId } = await readChain(db, chainId)
  const chain = await chainOfDocument(db, document)
  const instruments = await instrumentsOf(db, stationId)
  const expect = expectations(chain, document)
  const rows = bodies.map((body, i) => {
    const plane = planeOf(document, body.before)
    if (plane === null)
      throw invalid(i, bodies.length, 'before', `“${body.before}” is no place on this chain.`)
    const instrument = body.instrumentId ? instruments.get(body.instrumentId) : undefined
    if (body.instrumentId && !instrument)
      throw invalid(i, bodies.length, 'instrumentId', 'This station has no such instrument.')
    return newRow(stationId, chainId, body, {
      place: placeName(document, plane),
      instrument,
      expected: expect(body, plane, instrument ?? usualMeter),
    })
  })
  const kept = await write(db, async (tx) => {
    const out: NewRow[] = []
    for (const { roundId, ...row } of rows)
      out.push({ ...row, roundId: await roundFor(tx, row, roundId) })
    for (let i = 0; i < out.length; i += CHUNK)
      await tx.insert(readings).values(out.slice(i, i + CHUNK))
    return out
  })
  const ids = new Set(kept.map(({ id }) => id))
  if (kept.length === 1) return [await readReading(db, kept[0]!.id)]
  const found = await db.select().from(readings).where(eq(readings.roundId, kept[0]!.roundId))
  return found.filter(({ id }) => ids.has(id)).map(asReading)
}

function newRow(
  stationId: string,
  chainId: string,
  body: ReadingBody,
  known: { place: string; instrument: InstrumentDocument | undefined; expected: Expected },
): Omit<NewRow, 'roundId'> & { roundId: string | undefined } {
  return {
    id: newId(),
    stationId,
    chainId,
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

/** A body of one reading is pointed into directly, one of many through its list. */
const invalid = (index: number, of: number, field: string, message: string): ProblemError =>
  new ProblemError({
    status: 422,
    title: 'Some fields need attention',
    detail: message,
    errors: [{ pointer: of === 1 ? `/${field}` : `/readings/${index}/${field}`, message }],
  })

/** Index of the plane in front of a stage, or at the load; null where there is none. */
export function planeOf({ stages }: ChainDocument, before: string): number | null {
  if (before === 'load') return stages.length
  const index = stages.findIndex(({ id }) => id === before)
  return index < 0 ? null : index
}

/** What a plane is called in the log. */
export const placeName = ({ stages }: ChainDocument, plane: number): string =>
  plane === stages.length
    ? 'at the antenna'
    : plane === 0
      ? 'at the radio'
      : `before ${stages[plane]!.name}`

async function instrumentsOf(
  db: Database,
  stationId: string,
): Promise<Map<string, InstrumentDocument>> {
  const rows = await db.select().from(gear).where(eq(gear.stationId, stationId))
  return new Map(
    rows.flatMap(({ id, body }) => (body.kind === 'instrument' ? [[id, body.document]] : [])),
  )
}

/** What readings should show: the chain is solved and drawn once for every operating point. */
function expectations(chain: Chain, { tolerances = usualTolerances }: ChainDocument) {
  const known = new Map<string, PredictedPlane[] | null>()
  const planesAt = ({ frequencyHz, powerW, mode }: ReadingBody): PredictedPlane[] | null => {
    const key = `${frequencyHz} ${powerW} ${mode}`
    const found = known.get(key)
    if (found !== undefined) return found
    const planes = predicted(chain, { frequencyHz, powerW, mode }, tolerances)
    known.set(key, planes)
    return planes
  }
  return (body: ReadingBody, plane: number, meter: Meter): Expected => {
    const at = planesAt(body)?.[plane]
    if (!at)
      return {
        expectedW: null,
        lowW: null,
        highW: null,
        expectedSwr: null,
        lowSwr: null,
        highSwr: null,
        inside: true,
      }
    const e = expectReading(at, meter, body, body.rangeW)
    const seen = swrRead(body)
    const within = (
      value: number | null | undefined,
      { low, high }: { low: number; high: number },
    ) => value == null || (value >= low && value <= high)
    return {
      expectedW: e.watts,
      lowW: e.wattsRange.low,
      highW: e.wattsRange.high,
      expectedSwr: finite(e.swr),
      lowSwr: finite(e.swrRange.low),
      highSwr: finite(e.swrRange.high),
      inside: within(body.forwardW, e.wattsRange) && within(seen, e.swrRange),
    }
  }
}

/** SQLite and JSON have no infinity: an open line's SWR is none. */
const finite = (value: number): number | null => (Number.isFinite(value) ? value : null)

/** The planes of an operating point; null where the chain has no answer there. */
function predicted(
  chain: Chain,
  at: { frequencyHz: number; powerW: number; mode: ReadingBody['mode'] },
  tolerances: NonNullable<ChainDocument['tolerances']>,
): PredictedPlane[] | null {
  try {
    const { solution } = answerChain(chain, at)
    const [draws] = drawChain(chain, [at], tolerances, { draws: DRAWS, seed: 1 })
    const ranges = planeRanges(draws!)
    return solution.planes.map(({ forwardW, swr }, k) => ({ forwardW, swr, ranges: ranges[k]! }))
  } catch (error) {
    if (error instanceof InputError) return null
    throw error
  }
}

type Transaction = Parameters<Parameters<typeof write>[1]>[0]

/** The round that a reading names, joins or begins; its limits grow to hold it. */
async function roundFor(
  tx: Transaction,
  { stationId, chainId, readAt }: Omit<NewRow, 'roundId'>,
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

const asReading = ({ stationId: _station, deletedAt: _deleted, ...row }: Row): Reading => row

export async function readReading(db: Database, id: string): Promise<Reading> {
  const [row] = await db
    .select()
    .from(readings)
    .where(and(eq(readings.id, id), isNull(readings.deletedAt)))
  if (!row) throw notFound('reading')
  return asReading(row)
}

/** Corrects a reading: what was expected is computed anew on the chain as it stands. */
export async function updateReading(db: Database, id: string, body: ReadingBody): Promise<Reading> {
  const old = await readReading(db, id)
  const { document, stationId } = await readChain(db, old.chainId)
  const plane = planeOf(document, body.before)
  if (plane === null) throw invalid(0, 1, 'before', `“${body.before}” is no place on this chain.`)
  const instruments = await instrumentsOf(db, stationId)
  const instrument = body.instrumentId ? instruments.get(body.instrumentId) : undefined
  const expect = expectations(await chainOfDocument(db, document), document)
  const {
    id: _id,
    roundId: _round,
    ...row
  } = newRow(stationId, old.chainId, body, {
    place: placeName(document, plane),
    instrument,
    expected: expect(body, plane, instrument ?? usualMeter),
  })
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

const chosen = (stationId: string, query: Omit<Query, 'offset' | 'limit'>) => {
  const { chain, channel, before, instrument, outside, from, to, text } = query
  // The day after the last one, so that the whole of it is in.
  const after = to && new Date(Date.parse(to) + 24 * 3600 * 1000).toISOString()
  return and(
    eq(readings.stationId, stationId),
    isNull(readings.deletedAt),
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
  const where = chosen(stationId, query)
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
          chosen(stationId, {}),
          last && sql`(${readings.readAt}, ${readings.id}) > (${last.readAt}, ${last.id})`,
        ),
      )
      .orderBy(asc(readings.readAt), asc(readings.id))
      .limit(portion)
    if (rows.length > 0) yield rows.map(asReading)
    last = rows.length === portion ? rows.at(-1) : undefined
  } while (last)
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

/**
 * What a chain showed over the years on one channel: the means of every round at every place. Watts are
 * meant relative to what each meter was expected to show, so that averaging and peak meters mix.
 *
 * @param since the earliest reading that counts, ISO 8601
 */
export async function yearRows(
  db: Database,
  chainId: string,
  channelId: string,
  since = '',
): Promise<YearRow[]> {
  const r = readings
  const rho = sql`CASE
    WHEN ${r.forwardW} > 0 AND ${r.reflectedW} IS NOT NULL THEN sqrt(${r.reflectedW} / ${r.forwardW})
    WHEN ${r.swr} IS NOT NULL THEN (${r.swr} - 1) / (${r.swr} + 1) END`
  const named = (name: keyof YearRow, expression: SQL) => expression.as(name)
  const forwardW = sql`coalesce(avg(${r.forwardW} / ${r.expectedW}) * avg(${r.expectedW}), avg(${r.forwardW}))`
  const means = db
    .select({
      roundId: named('roundId', sql`${r.roundId}`),
      at: named('at', sql`min(${r.readAt})`),
      before: named('before', sql`${r.before}`),
      powerW: named('powerW', sql`avg(${r.powerW})`),
      forwardW: named('forwardW', forwardW),
      rho: named('rho', sql`avg(${rho})`),
      expectedW: named('expectedW', sql`avg(${r.expectedW})`),
      lowW: named('lowW', sql`avg(${r.lowW})`),
      highW: named('highW', sql`avg(${r.highW})`),
      expectedSwr: named('expectedSwr', sql`avg(${r.expectedSwr})`),
      lowSwr: named('lowSwr', sql`avg(${r.lowSwr})`),
      highSwr: named('highSwr', sql`avg(${r.highSwr})`),
    })
    .from(r)
    .where(
      and(
        eq(r.chainId, chainId),
        eq(r.channelId, channelId),
        gte(r.readAt, since),
        isNull(r.deletedAt),
      ),
    )
    .groupBy(r.roundId, r.before)
    .orderBy(sql`min(${r.readAt})`)
  // Tens of thousands of rows cross the driver six times faster as one text.
  const fields = sql.join(
    Object.keys(yearRowSchema.shape).map((name) => sql`${name}, ${sql.identifier(name)}`),
    sql`, `,
  )
  const { text } = await db.get<{ text: string }>(
    sql`SELECT json_group_array(json_object(${fields})) AS text FROM (${means})`,
  )
  return JSON.parse(text) as YearRow[]
}
