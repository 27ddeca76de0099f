/** Sweeps along a line, kept with the log of a chain. */
import {
  type ChainDocument,
  idSchema,
  type LineSweep,
  type LineSweepFile,
  type LineSweepSummary,
  MOST_SWEEP_POINTS,
  newId,
  whyNotThen,
} from '@saltline/contract'
import {
  alongLine,
  InputError,
  type OnePortSweep,
  pieceAlone,
  readReflections,
  sweepFigures,
} from '@saltline/core'
import { and, desc, eq, getTableColumns, isNull } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { lineSweeps } from '../db/schema.ts'
import { write } from '../db/writes.ts'
import { chainOfDocument, packPoints, readSweep, unpackPoints } from './antennas.ts'
import { readChain, readRevision, revisionAt } from './chains.ts'
import { invalid, missing } from './errors.ts'
import { placeName, planeOf } from './places.ts'

type Row = typeof lineSweeps.$inferSelect

export const asSummary = ({
  body,
  deletedAt: _,
  ...row
}: Omit<Row, 'points'>): LineSweepSummary => ({ ...body, ...row })

const { points: _points, ...withoutPoints } = getTableColumns(lineSweeps)

/** As many as a page has room for. */
const MOST_LISTED = 500

/**
 * Sweeps of a chain, newest first, without their points.
 *
 * @param most negative for all of them
 */
export async function listLineSweeps(
  db: Database,
  chainId: string,
  most = MOST_LISTED,
): Promise<LineSweepSummary[]> {
  const rows = await db
    .select(withoutPoints)
    .from(lineSweeps)
    .where(and(eq(lineSweeps.chainId, chainId), isNull(lineSweeps.deletedAt)))
    .orderBy(desc(lineSweeps.readAt))
    .limit(most)
  return rows.map(asSummary)
}

export async function readLineSweep(db: Database, id: string): Promise<LineSweep> {
  const [row] = await db.select().from(lineSweeps).where(eq(lineSweeps.id, id))
  if (!row) throw missing('sweep')
  const { points, ...rest } = row
  const { frequencyHz, re, im } = unpackPoints(points, row.pointCount)
  return {
    ...asSummary(rest),
    ...{ frequencyHz: [...frequencyHz], re: [...re], im: [...im] },
  }
}

/**
 * Keeps a sweep with the chain of its day, and what it comes to against that. Sent again under the same identity it
 * changes nothing.
 *
 * @throws StoreError where the file is no sweep, the place not on the chain, or the date none
 */
export async function keepLineSweep(
  db: Database,
  chainId: string,
  { touchstone, readAt, before, ...known }: LineSweepFile,
  id = newId(),
): Promise<LineSweepSummary> {
  if (!idSchema.safeParse(id).success) throw missing('sweep')
  const early = whyNotThen(readAt, Date.now())
  if (early) throw invalid(['readAt'], early)
  const there = await summaryOf(db, id)
  if (there && there.chainId !== chainId) throw missing('sweep')
  if (there) return there
  const sweep = readSweep(touchstone, readReflections)
  const pointCount = sweep.frequencyHz.length
  if (pointCount < 2 || pointCount > MOST_SWEEP_POINTS)
    throw invalid(
      ['touchstone'],
      `A sweep of ${pointCount} points cannot be kept: 2 to ${MOST_SWEEP_POINTS} can.`,
    )
  await readChain(db, chainId)
  const chainRevision = await revisionAt(db, chainId, readAt)
  const { document } = await readRevision(db, chainId, chainRevision)
  const plane = planeOf(document, before)
  if (plane === null)
    throw invalid(
      ['before'],
      `“${before}” is no place on this chain as it was on that day. Give a later date, or a place that was there.`,
    )
  if (known.alone) wantCableAlone(document, plane, known.farEnd)
  const row = {
    ...{ id, chainId, chainRevision, before, readAt, pointCount },
    place: known.alone ? `${document.stages[plane]!.name} alone` : placeName(document, plane),
    body: {
      ...known,
      lowHz: Math.round(sweep.frequencyHz[0]!),
      highHz: Math.round(sweep.frequencyHz[pointCount - 1]!),
      figures: await figuresOf(db, document, plane, sweep, known),
    },
    points: packPoints(sweep),
  }
  await write(db, (tx) => tx.insert(lineSweeps).values(row).onConflictDoNothing())
  return (await summaryOf(db, id))!
}

function wantCableAlone({ stages }: ChainDocument, plane: number, farEnd: LineSweepFile['farEnd']) {
  const stage = stages[plane]
  if (stage?.kind !== 'line')
    throw invalid(
      ['before'],
      `${stage ? `“${stage.name}”` : 'The antenna'} is no cable that could be swept alone: name a cable, or sweep the line from there on.`,
    )
  if (farEnd === 'antenna')
    throw invalid(
      ['farEnd'],
      'A cable alone has no antenna at its far end: say whether it was open, shorted or had a 50 Ω load.',
    )
}

async function summaryOf(db: Database, id: string): Promise<LineSweepSummary | null> {
  const [row] = await db.select(withoutPoints).from(lineSweeps).where(eq(lineSweeps.id, id))
  return row ? asSummary(row) : null
}

/** Where nothing can be seen along the line, what the sweep says by itself is left. */
async function figuresOf(
  db: Database,
  document: ChainDocument,
  plane: number,
  sweep: OnePortSweep,
  { alone, farEnd, analyser }: Pick<LineSweepFile, 'alone' | 'farEnd' | 'analyser'>,
) {
  const whole = await chainOfDocument(db, document)
  const [chain, from] = alone ? [pieceAlone(whole, plane), 0] : [whole, plane]
  try {
    return sweepFigures(sweep, alongLine(chain, from, sweep, farEnd), analyser)
  } catch (error) {
    if (!(error instanceof InputError)) throw error
    return sweepFigures(sweep, null, analyser)
  }
}

export async function setLineSweepDeleted(
  db: Database,
  id: string,
  deleted: boolean,
): Promise<void> {
  const { rowsAffected } = await write(db, (tx) =>
    tx
      .update(lineSweeps)
      .set({ deletedAt: deleted ? new Date().toISOString() : null })
      .where(eq(lineSweeps.id, id)),
  )
  if (rowsAffected === 0) throw missing('sweep')
}
