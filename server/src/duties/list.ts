/** What is due at a station: its duties held against its record. */
import {
  type ChainDocument,
  type Duty,
  type DutyBody,
  type OfferedDuty,
  type Station,
} from '@saltline/contract'
import {
  decimals,
  longAgoWords,
  readAgain,
  staysFor,
  type YearSeries,
  yearSeries,
  yearsOf,
} from '@saltline/core'
import { and, eq, isNull, max, sql } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { measurements, roundMeans, runs } from '../db/schema.ts'
import { asMean, sectionName } from '../store/alerts.ts'
import { readChain } from '../store/chains.ts'
import { answeredOffers, type KeptDuty, keptDuties } from '../store/duties.ts'
import { listEvents } from '../store/events.ts'
import { placeName, planeOf } from '../store/places.ts'
import { readStation } from '../store/stations.ts'
import { sheetsOfThing } from '../store/thingHistory.ts'
import { listThings } from '../store/things.ts'
import { weekRows } from '../store/years.ts'
import { dayIn, daysAhead, dueOn, laterBy } from './due.ts'
import { forChains, forStations } from './shipped.ts'

/** A change that matters, dB. */
const WORTH_DB = 0.5
const YEAR_MS = 365.25 * 24 * 3600 * 1000
/** The record that is looked at. */
const SPAN_MS = 10 * YEAR_MS
/** A record that is shorter stretches nothing, years. */
const QUIET_YEARS = 3
const LONGEST_MONTHS = 36

interface Asked {
  zone: string
  /** ms */
  now?: number
}

/** What all duties are held against; the record of a chain is read once. */
interface Context {
  db: Database
  stationId: string
  zone: string
  now: number
  today: string
  documents: ReadonlyMap<string, ChainDocument>
  /** Of the register, as “L2 Duct run”. */
  things: ReadonlyMap<string, string>
  series: (chainId: string) => Promise<Map<string, YearSeries[]>>
}

/**
 * Every duty of a station with when it is due and why, what is due first before what is due later; those without a day
 * at the end.
 */
export async function listDuties(
  db: Database,
  stationId: string,
  { zone, now = Date.now() }: Asked,
): Promise<Duty[]> {
  const station = await readStation(db, stationId)
  const context = await contextOf(db, station, zone, now)
  const kept = (await keptDuties(db, stationId)).filter(
    // What belongs to a chain or a thing that was deleted waits in the bin with it.
    ({ body: { chainId, thingId } }) =>
      (chainId === null || context.documents.has(chainId)) &&
      (thingId === null || context.things.has(thingId)),
  )
  const duties = await Promise.all(kept.map((duty) => stateOf(context, duty)))
  return duties.sort(
    (a, b) => (a.due ?? '9').localeCompare(b.due ?? '9') || a.title.localeCompare(b.title),
  )
}

/** What ships and fits, and was neither taken nor declined. */
export async function offeredDuties(
  db: Database,
  stationId: string,
  { zone, now = Date.now() }: Asked,
): Promise<OfferedDuty[]> {
  const station = await readStation(db, stationId)
  const context = await contextOf(db, station, zone, now)
  const answered = await answeredOffers(db, stationId)
  const offered = [
    ...forStations
      .filter(({ fits }) => fits(station))
      .map(({ fits: _, name, ...asked }) => ({
        ...asked,
        chainId: null,
        thingId: null,
        shipped: name,
      })),
    ...station.chains.flatMap(({ id }) =>
      forChains
        .filter(({ fits }) => fits(context.documents.get(id)!))
        .map(({ fits: _, name, ...asked }) => ({
          ...asked,
          chainId: id,
          thingId: null,
          shipped: `${name} ${id}`,
        })),
    ),
  ].filter(({ shipped }) => !answered.has(shipped))
  return Promise.all(
    offered.map(async (asked) => ({
      ...asked,
      from: context.today,
      chain: asked.chainId === null ? null : context.documents.get(asked.chainId)!.name,
      last: (await recorded(context, asked))?.on ?? null,
    })),
  )
}

async function contextOf(
  db: Database,
  { id: stationId, chains }: Station,
  zone: string,
  now: number,
): Promise<Context> {
  const documents = new Map(
    await Promise.all(
      chains.map(async ({ id }) => [id, (await readChain(db, id)).document] as const),
    ),
  )
  const owned = await listThings(db, stationId)
  const things = new Map(owned.map(({ id, mark, name }) => [id, `${mark} ${name}`]))
  const read = new Map<string, Promise<Map<string, YearSeries[]>>>()
  return {
    ...{ db, stationId, zone, now, documents, things, today: dayIn(zone, new Date(now)) },
    series(chainId) {
      const known = read.get(chainId) ?? seriesOf(db, chainId, documents.get(chainId)!, now)
      read.set(chainId, known)
      return known
    },
  }
}

/** By channel. */
async function seriesOf(db: Database, chainId: string, { stages }: ChainDocument, now: number) {
  const places = [...stages.map(({ id }) => id), 'load']
  const weeks = await weekRows(db, chainId, new Date(now - SPAN_MS).toISOString())
  return new Map(
    [...weeks].map(([channelId, rows]) => [channelId, yearSeries(rows.map(asMean), places)]),
  )
}

async function stateOf(context: Context, { id, body, marks }: KeptDuty): Promise<Duty> {
  const { db, documents, today } = context
  const { chainId, months, afterEvent, from } = body
  const [ticked] = marks
    .filter(({ kind, on }) => kind === 'done' && on <= today)
    .map(({ on }) => on)
    .sort()
    .reverse()
  const known = await recorded(context, body)
  const last =
    ticked !== undefined && (known === null || ticked >= known.on)
      ? { on: ticked, how: 'ticked' as const }
      : known
  const events =
    afterEvent === null || chainId === null
      ? []
      : (await listEvents(db, chainId)).filter(
          ({ on, text }) => on <= today && text.toLowerCase().includes(afterEvent.toLowerCase()),
        )
  const event = events.at(-1) ?? null
  const judged = await judgedBy(context, body, last?.on ?? null)
  const [putOff] = marks.filter(({ kind }) => kind === 'put off')
  const due = dueOn({
    ...{ months, from, last: last?.on ?? null, event: event?.on ?? null },
    sooner: judged?.sooner ?? null,
    putOff: putOff ? { until: putOff.on, said: dayIn(context.zone, new Date(putOff.at)) } : null,
  })
  const because =
    due === null
      ? null
      : due === putOff?.on
        ? `put off: ${putOff.reason}`
        : due === event?.on
          ? `${event.text}`
          : due === judged?.sooner
            ? judged.because
            : null
  return {
    ...body,
    id,
    chain: chainId === null ? null : documents.get(chainId)!.name,
    thing: body.thingId === null ? null : context.things.get(body.thingId)!,
    ...{ last, due, because, marks: marks.slice(0, 50), ahead: daysAhead(due, months, today) },
    stretchTo: judged?.stretchTo ?? null,
  }
}

type Asks = Pick<DutyBody, 'task' | 'chainId' | 'thingId'>

/** The last time that the record knows of. */
async function recorded(
  { db, stationId, zone }: Context,
  { task, chainId, thingId }: Asks,
): Promise<Duty['last']> {
  const said = (at: string | null | undefined, how: NonNullable<Duty['last']>['how']) =>
    at ? { on: dayIn(zone, new Date(at)), how } : null
  if (task.kind === 'sheet') {
    const [row] = await db
      .select({ at: max(runs.changedAt) })
      .from(runs)
      .where(
        and(
          eq(runs.chainId, chainId!),
          sql`json_extract(${runs.body}, '$.sheetId') = ${task.sheetId}`,
          sql`json_extract(${runs.body}, '$.outcome') = 'done'`,
        ),
      )
    return said(row?.at, 'run sheet')
  }
  if (task.kind === 'bench' && thingId !== null) {
    // Wherever it was measured.
    const about = await sheetsOfThing(db, thingId)
    return said(about.find(({ kind }) => kind === task.worksheet)?.measuredAt, 'bench sheet')
  }
  if (task.kind === 'bench') {
    const [row] = await db
      .select({ at: max(measurements.measuredAt) })
      .from(measurements)
      .where(
        and(
          eq(measurements.stationId, stationId),
          eq(measurements.kind, task.worksheet),
          chainId === null ? undefined : eq(measurements.chainId, chainId),
          isNull(measurements.deletedAt),
        ),
      )
    return said(row?.at, 'bench sheet')
  }
  if (task.kind === 'reading') {
    const [row] = await db
      .select({ at: max(roundMeans.at) })
      .from(roundMeans)
      .where(
        and(
          eq(roundMeans.chainId, chainId!),
          task.channelId === undefined ? undefined : eq(roundMeans.channelId, task.channelId),
        ),
      )
    return said(row?.at, 'reading')
  }
  return null
}

interface Judged {
  /** The day by which it is due by the record, where that is before the months are over. */
  sooner: string | null
  because: string | null
  stretchTo: number | null
}

/** What the record of a chain says of when it should be read again. */
async function judgedBy(
  context: Context,
  { task, chainId, months }: DutyBody,
  last: string | null,
): Promise<Judged | null> {
  const reads = task.kind === 'reading' || (task.kind === 'sheet' && task.sheetId === 'yearly')
  if (!reads || chainId === null || months === null || last === null) return null
  const document = context.documents.get(chainId)!
  const byChannel = await context.series(chainId)
  const judged = [...byChannel]
    .filter(
      ([channelId]) =>
        task.kind !== 'reading' || task.channelId === undefined || task.channelId === channelId,
    )
    .flatMap(([, all]) => all.filter(({ subject }) => subject.kind !== 'swr'))
  const end = laterBy(last, months)
  const [soonest] = judged
    .flatMap((series) => {
      const next = readAgain(series, WORTH_DB)
      return next ? [{ series, next, day: dayIn(context.zone, new Date(next.at)) }] : []
    })
    .filter(({ day }) => day < end && day > last)
    .sort((a, b) => a.day.localeCompare(b.day))
  if (soonest)
    return {
      sooner: soonest.day,
      because: reason(document, soonest.series, soonest.next.why),
      stretchTo: null,
    }
  const longer = Math.min(LONGEST_MONTHS, months * 2)
  const quiet =
    judged.length > 0 &&
    longer > months &&
    judged.every(
      (series) => yearsOf(series) >= QUIET_YEARS && staysFor(series, WORTH_DB, longer / 12),
    )
  return { sooner: null, because: null, stretchTo: quiet ? longer : null }
}

/** As “the loss of Roof run grew 0.4 dB since January, 0.2 dB a year: 0.5 dB by then”. */
function reason(
  document: ChainDocument,
  { subject, trend, points, change }: YearSeries,
  why: 'change' | 'uncertainty',
): string {
  const figure =
    subject.kind === 'loss'
      ? `the loss of ${sectionName(document, subject.from, subject.to)}`
      : `the power ${namedPlace(document, subject.at)}`
  const db = (value: number) => `${decimals(value, 1)}\u00a0dB`
  if (why === 'uncertainty')
    return `how ${figure} moves is known to ${db((trend!.high - trend!.low) / 2)} a year only`
  const last = points.at(-1)!.at
  const grown =
    change === null
      ? ''
      : ` ${db(Math.abs(change.by))} since ${longAgoWords(change.since ?? change.comparedWith, last).replace(/^in /, '')},`
  return `${figure} ${trend!.slope > 0 ? 'grew' : 'fell'}${grown} ${db(Math.abs(trend!.slope))} a year: ${db(WORTH_DB)} by then`
}

function namedPlace(document: ChainDocument, before: string): string {
  const plane = planeOf(document, before)
  return plane === null ? before : placeName(document, plane)
}
