import { isDeepStrictEqual } from 'node:util'
import { idSchema, type Run, type RunBody, type RunSave } from '@saltline/contract'
import { and, desc, eq, isNull } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { chains, readings, runs } from '../db/schema.ts'
import { type Transaction, write } from '../db/writes.ts'
import { missing, StoreError } from './errors.ts'
import { readChain } from './chains.ts'

/** As many runs of a chain as anybody looks through. */
const MOST = 60

const asRun = ({ body, ...row }: typeof runs.$inferSelect): Run => ({ ...body, ...row })

/** Runs of a chain, newest first. */
export async function listRuns(db: Database, chainId: string): Promise<Run[]> {
  const rows = await db
    .select()
    .from(runs)
    .where(eq(runs.chainId, chainId))
    .orderBy(desc(runs.startedAt))
    .limit(MOST)
  return rows.map(asRun)
}

/** Every run of a station's chains, oldest first. */
export async function runsOfStation(db: Database, stationId: string): Promise<Run[]> {
  const rows = await db
    .select({ run: runs })
    .from(runs)
    .innerJoin(chains, eq(chains.id, runs.chainId))
    .where(and(eq(chains.stationId, stationId), isNull(chains.deletedAt)))
    .orderBy(runs.startedAt)
  return rows.map(({ run }) => asRun(run))
}

export async function readRun(db: Database, id: string): Promise<Run> {
  const [row] = await db.select().from(runs).where(eq(runs.id, id))
  if (!row) throw missing('run')
  return asRun(row)
}

/**
 * Begins a run under the identity that it was given where it was begun, or keeps what was done on it since. Taken is
 * what goes on from the run as it stands: from its revision, or with all of its entries and more. What was taken
 * before changes nothing.
 *
 * @throws StoreError conflict where somebody else went on with it meanwhile
 */
export async function keepRun(
  db: Database,
  chainId: string,
  id: string,
  { baseRevision, run, startedAt }: RunSave,
): Promise<Run> {
  await readChain(db, chainId)
  if (!idSchema.safeParse(id).success) throw missing('run')
  const now = new Date().toISOString()
  return write(db, async (tx) => {
    const [row] = await tx.select().from(runs).where(eq(runs.id, id))
    if (row && row.chainId !== chainId) throw missing('run')
    if (row && row.revision !== baseRevision && !goesOn(row.body, run)) {
      if (isIn(row.body, run)) return asRun(row)
      throw new StoreError(
        'conflict',
        'Somebody else went on with this run',
        'Another device has changed it meanwhile. It is shown as it stands now.',
      )
    }
    if (!row && baseRevision > 0) throw missing('run')
    const revision = (row?.revision ?? 0) + 1
    const kept = {
      id,
      chainId,
      revision,
      body: { ...run, ...(await roundOf(tx, run)) },
      startedAt: row?.startedAt ?? (startedAt !== undefined && startedAt < now ? startedAt : now),
      changedAt: now,
    }
    await tx.insert(runs).values(kept).onConflictDoUpdate({ target: runs.id, set: kept })
    return asRun(kept)
  })
}

/** Whether a run holds all that is kept of it, in order, so that nothing is lost by taking it. */
const goesOn = (kept: RunBody, sent: RunBody): boolean =>
  kept.outcome === 'running' &&
  isDeepStrictEqual(sent.entries.slice(0, kept.entries.length), kept.entries)

/** Whether the last of what is sent is there already. */
function isIn(kept: RunBody, sent: RunBody): boolean {
  const last = sent.entries.at(-1)?.id
  return last !== undefined && kept.entries.some(({ id }) => id === last)
}

/** The measurement session of a run’s readings, known here alone where they waited to be sent. */
async function roundOf(tx: Transaction, { roundId, entries }: RunBody) {
  const readingId = entries.findLast((entry) => entry.readingId !== undefined)?.readingId
  if (roundId !== undefined || readingId === undefined) return {}
  const [row] = await tx
    .select({ roundId: readings.roundId })
    .from(readings)
    .where(eq(readings.id, readingId))
  return row ?? {}
}
