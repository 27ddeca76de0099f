import {
  type Antenna,
  type AntennaFile,
  type ChainDocument,
  newId,
  type Sweep,
} from '@saltline/contract'
import {
  type Chain,
  InputError,
  type Load,
  type OnePortSweep,
  readTouchstone,
  REFERENCE_OHM,
  TouchstoneError,
} from '@saltline/core'
import { and, desc, eq, isNull } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { antennas, sweeps } from '../db/schema.ts'
import { write } from '../db/writes.ts'
import { invalid, missing } from './errors.ts'

/** Three float64 runs, one behind the other; see the table of sweeps. */
export const packPoints = ({
  frequencyHz,
  re,
  im,
}: Record<'frequencyHz' | 're' | 'im', ArrayLike<number>>): Buffer =>
  Buffer.concat([frequencyHz, re, im].map((run) => Buffer.from(Float64Array.from(run).buffer)))

export function unpackPoints(points: Uint8Array, count: number) {
  // Copied, since a blob need not start on a multiple of eight bytes.
  const all = new Float64Array(Uint8Array.from(points).buffer)
  return {
    frequencyHz: all.subarray(0, count),
    re: all.subarray(count, 2 * count),
    im: all.subarray(2 * count, 3 * count),
  }
}

export async function listAntennas(db: Database, stationId: string): Promise<Antenna[]> {
  const own = await db
    .select()
    .from(antennas)
    .where(and(eq(antennas.stationId, stationId), isNull(antennas.deletedAt)))
    .orderBy(antennas.name)
  const swept = await db
    .select({
      id: sweeps.id,
      antennaId: sweeps.antennaId,
      name: sweeps.name,
      addedAt: sweeps.addedAt,
      pointCount: sweeps.pointCount,
      lowHz: sweeps.lowHz,
      highHz: sweeps.highHz,
      phaseKnown: sweeps.phaseKnown,
    })
    .from(sweeps)
    .innerJoin(antennas, eq(antennas.id, sweeps.antennaId))
    .where(eq(antennas.stationId, stationId))
    .orderBy(desc(sweeps.addedAt))
  return own.map(({ id, name, note }) => ({
    id,
    name,
    note,
    sweeps: swept
      .filter((sweep) => sweep.antennaId === id)
      .map(({ antennaId: _, ...summary }) => summary),
  }))
}

/** Adds an antenna with a sweep from a Touchstone file; all of it or nothing. */
export async function addAntenna(
  db: Database,
  stationId: string,
  body: AntennaFile,
  ids = { antenna: newId(), sweep: newId() },
): Promise<Antenna> {
  const sweep = readSweep(body.touchstone)
  await write(db, async (tx) => {
    await tx
      .insert(antennas)
      .values({ id: ids.antenna, stationId, name: body.name, note: body.note })
    await tx.insert(sweeps).values({
      id: ids.sweep,
      antennaId: ids.antenna,
      name: body.sweepName,
      addedAt: new Date().toISOString(),
      referenceOhm: sweep.referenceOhm,
      pointCount: sweep.frequencyHz.length,
      lowHz: sweep.frequencyHz[0]!,
      highHz: sweep.frequencyHz[sweep.frequencyHz.length - 1]!,
      phaseKnown: body.phaseKnown,
      points: packPoints(sweep),
    })
  })
  const added = (await listAntennas(db, stationId)).find(({ id }) => id === ids.antenna)
  if (!added) throw missing('antenna')
  return added
}

/** @throws StoreError where the text is no sweep of the kind that is read */
export function readSweep(text: string, read = readTouchstone): OnePortSweep {
  try {
    return read(text, REFERENCE_OHM)
  } catch (error) {
    if (!(error instanceof TouchstoneError || error instanceof InputError)) throw error
    throw invalid(['touchstone'], error.message, {
      title: 'The file could not be read',
      detail: `${error.message} Nothing was imported.`,
    })
  }
}

async function sweepRow(db: Database, sweepId: string) {
  const [row] = await db.select().from(sweeps).where(eq(sweeps.id, sweepId))
  if (!row) throw missing('sweep')
  return row
}

export async function readSweepById(db: Database, sweepId: string): Promise<Sweep> {
  const row = await sweepRow(db, sweepId)
  const { frequencyHz, re, im } = unpackPoints(row.points, row.pointCount)
  return {
    id: row.id,
    antennaId: row.antennaId,
    name: row.name,
    referenceOhm: row.referenceOhm,
    frequencyHz: [...frequencyHz],
    re: [...re],
    im: [...im],
    phaseKnown: row.phaseKnown,
  }
}

/** The chain that a document describes, with its antenna's sweep looked up. */
export async function chainOfDocument(db: Database, document: ChainDocument): Promise<Chain> {
  const { transmitter, stages, load } = document
  return { transmitter, stages, load: await resolveLoad(db, load) }
}

async function resolveLoad(db: Database, load: ChainDocument['load']): Promise<Load> {
  if (load.kind !== 'antenna') return load
  const [row] = await db.select().from(sweeps).where(eq(sweeps.id, load.sweepId))
  if (!row) {
    throw new InputError(
      `There is no sweep “${load.sweepId}” in this database. Import the antenna first, or give the load as R + jX or SWR.`,
      ['document', 'load', 'sweepId'],
    )
  }
  return {
    kind: 'sweep',
    ...unpackPoints(row.points, row.pointCount),
    phaseUnknown: !row.phaseKnown,
  }
}
