/** The register of things, and the stages of chains that are one. */
import {
  asStage,
  type ChainDocument,
  figuresOf,
  newId,
  type OfferedThing,
  type PlaceOfThing,
  sameFigures,
  type StageDocument,
  type Thing,
  type ThingBody,
} from '@saltline/contract'
import { and, eq, isNull } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { chains, things } from '../db/schema.ts'
import { type Transaction, write } from '../db/writes.ts'
import { readChain, reviseChain } from './chains.ts'
import { invalid, missing } from './errors.ts'
import { readStation } from './stations.ts'

type Reader = Pick<Database, 'select'>

interface Standing extends PlaceOfThing {
  chain: string
  stage: StageDocument
}

/** Every stage of a station’s chains as they stand. */
async function allStages(db: Reader, stationId: string): Promise<Standing[]> {
  const own = await db
    .select({ id: chains.id })
    .from(chains)
    .where(and(eq(chains.stationId, stationId), isNull(chains.deletedAt)))
    .orderBy(chains.createdAt)
  const documents = await Promise.all(
    own.map(async ({ id }) => [id, (await readChain(db, id)).document] as const),
  )
  return documents.flatMap(([chainId, { name, stages }]) =>
    stages.map((stage) => ({ chainId, stageId: stage.id, chain: name, stage })),
  )
}

const rowsOf = (db: Reader, stationId: string) =>
  db
    .select()
    .from(things)
    .where(and(eq(things.stationId, stationId), isNull(things.deletedAt)))

/** The register of a station, by its marks. */
export async function listThings(db: Database, stationId: string): Promise<Thing[]> {
  await readStation(db, stationId)
  const stages = await allStages(db, stationId)
  return (await rowsOf(db, stationId))
    .map(({ id, body }) => ({
      id,
      ...body,
      places: stages.flatMap(({ stage, ...place }) =>
        stage.thingId === id ? [{ ...place, same: sameFigures(stage, body.stage) }] : [],
      ),
    }))
    .sort((a, b) => a.mark.localeCompare(b.mark, 'en', { numeric: true }))
}

/** Stages that are equal by name and figures in several chains, and no thing yet. */
export async function offeredThings(db: Database, stationId: string): Promise<OfferedThing[]> {
  await readStation(db, stationId)
  const rows = await rowsOf(db, stationId)
  const known = new Set(rows.map(({ id }) => id))
  const marks = new Set(rows.map(({ body }) => body.mark))
  const groups: Standing[][] = []
  for (const each of await allStages(db, stationId)) {
    if (each.stage.thingId !== undefined && known.has(each.stage.thingId)) continue
    const group = groups.find(
      ([first]) => first!.chainId !== each.chainId && sameFigures(first!.stage, each.stage),
    )
    // One thing does not stand twice in a chain.
    if (group && group.every(({ chainId }) => chainId !== each.chainId)) group.push(each)
    else groups.push([each])
  }
  return groups
    .filter(({ length }) => length > 1)
    .map((group) => {
      const mark = freeMark(group[0]!.stage, marks)
      marks.add(mark)
      return {
        mark,
        stage: figuresOf(group[0]!.stage),
        places: group.map(({ stage: _, ...place }) => place),
      }
    })
}

const letters: Partial<Record<StageDocument['kind'], string>> = {
  line: 'L',
  tuner: 'T',
  amplifier: 'A',
}

function freeMark({ kind }: StageDocument, taken: ReadonlySet<string>): string {
  for (let n = 1; ; n++) {
    const mark = `${letters[kind] ?? 'P'}${n}`
    if (!taken.has(mark)) return mark
  }
}

/** @throws StoreError where another thing of the station has its mark */
async function checkMark(db: Reader, stationId: string, { mark }: ThingBody, but?: string) {
  const same = (await rowsOf(db, stationId)).find(
    ({ id, body }) => id !== but && body.mark.toLowerCase() === mark.toLowerCase(),
  )
  if (same)
    throw invalid(['mark'], `“${mark}” is on ${same.body.stage.name} already: give another mark.`)
}

/** Adds a thing; the stages that are it take its figures, each chain in one revision, all of them or none. */
export async function addThing(
  db: Database,
  stationId: string,
  { places, ...given }: ThingBody & { places: readonly PlaceOfThing[] },
  id = newId(),
): Promise<Thing> {
  await readStation(db, stationId)
  const body = { ...given, stage: figuresOf(given.stage) }
  await write(db, async (tx) => {
    await checkMark(tx, stationId, body)
    await tx.insert(things).values({ id, stationId, body })
    for (const place of places) await standIn(tx, { id, stationId, body }, place)
  })
  return readThing(db, stationId, id)
}

async function readThing(db: Database, stationId: string, id: string): Promise<Thing> {
  const found = (await listThings(db, stationId)).find((thing) => thing.id === id)
  if (!found) throw missing('thing')
  return found
}

async function rowOf(db: Reader, id: string) {
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
  { id, stationId, body }: { id: string; stationId: string; body: ThingBody },
  { chainId, stageId }: PlaceOfThing,
): Promise<void> {
  const { document, stationId: own } = await readChain(tx, chainId)
  const stage = document.stages.find((each) => each.id === stageId)
  if (own !== stationId || !stage) throw missing('stage')
  if (stage.kind !== body.stage.kind)
    throw invalid(['stageId'], `${stage.name} is of another kind than ${body.stage.name}.`)
  if (document.stages.some((each) => each.id !== stageId && each.thingId === id))
    throw invalid(['stageId'], `${body.mark} stands in this chain already, and cannot stand twice.`)
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

export async function placeThing(db: Database, id: string, place: PlaceOfThing): Promise<Thing> {
  const { stationId, body } = await rowOf(db, id)
  await write(db, (tx) => standIn(tx, { id, stationId, body }, place))
  return readThing(db, stationId, id)
}

/** A stage is that thing no more; its figures stay. */
export async function unplaceThing(db: Database, id: string, chainId: string): Promise<Thing> {
  const { stationId, body } = await rowOf(db, id)
  await write(db, async (tx) => {
    const { document } = await readChain(tx, chainId)
    const stage = document.stages.find((each) => each.thingId === id)
    if (!stage) throw missing('stage')
    const { thingId: _, ...rest } = stage
    await reviseChain(tx, chainId, withStage(document, stage.id, rest), `not ${body.mark} any more`)
  })
  return readThing(db, stationId, id)
}

/**
 * Changes a thing. Chains that have it as it was get a revision each with what it is now, in the same transaction; one
 * whose stage was edited by hand stays as it is, and differs.
 */
export async function changeThing(db: Database, id: string, given: ThingBody): Promise<Thing> {
  const body = { ...given, stage: figuresOf(given.stage) }
  const stationId = await write(db, async (tx) => {
    const row = await rowOf(tx, id)
    if (row.body.stage.kind !== body.stage.kind)
      throw invalid(['stage', 'kind'], 'A thing stays of its kind. Add another one instead.')
    await checkMark(tx, row.stationId, body, id)
    await tx.update(things).set({ body }).where(eq(things.id, id))
    if (!sameFigures(row.body.stage, body.stage))
      for (const { chainId, stage } of await allStages(tx, row.stationId)) {
        if (stage.thingId !== id || !sameFigures(stage, row.body.stage)) continue
        const { document } = await readChain(tx, chainId)
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
    if (row && !deleted) await checkMark(tx, row.stationId, row.body, id)
    return tx
      .update(things)
      .set({ deletedAt: deleted ? new Date().toISOString() : null })
      .where(eq(things.id, id))
  })
  if (rowsAffected === 0) throw missing('thing')
}
