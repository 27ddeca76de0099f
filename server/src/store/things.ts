/** The register of things, and the stages of chains that are one. */
import {
  asStage,
  type ChainDocument,
  figuresOf,
  type KeptThing,
  newId,
  type PlaceOfThing,
  sameFigures,
  type StageDocument,
  type Station,
  type Thing,
  type ThingBody,
} from '@saltline/contract'
import { and, eq, isNull } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { antennas, chains, gear, things } from '../db/schema.ts'
import { type Transaction, write } from '../db/writes.ts'
import { readChain, reviseChain } from './chains.ts'
import { invalid, missing } from './errors.ts'
import { readStation } from './stations.ts'

type Reader = Pick<Database, 'select'>

interface Named {
  chainId: string
  chain: string
  document: ChainDocument
}

interface Standing extends PlaceOfThing {
  chain: string
  stage: StageDocument
}

/** A station’s chains as they stand. */
export async function chainsAsTheyStand(db: Reader, stationId: string): Promise<Named[]> {
  const own = await db
    .select({ id: chains.id })
    .from(chains)
    .where(and(eq(chains.stationId, stationId), isNull(chains.deletedAt)))
    .orderBy(chains.createdAt)
  return Promise.all(
    own.map(async ({ id }) => {
      const { document } = await readChain(db, id)
      return { chainId: id, chain: document.name, document }
    }),
  )
}

export const stagesOf = (documents: readonly Named[]): Standing[] =>
  documents.flatMap(({ chainId, chain, document: { stages } }) =>
    stages.map((stage) => ({ chainId, chain, stageId: stage.id, stage })),
  )

export const rowsOf = (db: Reader, stationId: string) =>
  db
    .select()
    .from(things)
    .where(and(eq(things.stationId, stationId), isNull(things.deletedAt)))

/** The register of a station, by its marks. */
export async function listThings(db: Database, stationId: string): Promise<Thing[]> {
  const station = await readStation(db, stationId)
  const documents = await chainsAsTheyStand(db, stationId)
  return (await rowsOf(db, stationId))
    .map(({ id, body }) => thingOf(id, body, station, documents))
    .sort((a, b) => a.mark.localeCompare(b.mark, 'en', { numeric: true }))
}

function thingOf(
  id: string,
  { movedTo = null, notes = [], earlier: _, ...body }: KeptThing,
  station: Station,
  documents: readonly Named[],
): Thing {
  const places = documents.flatMap(({ chainId, chain, document }) => {
    const place = { chainId, chain, gone: movedTo !== null && movedTo !== chainId }
    const stage = document.stages.find(({ thingId }) => thingId === id)
    if (stage && body.stage)
      return [{ ...place, stageId: stage.id, same: sameFigures(stage, body.stage) }]
    const end = body.of ? endOf(document, body.of) : null
    return end === null ? [] : [{ ...place, stageId: end, same: true }]
  })
  return {
    ...{ id, ...body, movedTo, places, name: nameOf(body, station) },
    notes: [...notes].sort((a, b) => b.on.localeCompare(a.on)),
  }
}

/** At which end of a chain a radio or an antenna stands; null where it is none of them, and for an instrument. */
export function endOf(
  { transmitter, load }: ChainDocument,
  { kind, id }: NonNullable<ThingBody['of']>,
): 'transmitter' | 'load' | null {
  if (kind === 'gear') return transmitter.gearId === id ? 'transmitter' : null
  return load.kind === 'antenna' && load.antennaId === id ? 'load' : null
}

/** Of the stage, the entry of Gear or the antenna; these may be gone. */
function nameOf({ stage, of }: Pick<ThingBody, 'stage' | 'of'>, station: Station): string {
  if (stage) return stage.name
  return entriesOf(station).find((entry) => entry.of.id === of!.id)?.name ?? 'no longer in Gear'
}

/** What may be a thing without being a stage: radios, instruments, antennas. */
export const entriesOf = ({ gear: own, antennas: swept }: Station) => [
  ...own.flatMap(({ id, kind, document: { name } }) =>
    kind === 'transmitter' || kind === 'instrument'
      ? [{ name, of: { kind: 'gear' as const, id }, letter: kind === 'transmitter' ? 'R' : 'M' }]
      : [],
  ),
  ...swept.map(({ id, name }) => ({ name, of: { kind: 'antenna' as const, id }, letter: 'N' })),
]

/** @throws StoreError where another thing of the station has its mark, or is the same entry of Gear */
async function checkUnique(db: Reader, stationId: string, body: KeptThing, but?: string) {
  const { mark, of } = body
  const others = (await rowsOf(db, stationId)).filter(({ id }) => id !== but)
  const same = others.find((other) => other.body.mark.toLowerCase() === mark.toLowerCase())
  if (same)
    throw invalid(
      ['mark'],
      `“${mark}” is on ${same.body.stage?.name ?? 'another thing'} already: give another mark.`,
    )
  const twin = of && others.find((other) => other.body.of?.id === of.id)
  if (twin) throw invalid(['of', 'id'], `It is in the register already, as ${twin.body.mark}.`)
  if (of && !(await isThere(db, stationId, of)))
    throw invalid(['of', 'id'], `There is no such ${of.kind} in this station.`)
}

async function isThere(
  db: Reader,
  stationId: string,
  { kind, id }: NonNullable<ThingBody['of']>,
): Promise<boolean> {
  const table = kind === 'gear' ? gear : antennas
  const found = await db
    .select({ id: table.id })
    .from(table)
    .where(and(eq(table.id, id), eq(table.stationId, stationId)))
  return found.length > 0
}

const ownFigures = <T extends ThingBody>(given: T): T =>
  given.stage ? { ...given, stage: figuresOf(given.stage) } : given

/** Adds a thing; the stages that are it take its figures, each chain in one revision, all of them or none. */
export async function addThing(
  db: Database,
  stationId: string,
  { places, ...given }: ThingBody & { places: readonly PlaceOfThing[] },
  id = newId(),
): Promise<Thing> {
  await readStation(db, stationId)
  const body = ownFigures(given)
  await write(db, async (tx) => {
    await checkUnique(tx, stationId, body)
    await tx.insert(things).values({ id, stationId, body })
    for (const place of places) await standIn(tx, { id, stationId, body }, place)
  })
  return readThing(db, stationId, id)
}

export async function readThing(db: Database, stationId: string, id: string): Promise<Thing> {
  const found = (await listThings(db, stationId)).find((thing) => thing.id === id)
  if (!found) throw missing('thing')
  return found
}

export async function thingRow(db: Reader, id: string) {
  const [row] = await db
    .select()
    .from(things)
    .where(and(eq(things.id, id), isNull(things.deletedAt)))
  if (!row) throw missing('thing')
  return row
}

/** Makes a stage of a chain a thing: it takes the thing’s figures. */
async function standIn(
  tx: Transaction,
  { id, stationId, body }: { id: string; stationId: string; body: KeptThing },
  { chainId, stageId }: PlaceOfThing,
): Promise<void> {
  const { document, stationId: own } = await readChain(tx, chainId)
  const stage = document.stages.find((each) => each.id === stageId)
  if (own !== stationId || !stage) throw missing('stage')
  if (!body.stage)
    throw invalid(['stageId'], `${body.mark} is no stage: choose it in the panel of its own place.`)
  if (stage.kind !== body.stage.kind)
    throw invalid(['stageId'], `${stage.name} is of another kind than ${body.stage.name}.`)
  if (document.stages.some((each) => each.id !== stageId && each.thingId === id))
    throw invalid(['stageId'], `${body.mark} stands in this chain already, and cannot stand twice.`)
  // Where it is that already, there is nothing to revise.
  if (stage.thingId === id && sameFigures(stage, body.stage)) return
  await reviseChain(
    tx,
    chainId,
    withStage(document, stageId, asStage(body.stage, stage, id)),
    `${stage.name} is ${body.mark}`,
  )
}

const withStage = (document: ChainDocument, id: string, stage: StageDocument): ChainDocument => ({
  ...document,
  stages: document.stages.map((each) => (each.id === id ? stage : each)),
})

/** @param place with `moved`, it is gone from every other chain; without, it stands in all of them */
export async function placeThing(
  db: Database,
  id: string,
  { moved, ...place }: PlaceOfThing & { moved: boolean },
): Promise<Thing> {
  const { stationId } = await thingRow(db, id)
  await write(db, async (tx) => {
    const { body } = await thingRow(tx, id)
    await standIn(tx, { id, stationId, body }, place)
    const movedTo = moved ? place.chainId : null
    if ((body.movedTo ?? null) !== movedTo)
      await tx
        .update(things)
        .set({ body: { ...body, movedTo } })
        .where(eq(things.id, id))
  })
  return readThing(db, stationId, id)
}

/** A stage is that thing no more; its figures stay. */
export async function unplaceThing(db: Database, id: string, chainId: string): Promise<Thing> {
  const { stationId, body } = await thingRow(db, id)
  await write(db, async (tx) => {
    const { document } = await readChain(tx, chainId)
    const stage = document.stages.find((each) => each.thingId === id)
    if (!stage) throw missing('stage')
    const { thingId: _, ...rest } = stage
    await reviseChain(tx, chainId, withStage(document, stage.id, rest), `not ${body.mark} any more`)
    if (body.movedTo === chainId)
      await tx
        .update(things)
        .set({ body: { ...body, movedTo: null } })
        .where(eq(things.id, id))
  })
  return readThing(db, stationId, id)
}

/**
 * Changes a thing. Chains that have it as it was get a revision each with what it is now, in the same transaction; one
 * whose stage was edited by hand stays as it is, and differs.
 */
export async function changeThing(db: Database, id: string, given: ThingBody): Promise<Thing> {
  const body = ownFigures(given)
  const stationId = await write(db, async (tx) => {
    const row = await thingRow(tx, id)
    const was = row.body.stage
    if (was?.kind !== body.stage?.kind || row.body.of?.id !== body.of?.id)
      throw invalid(['stage', 'kind'], 'A thing stays of its kind. Add another one instead.')
    await checkUnique(tx, row.stationId, body, id)
    const { notes, earlier } = row.body
    await tx
      .update(things)
      .set({ body: { ...body, ...(notes && { notes }), ...(earlier && { earlier }) } })
      .where(eq(things.id, id))
    if (was && body.stage && !sameFigures(was, body.stage))
      for (const { chainId, document } of await chainsAsTheyStand(tx, row.stationId)) {
        const stage = document.stages.find(({ thingId }) => thingId === id)
        if (!stage || !sameFigures(stage, was)) continue
        await reviseChain(
          tx,
          chainId,
          withStage(document, stage.id, asStage(body.stage, stage, id)),
          `${body.mark}, ${body.stage.name}, changed in all chains`,
        )
      }
    return row.stationId
  })
  return readThing(db, stationId, id)
}

export async function setThingDeleted(db: Database, id: string, deleted: boolean): Promise<void> {
  const { rowsAffected } = await write(db, async (tx) => {
    const [row] = await tx.select().from(things).where(eq(things.id, id))
    // Its mark may have been given to another meanwhile.
    if (row && !deleted) await checkUnique(tx, row.stationId, row.body, id)
    return tx
      .update(things)
      .set({ deletedAt: deleted ? new Date().toISOString() : null })
      .where(eq(things.id, id))
  })
  if (rowsAffected === 0) throw missing('thing')
}
