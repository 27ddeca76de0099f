/** What was deleted: listed, and emptied for good. */
import type { BinEntry, DeletedStation } from '@saltline/contract'
import { and, count, eq, inArray, isNotNull, type SQL, sql } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import {
  antennas,
  chainRevisions,
  chains,
  duties,
  dutyMarks,
  events,
  gear,
  lineSweeps,
  measurements,
  attempts,
  runs,
  readings,
  roundMeans,
  rounds,
  stations,
  sweeps,
  things,
} from '../db/schema.ts'
import { type Transaction, write } from '../db/writes.ts'
import { formatFrequency } from '@saltline/core'
import { wasDeleted } from './marks.ts'
import { readStation } from './stations.ts'

/** Everything of a station that was deleted and can be taken back, newest first. */
export async function listBin(db: Database, stationId: string): Promise<BinEntry[]> {
  await readStation(db, stationId)
  const entry = (
    kind: BinEntry['kind'],
    id: string,
    name: string,
    at: string | null,
  ): BinEntry => ({
    kind,
    id,
    name,
    deletedAt: at!,
    readings: 0,
  })
  const deletedChains = await db
    .select({ id: chains.id, at: chains.deletedAt, document: chainRevisions.document })
    .from(chains)
    .innerJoin(
      chainRevisions,
      and(eq(chainRevisions.chainId, chains.id), eq(chainRevisions.revision, chains.revision)),
    )
    .where(and(eq(chains.stationId, stationId), isNotNull(chains.deletedAt)))
  const counts = new Map(
    (
      await db
        .select({ chainId: readings.chainId, count: count() })
        .from(readings)
        .where(eq(readings.stationId, stationId))
        .groupBy(readings.chainId)
    ).map((row) => [row.chainId, row.count]),
  )
  const deletedReadings = await db
    .select()
    .from(readings)
    .where(and(eq(readings.stationId, stationId), wasDeleted(readings.deletedAt)))
    .limit(1000)
  const deletedGear = await db
    .select()
    .from(gear)
    .where(and(eq(gear.stationId, stationId), isNotNull(gear.deletedAt)))
  const deletedEvents = await db
    .select({ id: events.id, text: events.text, at: events.deletedAt })
    .from(events)
    .innerJoin(chains, eq(chains.id, events.chainId))
    .where(and(eq(chains.stationId, stationId), isNotNull(events.deletedAt)))
  const deletedSweeps = await db
    .select({
      id: lineSweeps.id,
      place: lineSweeps.place,
      readAt: lineSweeps.readAt,
      at: lineSweeps.deletedAt,
    })
    .from(lineSweeps)
    .innerJoin(chains, eq(chains.id, lineSweeps.chainId))
    .where(and(eq(chains.stationId, stationId), isNotNull(lineSweeps.deletedAt)))
  const deletedSheets = await db
    .select({ id: measurements.id, title: measurements.title, at: measurements.deletedAt })
    .from(measurements)
    .where(and(eq(measurements.stationId, stationId), isNotNull(measurements.deletedAt)))
  const deletedDuties = await db
    .select({ id: duties.id, body: duties.body, at: duties.deletedAt })
    .from(duties)
    .where(and(eq(duties.stationId, stationId), isNotNull(duties.deletedAt)))
  const deletedThings = await db
    .select()
    .from(things)
    .where(and(eq(things.stationId, stationId), isNotNull(things.deletedAt)))
  return [
    ...deletedChains.map(({ id, at, document }) => ({
      ...entry('chain', id, document.name, at),
      readings: counts.get(id) ?? 0,
    })),
    ...deletedReadings.map((row) =>
      entry(
        'reading',
        row.id,
        `${formatFrequency(row.frequencyHz)}, ${row.place}, read ${row.readAt.slice(0, 10)}`,
        row.deletedAt,
      ),
    ),
    ...deletedGear.map(({ id, body, deletedAt }) =>
      entry('gear', id, body.document.name, deletedAt),
    ),
    ...deletedEvents.map(({ id, text, at }) => entry('event', id, text, at)),
    ...deletedSweeps.map(({ id, place, readAt, at }) =>
      entry('sweep', id, `${place}, ${readAt.slice(0, 10)}`, at),
    ),
    ...deletedSheets.map(({ id, title, at }) => entry('bench sheet', id, title, at)),
    ...deletedThings.map(({ id, body, deletedAt }) =>
      entry('thing', id, body.stage ? `${body.mark}, ${body.stage.name}` : body.mark, deletedAt),
    ),
    ...deletedDuties.map(({ id, body, at }) => entry('duty', id, body.title, at)),
  ].sort((a, b) => (a.deletedAt < b.deletedAt ? 1 : -1))
}

/** Removes for good what is in a station's bin; a chain takes its readings and events along. */
export async function emptyBin(db: Database, stationId: string): Promise<void> {
  await readStation(db, stationId)
  await write(db, async (tx) => {
    const gone = await tx
      .select({ id: chains.id })
      .from(chains)
      .where(and(eq(chains.stationId, stationId), isNotNull(chains.deletedAt)))
    await removeChains(
      tx,
      gone.map(({ id }) => id),
    )
    const own = await tx
      .select({ id: chains.id })
      .from(chains)
      .where(eq(chains.stationId, stationId))
    await tx
      .delete(readings)
      .where(and(eq(readings.stationId, stationId), wasDeleted(readings.deletedAt)))
    for (const { id } of own) {
      await tx.delete(events).where(and(eq(events.chainId, id), isNotNull(events.deletedAt)))
      await tx
        .delete(lineSweeps)
        .where(and(eq(lineSweeps.chainId, id), isNotNull(lineSweeps.deletedAt)))
    }
    await tx.delete(gear).where(and(eq(gear.stationId, stationId), isNotNull(gear.deletedAt)))
    await tx
      .delete(measurements)
      .where(and(eq(measurements.stationId, stationId), isNotNull(measurements.deletedAt)))
    const without = and(eq(things.stationId, stationId), isNotNull(things.deletedAt))
    const noThing = await tx.select({ id: things.id }).from(things).where(without)
    for (const { id } of noThing) await removeDuties(tx, sql`${duties.body} ->> 'thingId' = ${id}`)
    await tx.delete(things).where(without)
    const thrown = and(eq(duties.stationId, stationId), isNotNull(duties.deletedAt))!
    await tx.delete(dutyMarks).where(inArray(dutyMarks.dutyId, dutiesWhich(tx, thrown)))
    // One that ships stays known, so that it is not offered again.
    await tx
      .update(duties)
      .set({ declined: true, deletedAt: null })
      .where(and(thrown, sql`${duties.body} ->> 'shipped' IS NOT NULL`))
    await tx.delete(duties).where(thrown)
  })
}

const dutiesWhich = (tx: Transaction, which: SQL) =>
  tx.select({ id: duties.id }).from(duties).where(which)

/** With what was said of them. */
async function removeDuties(tx: Transaction, which: SQL): Promise<void> {
  await tx.delete(dutyMarks).where(inArray(dutyMarks.dutyId, dutiesWhich(tx, which)))
  await tx.delete(duties).where(which)
}

async function removeChains(tx: Transaction, ids: readonly string[]): Promise<void> {
  for (const id of ids) {
    await tx.delete(readings).where(eq(readings.chainId, id))
    await tx.delete(roundMeans).where(eq(roundMeans.chainId, id))
    await tx.delete(rounds).where(eq(rounds.chainId, id))
    await tx.delete(events).where(eq(events.chainId, id))
    await tx.delete(runs).where(eq(runs.chainId, id))
    await tx.delete(lineSweeps).where(eq(lineSweeps.chainId, id))
    await removeDuties(tx, sql`${duties.body} ->> 'chainId' = ${id}`)
    await tx.delete(chainRevisions).where(eq(chainRevisions.chainId, id))
    await tx.delete(chains).where(eq(chains.id, id))
  }
}

export async function listDeletedStations(db: Database): Promise<DeletedStation[]> {
  const rows = await db.select().from(stations).where(wasDeleted(stations.deletedAt))
  return Promise.all(
    rows.map(async ({ id, name, deletedAt }) => {
      const [counted] = await db
        .select({ count: count() })
        .from(readings)
        .where(eq(readings.stationId, id))
      return { id, name, deletedAt: deletedAt!, readings: counted?.count ?? 0 }
    }),
  )
}

/** Removes the deleted stations for good, with all that is theirs. */
export async function emptyStationBin(db: Database): Promise<void> {
  await write(db, async (tx) => {
    const gone = await tx
      .select({ id: stations.id })
      .from(stations)
      .where(wasDeleted(stations.deletedAt))
    await removeStations(
      tx,
      gone.map(({ id }) => id),
    )
  })
}

/** With all that is theirs. */
export async function removeStations(tx: Transaction, ids: readonly string[]): Promise<void> {
  for (const id of ids) {
    const own = await tx.select({ id: chains.id }).from(chains).where(eq(chains.stationId, id))
    await removeChains(
      tx,
      own.map((chain) => chain.id),
    )
    const swept = tx.select({ id: antennas.id }).from(antennas).where(eq(antennas.stationId, id))
    await tx.delete(sweeps).where(inArray(sweeps.antennaId, swept))
    await tx.delete(antennas).where(eq(antennas.stationId, id))
    await tx.delete(gear).where(eq(gear.stationId, id))
    await tx.delete(measurements).where(eq(measurements.stationId, id))
    await tx.delete(attempts).where(eq(attempts.stationId, id))
    await tx.delete(things).where(eq(things.stationId, id))
    await removeDuties(tx, eq(duties.stationId, id))
    await tx.delete(stations).where(eq(stations.id, id))
  }
}
