import {
  type ChainDocument,
  type ChainSummary,
  type Gear,
  type GearBody,
  newId,
  type Station,
  type StationBody,
  type StationList,
} from '@saltline/contract'
import { and, eq, isNull, sql } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { chainRevisions, chains, gear, stations } from '../db/schema.ts'
import { write } from '../db/writes.ts'
import { missing } from './errors.ts'
import { listAntennas } from './antennas.ts'
import { insertChain } from './chains.ts'

const now = (): string => new Date().toISOString()

export async function listStations(db: Database): Promise<StationList> {
  const rows = await db
    .select()
    .from(stations)
    .where(isNull(stations.deletedAt))
    .orderBy(stations.createdAt)
  const all = await listChains(db)
  return rows.map(({ id, name, place }) => ({
    id,
    name,
    place,
    chains: all.flatMap(({ stationId, ...chain }) => (stationId === id ? chain : [])),
  }))
}

/** Chains of a station, or of all, without their documents. */
async function listChains(
  db: Database,
  stationId?: string,
): Promise<(ChainSummary & { stationId: string })[]> {
  return db
    .select({
      stationId: chains.stationId,
      id: chains.id,
      revision: chains.revision,
      savedAt: chainRevisions.savedAt,
      name: sql<string>`json_extract(${chainRevisions.document}, '$.name')`,
    })
    .from(chains)
    .innerJoin(
      chainRevisions,
      and(eq(chainRevisions.chainId, chains.id), eq(chainRevisions.revision, chains.revision)),
    )
    .where(
      and(
        stationId === undefined ? undefined : eq(chains.stationId, stationId),
        isNull(chains.deletedAt),
      ),
    )
    .orderBy(chains.createdAt)
}

async function listGear(db: Database, stationId: string): Promise<Gear[]> {
  const rows = await db
    .select()
    .from(gear)
    .where(and(eq(gear.stationId, stationId), isNull(gear.deletedAt)))
  return rows.map(({ id, body }) => ({ id, ...body }))
}

export async function readStation(db: Database, stationId: string): Promise<Station> {
  const [row] = await db
    .select()
    .from(stations)
    .where(and(eq(stations.id, stationId), isNull(stations.deletedAt)))
  if (!row) throw missing('station')
  const { id, name, place, note, swrLimit, environment, currency, prices } = row
  return {
    id,
    name,
    place,
    note,
    swrLimit,
    environment,
    currency,
    prices,
    chains: await listChains(db, id),
    gear: await listGear(db, id),
    antennas: await listAntennas(db, id),
  }
}

/** What the database has a usual value for may be left out. */
type NewStation = Omit<StationBody, 'environment' | 'currency' | 'prices'> &
  Partial<StationBody> & { chain?: ChainDocument | undefined }

export async function createStation(
  db: Database,
  { chain, ...body }: NewStation,
  id = newId(),
): Promise<Station> {
  await write(db, async (tx) => {
    await tx.insert(stations).values({ id, ...body, createdAt: now() })
    if (chain) await insertChain(tx, id, chain)
  })
  return readStation(db, id)
}

export async function updateStation(db: Database, id: string, body: StationBody): Promise<Station> {
  await readStation(db, id)
  await write(db, (tx) => tx.update(stations).set(body).where(eq(stations.id, id)))
  return readStation(db, id)
}

export async function setStationDeleted(db: Database, id: string, deleted: boolean): Promise<void> {
  const { rowsAffected } = await write(db, (tx) =>
    tx
      .update(stations)
      .set({ deletedAt: deleted ? now() : null })
      .where(eq(stations.id, id)),
  )
  if (rowsAffected === 0) throw missing('station')
}

export async function addGear(
  db: Database,
  stationId: string,
  body: GearBody,
  id = newId(),
): Promise<Gear> {
  await readStation(db, stationId)
  await write(db, (tx) => tx.insert(gear).values({ id, stationId, body }))
  return { id, ...body }
}

/** Changes, deletes or takes back a piece of gear. */
export async function updateGear(
  db: Database,
  id: string,
  change: { body: GearBody } | { deleted: boolean },
): Promise<void> {
  const set = 'body' in change ? change : { deletedAt: change.deleted ? now() : null }
  const { rowsAffected } = await write(db, (tx) => tx.update(gear).set(set).where(eq(gear.id, id)))
  if (rowsAffected === 0) throw missing('piece of gear')
}
