import { type Measurement, type measurementBodySchema, newId } from '@saltline/contract'
import { and, desc, eq, isNull } from 'drizzle-orm'
import type { z } from 'zod'
import type { Database } from '../db/open.ts'
import { measurements } from '../db/schema.ts'
import { write } from '../db/writes.ts'
import { missing } from './errors.ts'
import { readStation } from './stations.ts'

type Row = typeof measurements.$inferSelect

export const asMeasurement = ({ chainId, stageId, result, ...row }: Row): Measurement => ({
  id: row.id,
  kind: row.kind,
  title: row.title,
  inputs: row.inputs,
  note: row.note,
  measuredAt: row.measuredAt,
  result: result ?? null,
  ...(chainId && { chainId }),
  ...(stageId && { stageId }),
})

/**
 * Bench sheets that were kept, newest first.
 *
 * @param most negative for all of them
 */
export async function listMeasurements(
  db: Database,
  stationId: string,
  most = 1000,
): Promise<Measurement[]> {
  const rows = await db
    .select()
    .from(measurements)
    .where(and(eq(measurements.stationId, stationId), isNull(measurements.deletedAt)))
    .orderBy(desc(measurements.measuredAt))
    .limit(most)
  return rows.map(asMeasurement)
}

export async function addMeasurement(
  db: Database,
  stationId: string,
  body: z.output<typeof measurementBodySchema>,
  measuredAt = new Date().toISOString(),
): Promise<Measurement> {
  await readStation(db, stationId)
  const row = {
    id: newId(),
    stationId,
    ...body,
    chainId: body.chainId ?? null,
    stageId: body.stageId ?? null,
    measuredAt,
  }
  await write(db, (tx) => tx.insert(measurements).values(row))
  return asMeasurement({ ...row, deletedAt: null })
}

export async function setMeasurementDeleted(
  db: Database,
  id: string,
  deleted: boolean,
): Promise<void> {
  const { rowsAffected } = await write(db, (tx) =>
    tx
      .update(measurements)
      .set({ deletedAt: deleted ? new Date().toISOString() : null })
      .where(eq(measurements.id, id)),
  )
  if (rowsAffected === 0) throw missing('bench sheet')
}
