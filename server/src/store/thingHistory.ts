/** Where a thing was, and what was measured of it there. */
import {
  type ChainDocument,
  type Measurement,
  sameFigures,
  type Suspect,
  type ThingHistory,
  type ThingLoss,
  type ThingSweep,
} from '@saltline/contract'
import { yearSeries } from '@saltline/core'
import { and, asc, desc, eq, inArray, isNull, min, sql } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { chainRevisions, chains, lineSweeps, measurements, roundMeans } from '../db/schema.ts'
import { asMean } from './alerts.ts'
import { readChain, readRevision } from './chains.ts'
import { listLineSweeps } from './lineSweeps.ts'
import { asMeasurement } from './measurements.ts'
import { endOf, thingRow } from './things.ts'
import { weekRows } from './years.ts'

/** A stretch of time in one chain, with the chain as it was at its end. */
interface Stay {
  chainId: string
  stageId: string
  chain: string
  from: string
  to: string | null
  document: ChainDocument
}

type Find = (document: ChainDocument) => string | null

/**
 * Every stretch of time that a thing stood in a chain, deleted ones too, by the line of revisions that each came to.
 *
 * @param needle what a document with it has in its text
 * @param find the stage that it is in a document
 */
async function staysOf(
  db: Database,
  stationId: string,
  needle: string,
  find: Find,
): Promise<Stay[]> {
  const rows = await db
    .select({
      chainId: chainRevisions.chainId,
      revision: chainRevisions.revision,
      parent: chainRevisions.parent,
      savedAt: chainRevisions.savedAt,
      has: sql<number>`instr(${chainRevisions.document}, ${needle}) > 0`,
      current: chains.revision,
      deletedAt: chains.deletedAt,
    })
    .from(chainRevisions)
    .innerJoin(chains, eq(chains.id, chainRevisions.chainId))
    .where(eq(chains.stationId, stationId))
    .orderBy(asc(chains.createdAt), asc(chainRevisions.revision))
  const byChain = new Map<string, typeof rows>()
  for (const row of rows) {
    const own = byChain.get(row.chainId)
    if (own) own.push(row)
    else byChain.set(row.chainId, [row])
  }
  const found: Stay[] = []
  for (const [chainId, revisions] of byChain) {
    const { deletedAt } = revisions[0]!
    for (const { before, first, last, next } of stretches(lineOf(revisions))) {
      const { document } = await readRevision(db, chainId, last.revision)
      const stageId = find(document)
      if (stageId === null) continue
      const always = before === null || (await isSame(db, chainId, stageId, before, first))
      const from = always ? await recordedFrom(db, chainId, first.savedAt) : first.savedAt
      const to = next?.savedAt ?? deletedAt
      found.push({ ...{ chainId, stageId, chain: document.name, from, to }, document })
    }
  }
  return found
}

/** Whether a stage was what it is before it was called a thing. */
async function isSame(
  db: Database,
  chainId: string,
  stageId: string,
  before: Revision,
  first: Revision,
): Promise<boolean> {
  const [was, is] = await Promise.all(
    [before, first].map(async ({ revision }) =>
      (await readRevision(db, chainId, revision)).document.stages.find(({ id }) => id === stageId),
    ),
  )
  return was !== undefined && is !== undefined && sameFigures(was, is)
}

/** The first reading or sweep of a chain, where that came before it was kept here. */
async function recordedFrom(db: Database, chainId: string, savedAt: string): Promise<string> {
  const firsts = await Promise.all([
    db
      .select({ at: min(roundMeans.at) })
      .from(roundMeans)
      .where(eq(roundMeans.chainId, chainId)),
    db
      .select({ at: min(lineSweeps.readAt) })
      .from(lineSweeps)
      .where(and(eq(lineSweeps.chainId, chainId), isNull(lineSweeps.deletedAt))),
  ])
  return firsts.flatMap(([row]) => row?.at ?? []).reduce((a, b) => (b < a ? b : a), savedAt)
}

interface Revision {
  revision: number
  parent: number | null
  savedAt: string
  has: number
  current: number
}

/** From the first to the one that stands: what was undone or kept aside is not among them. */
function lineOf<R extends Revision>(revisions: readonly R[]): R[] {
  const by = new Map(revisions.map((each) => [each.revision, each]))
  const line: R[] = []
  for (
    let at = by.get(revisions[0]!.current);
    at && !line.includes(at);
    at = at.parent === null ? undefined : by.get(at.parent)
  )
    line.push(at)
  return line.reverse()
}

interface Stretch<R> {
  before: R | null
  first: R
  last: R
  next?: R
}

/** Runs of revisions that have it, each with the one before it and the first after it that has it no more. */
function stretches<R extends Revision>(line: readonly R[]): Stretch<R>[] {
  const found: Stretch<R>[] = []
  let open: Stretch<R> | null = null
  line.forEach((revision, i) => {
    if (!revision.has) {
      if (open) open.next = revision
      open = null
    } else if (open) open.last = revision
    else found.push((open = { before: line[i - 1] ?? null, first: revision, last: revision }))
  })
  return found
}

const stageWith =
  (thingId: string): Find =>
  ({ stages }) =>
    stages.find((stage) => stage.thingId === thingId)?.id ?? null

/** Where a thing is and was, by the revisions of this station and the readings of an instrument. */
async function staysOfThing(
  db: Database,
  { id, stationId, body: { of } }: Awaited<ReturnType<typeof thingRow>>,
): Promise<Stay[]> {
  if (!of) return staysOf(db, stationId, `"thingId":"${id}"`, stageWith(id))
  const key = of.kind === 'gear' ? 'gearId' : 'antennaId'
  const ends = await staysOf(db, stationId, `"${key}":"${of.id}"`, (document) =>
    endOf(document, of),
  )
  return of.kind === 'gear' ? [...ends, ...(await usesOf(db, of.id))] : ends
}

/** What is said of a stay without the chain itself. */
const told = ({ document: _, ...stay }: Stay) => stay

/** Where a thing was once, and is no more. */
export async function endedStays(db: Database, id: string): Promise<ThingHistory['stays']> {
  const row = await thingRow(db, id)
  const stays = (await staysOfThing(db, row)).map(told)
  return [...(row.body.earlier ?? []), ...stays].filter(({ to }) => to !== null)
}

/** Bench sheets about a thing, wherever it was measured, newest first. */
export async function sheetsOfThing(db: Database, id: string): Promise<Measurement[]> {
  const row = await thingRow(db, id)
  return row.body.stage ? sheetsAbout(db, row.stationId, await staysOfThing(db, row)) : []
}

/** All that the record knows of a thing. */
export async function thingHistory(db: Database, id: string): Promise<ThingHistory> {
  const row = await thingRow(db, id)
  const { stage, earlier = [] } = row.body
  const stays = await staysOfThing(db, row)
  const losses = stage ? await Promise.all(stays.map((stay) => lossesOf(db, stay))) : []
  return {
    stays: [...earlier, ...stays.map(told)].sort((a, b) => (a.from < b.from ? 1 : -1)),
    losses: losses.flat(),
    sweeps: stage
      ? (await Promise.all(stays.map((stay) => sweepsOf(db, stay))))
          .flat()
          .sort((a, b) => (a.sweep.readAt < b.sweep.readAt ? 1 : -1))
      : [],
    measurements: stage ? await sheetsAbout(db, row.stationId, stays) : [],
  }
}

/** Where an instrument was read, from its first reading in a chain to its last. */
async function usesOf(db: Database, instrumentId: string): Promise<Stay[]> {
  const rows = await db.all<{ chainId: string; from: string; to: string }>(sql`
    SELECT chain_id AS chainId, min(read_at) AS "from", max(read_at) AS "to"
    FROM readings WHERE instrument_id = ${instrumentId} AND deleted_at IS NULL GROUP BY chain_id`)
  return Promise.all(
    rows.map(async ({ chainId, from, to }) => {
      const { document } = await readChain(db, chainId)
      return { chainId, stageId: 'meter', chain: document.name, from, to, document }
    }),
  )
}

/** What the section with it lost, channel by channel, while it was there, from a day on. */
async function lossesOf(db: Database, stay: Stay, since = ''): Promise<ThingLoss[]> {
  const { chainId, chain, stageId, to, document } = stay
  const from = since > stay.from ? since : stay.from
  const { stages, channels } = document
  const places = [...stages.map(({ id }) => id), 'load']
  const here = places.indexOf(stageId)
  const weeks = await weekRows(db, chainId, from)
  return [...weeks].flatMap(([channelId, rows]) => {
    const own = rows.filter(({ at }) => to === null || at <= to)
    const read = places.filter((place) => own.some(({ before }) => before === place))
    const near = read.findLast((place) => places.indexOf(place) <= here)
    const far = read.find((place) => places.indexOf(place) > here)
    if (near === undefined || far === undefined) return []
    const series = yearSeries(
      own.filter(({ before }) => before === near || before === far).map(asMean),
      [near, far],
    ).find(({ subject }) => subject.kind === 'loss')
    if (!series) return []
    const between = stages.slice(places.indexOf(near), places.indexOf(far))
    const { trend } = series
    return [
      {
        ...{ chainId, chain, channelId },
        frequencyHz: channels.find(({ id }) => id === channelId)?.frequencyHz ?? null,
        with: between.filter(({ id }) => id !== stageId).map(({ name }) => name),
        points: series.points.map(({ at, value, expected, low, high }) => ({
          ...{ at, lossDb: value, expectedDb: expected, lowDb: low, highDb: high },
        })),
        drift: trend && { slope: trend.slope, low: trend.low, high: trend.high },
      },
    ]
  })
}

/** Sweeps of it alone, and of lines that go on behind their plane through it to an end that was no antenna. */
async function sweepsOf(db: Database, stay: Stay): Promise<ThingSweep[]> {
  const { chainId, chain, stageId, from, to } = stay
  const sweeps = (await listLineSweeps(db, chainId, -1)).filter(
    ({ readAt, farEnd }) => farEnd !== 'antenna' && readAt >= from && (to === null || readAt <= to),
  )
  return sweeps.flatMap((sweep) => {
    const { stages } = stay.document
    const at = stages.findIndex(({ id }) => id === sweep.before)
    if (at < 0) return []
    const swept = sweep.alone ? [stages[at]!] : stages.slice(at)
    return swept.some(({ id }) => id === stageId)
      ? [{ chain, with: swept.filter(({ id }) => id !== stageId).map(({ name }) => name), sweep }]
      : []
  })
}

async function sheetsAbout(db: Database, stationId: string, stays: readonly Stay[]) {
  const stageIds = [...new Set(stays.map(({ stageId }) => stageId))]
  if (stageIds.length === 0) return []
  const rows = await db
    .select()
    .from(measurements)
    .where(
      and(
        eq(measurements.stationId, stationId),
        inArray(measurements.stageId, stageIds),
        isNull(measurements.deletedAt),
      ),
    )
    .orderBy(desc(measurements.measuredAt))
  const places = new Set(stays.map(({ chainId, stageId }) => `${chainId}/${stageId}`))
  return rows
    .filter(({ chainId, stageId }) => places.has(`${chainId}/${stageId}`))
    .slice(0, 200)
    .map(asMeasurement)
}

/** A loss found by readings that are older says little of today, ms. */
const FRESH_MS = 400 * 864e5

/** Stages of a chain whose thing lost more than it should when another chain was read last. */
export async function suspectsOf(db: Database, chainId: string): Promise<Suspect[]> {
  const { document } = await readChain(db, chainId)
  const since = new Date(Date.now() - FRESH_MS).toISOString()
  const found = await Promise.all(
    document.stages.map(async ({ id: stageId, thingId }): Promise<Suspect[]> => {
      if (thingId === undefined) return []
      const row = await thingRow(db, thingId).catch(() => null)
      if (!row) return []
      const stays = await staysOfThing(db, row)
      const losses = await Promise.all(
        stays
          .filter((stay) => stay.chainId !== chainId && (stay.to === null || stay.to > since))
          .map((stay) => lossesOf(db, stay, since)),
      )
      const [worst] = losses
        .flat()
        .flatMap(({ chain, with: others, points }) => {
          const last = points.at(-1)
          // Of a section with other parts nobody can say which of them it was.
          if (others.length > 0 || !last || last.highDb === null) return []
          return last.lossDb > last.highDb
            ? [{ chain, at: last.at, excessDb: last.lossDb - last.expectedDb! }]
            : []
        })
        .sort((a, b) => b.excessDb - a.excessDb)
      return worst ? [{ stageId, mark: row.body.mark, ...worst }] : []
    }),
  )
  return found.flat()
}
