/** What the record says of a duty: when it was last done, and how soon again. */
import type { ChainDocument, Duty, DutyBody } from '@saltline/contract'
import {
  decimals,
  longAgoWords,
  readAgain,
  staysFor,
  type YearSeries,
  yearsOf,
} from '@saltline/core'
import { and, eq, isNull, max, sql } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { measurements, roundMeans, runs } from '../db/schema.ts'
import { sectionName } from '../store/alerts.ts'
import { placeName, planeOf } from '../store/places.ts'
import { sheetsOfThing } from '../store/thingHistory.ts'
import { dayIn, laterBy } from './due.ts'

/** A change that matters, dB. */
const WORTH_DB = 0.5
const YEAR_MS = 365.25 * 24 * 3600 * 1000
/** The record that is looked at. */
export const SPAN_MS = 10 * YEAR_MS
/** A record that is shorter stretches nothing, years. */
const QUIET_YEARS = 3
const LONGEST_MONTHS = 36

/** What all duties are held against; the record of a chain is read once. */
export interface Context {
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

type Asks = Pick<DutyBody, 'task' | 'chainId' | 'thingId'>

/** The last time that the record knows of. */
export async function recorded(
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
export async function judgedBy(
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
