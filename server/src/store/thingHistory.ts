/** Where a thing was, and what was measured of it there. */
import {
  type Measurement,
  type Suspect,
  type ThingHistory,
  type ThingLoss,
  type ThingSweep,
} from '@saltline/contract'
import { yearSeries } from '@saltline/core'
import { and, desc, eq, inArray, isNull } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { measurements } from '../db/schema.ts'
import { asMean } from './alerts.ts'
import { readChain } from './chains.ts'
import { listLineSweeps } from './lineSweeps.ts'
import { asMeasurement } from './measurements.ts'
import { thingRow } from './things.ts'
import { weekRows } from './years.ts'
import { type Stay, staysOfThing } from './thingStays.ts'

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
