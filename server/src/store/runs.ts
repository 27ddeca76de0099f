import { newId, type Run, type RunBody } from '@saltline/contract'
import { and, desc, eq, isNull } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { chains, runs } from '../db/schema.ts'
import { write } from '../db/writes.ts'
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

export async function startRun(db: Database, chainId: string, body: RunBody): Promise<Run> {
  await readChain(db, chainId)
  const at = new Date().toISOString()
  const id = newId()
  await write(db, (tx) =>
    tx.insert(runs).values({ id, chainId, revision: 1, body, startedAt: at, changedAt: at }),
  )
  return readRun(db, id)
}

/** Keeps what was done on a run, unless somebody else went on with it meanwhile. */
export async function saveRun(
  db: Database,
  id: string,
  { baseRevision, run }: { baseRevision: number; run: RunBody },
): Promise<Run> {
  await readRun(db, id)
  const { rowsAffected } = await write(db, (tx) =>
    tx
      .update(runs)
      .set({ body: run, revision: baseRevision + 1, changedAt: new Date().toISOString() })
      .where(and(eq(runs.id, id), eq(runs.revision, baseRevision))),
  )
  if (rowsAffected === 0)
    throw new StoreError(
      'conflict',
      'Somebody else went on with this run',
      'Another device has changed it meanwhile. It is shown as it stands now.',
    )
  return readRun(db, id)
}
