/** Duties and what was said of them by hand, as they are kept. */
import {
  type DutyBody,
  type DutyMark,
  type DutyMarkBody,
  idSchema,
  newId,
} from '@saltline/contract'
import { and, desc, eq, getTableColumns, isNull } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { duties, dutyMarks, stations } from '../db/schema.ts'
import { dayAfter, dayIn } from '../duties/due.ts'
import { type Transaction, write } from '../db/writes.ts'
import { missing, StoreError } from './errors.ts'

const now = (): string => new Date().toISOString()

export interface KeptDuty {
  id: string
  body: DutyBody
  changedAt: string
  /** Newest first. */
  marks: DutyMark[]
}

/** The duties of a station that were not deleted. */
export async function keptDuties(db: Database, stationId: string): Promise<KeptDuty[]> {
  const rows = await db
    .select()
    .from(duties)
    .where(
      and(eq(duties.stationId, stationId), eq(duties.declined, false), isNull(duties.deletedAt)),
    )
  const said = await db
    .select(getTableColumns(dutyMarks))
    .from(dutyMarks)
    .innerJoin(duties, eq(duties.id, dutyMarks.dutyId))
    .where(and(eq(duties.stationId, stationId), isNull(duties.deletedAt)))
    .orderBy(desc(dutyMarks.at), desc(dutyMarks.on))
  return rows.map(({ id, body, changedAt }) => ({
    id,
    // Older ones know nothing of things.
    body: { ...body, thingId: body.thingId ?? null },
    changedAt,
    marks: said.flatMap(({ dutyId, ...mark }) => (dutyId === id ? [mark] : [])),
  }))
}

/** The shipped duties that were taken or declined once, deleted ones too. */
export async function answeredOffers(db: Database, stationId: string): Promise<Set<string>> {
  const rows = await db
    .select({ body: duties.body })
    .from(duties)
    .where(eq(duties.stationId, stationId))
  return new Set(rows.flatMap(({ body }) => body.shipped ?? []))
}

export async function addDuty(db: Database, stationId: string, body: DutyBody): Promise<string> {
  const id = newId()
  await write(db, async (tx) => {
    await stationThere(tx, stationId)
    await tx.insert(duties).values({ id, stationId, body, changedAt: now() })
  })
  return id
}

/** Keeps that a shipped duty is not wanted. */
export async function declineDuty(
  db: Database,
  stationId: string,
  shipped: string,
  today: string,
): Promise<void> {
  const body: DutyBody = {
    ...{ title: shipped, note: '', chainId: null, thingId: null, months: 12 },
    ...{ task: { kind: 'plain' }, afterEvent: null, from: today, shipped },
  }
  await write(db, async (tx) => {
    await stationThere(tx, stationId)
    const row = { id: newId(), stationId, body, declined: true, changedAt: now() }
    await tx.insert(duties).values(row)
  })
}

export async function changeDuty(
  db: Database,
  id: string,
  change: { body: DutyBody } | { deleted: boolean },
): Promise<void> {
  const set =
    'body' in change
      ? { ...change, changedAt: now() }
      : { deletedAt: change.deleted ? now() : null, changedAt: now() }
  const { rowsAffected } = await write(db, (tx) =>
    tx.update(duties).set(set).where(eq(duties.id, id)),
  )
  if (rowsAffected === 0) throw missing('duty')
}

/** Keeps a mark under the identity that it was given where it was made: the same one again changes nothing. */
export async function keepMark(
  db: Database,
  dutyId: string,
  id: string,
  body: DutyMarkBody,
): Promise<void> {
  if (!idSchema.safeParse(id).success) throw missing('mark')
  await write(db, async (tx) => {
    const [row] = await tx
      .select({ id: duties.id })
      .from(duties)
      .where(and(eq(duties.id, dutyId), isNull(duties.deletedAt)))
    if (!row) throw missing('duty')
    // A day that lies ahead is a mistake; tomorrow is today already in zones east of here.
    if (body.kind === 'done' && body.on > dayAfter(dayIn('UTC', new Date())))
      throw new StoreError(
        'invalid',
        'That day has not come yet',
        `${body.on} lies ahead. Give the day on which it was done.`,
      )
    const [known] = await tx
      .select({ of: dutyMarks.dutyId })
      .from(dutyMarks)
      .where(eq(dutyMarks.id, id))
    if (known && known.of !== dutyId) throw missing('mark')
    if (!known) await tx.insert(dutyMarks).values({ id, dutyId, ...body, at: now() })
  })
}

export async function removeMark(db: Database, dutyId: string, markId: string): Promise<void> {
  const { rowsAffected } = await write(db, (tx) =>
    tx.delete(dutyMarks).where(and(eq(dutyMarks.id, markId), eq(dutyMarks.dutyId, dutyId))),
  )
  if (rowsAffected === 0) throw missing('mark')
}

async function stationThere(tx: Transaction, stationId: string): Promise<void> {
  const [row] = await tx
    .select({ id: stations.id })
    .from(stations)
    .where(and(eq(stations.id, stationId), isNull(stations.deletedAt)))
  if (!row) throw missing('station')
}
