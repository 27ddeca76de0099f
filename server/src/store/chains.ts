import {
  type ChainDocument,
  chainDocumentSchema,
  type ChainState,
  migrateChainDocument,
  newId,
  type RevisionSummary,
} from '@saltline/contract'
import { and, desc, eq, isNull, lte, max, sql } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { chainRevisions, chains, record, sweeps } from '../db/schema.ts'
import { type Transaction, write } from '../db/writes.ts'
import { invalid, missing, StoreError } from './errors.ts'

type Reader = Pick<Database, 'select'>

const now = (): string => new Date().toISOString()

/** The chain as it stands. */
export async function readChain(db: Reader, chainId: string): Promise<ChainState> {
  const { revision, stationId } = chains
  const [row] = await db
    .select({
      stationId,
      revision,
      savedAt: chainRevisions.savedAt,
      parent: chainRevisions.parent,
      document: chainRevisions.document,
      epoch: sql<string>`(SELECT ${record.epoch} FROM ${record})`,
      child: newestChild,
    })
    .from(chains)
    .innerJoin(
      chainRevisions,
      and(eq(chainRevisions.chainId, chains.id), eq(chainRevisions.revision, chains.revision)),
    )
    .where(and(eq(chains.id, chainId), isNull(chains.deletedAt)))
  if (!row) throw missing('chain')
  const { parent, child, document, ...rest } = row
  return {
    id: chainId,
    ...rest,
    canUndo: parent !== null,
    canRedo: child !== null,
    document: present(document),
  }
}

/** The edit that undo went back from: the newest made on the revision that is current. */
const newestChild = sql<number | null>`(SELECT max(child.revision) FROM chain_revisions child
  WHERE child.chain_id = chains.id AND child.parent = chains.revision AND NOT child.aside)`

/** A document in the present version, whichever it was stored in. */
const present = (document: ChainDocument) => migrateChainDocument(document) as ChainDocument

/** @throws StoreError where the document ends in a sweep that is not there */
async function checkSweep(db: Reader, { load }: ChainDocument): Promise<void> {
  if (load.kind !== 'antenna') return
  const found = await db
    .select({ id: sweeps.id })
    .from(sweeps)
    .where(and(eq(sweeps.id, load.sweepId), eq(sweeps.antennaId, load.antennaId)))
  if (found.length > 0) return
  const message = `There is no sweep “${load.sweepId}” of an antenna “${load.antennaId}”. Import the antenna first, or give the load as R + jX or SWR.`
  throw invalid(['load', 'sweepId'], message)
}

export async function createChain(
  db: Database,
  stationId: string,
  document: ChainDocument,
  id = newId(),
): Promise<ChainState> {
  return write(db, async (tx) => {
    await insertChain(tx, stationId, document, id)
    return readChain(tx, id)
  })
}

/** The first revision of a chain, in a transaction that makes more. */
export async function insertChain(
  tx: Transaction,
  stationId: string,
  document: ChainDocument,
  id = newId(),
): Promise<void> {
  await checkSweep(tx, document)
  const at = now()
  await tx.insert(chains).values({ id, stationId, revision: 1, createdAt: at })
  await tx.insert(chainRevisions).values({
    chainId: id,
    revision: 1,
    parent: null,
    document,
    summary: 'made',
    savedAt: at,
    aside: false,
  })
}

/** A new revision on the one that stands, in a transaction that makes more; an edit that comes later conflicts with it. */
export async function reviseChain(
  tx: Transaction,
  chainId: string,
  document: ChainDocument,
  summary: string,
): Promise<void> {
  const { revision: parent } = await readChain(tx, chainId)
  const revision = (await newestRevision(tx, chainId)) + 1
  await tx.insert(chainRevisions).values({
    ...{ chainId, revision, parent, document, summary },
    ...{ savedAt: now(), aside: false },
  })
  await tx.update(chains).set({ revision }).where(eq(chains.id, chainId))
}

async function newestRevision(db: Reader, chainId: string): Promise<number> {
  const [row] = await db
    .select({ newest: max(chainRevisions.revision) })
    .from(chainRevisions)
    .where(eq(chainRevisions.chainId, chainId))
  return row?.newest ?? 0
}

/**
 * Keeps an edit as a new revision. Where somebody else's edit came first, the refused one is kept
 * aside as a revision of its own and the answer carries both: nothing is lost, nobody is overrun.
 */
export async function saveChain(
  db: Database,
  chainId: string,
  edit: {
    baseRevision: number
    epoch: string
    document: ChainDocument
    summary: string
    key?: string | undefined
  },
): Promise<ChainState> {
  const outcome = await write(db, async (tx) => {
    const current = await readChain(tx, chainId)
    const known = edit.key === undefined ? null : await savedAs(tx, chainId, edit.key)
    // Its answer was lost on the way: it was kept then, and the chain stands as it does now.
    if (known !== null)
      return known.aside ? { theirs: current, keptAsRevision: known.revision } : current
    const revision = (await newestRevision(tx, chainId)) + 1
    const sameEpoch = edit.epoch === current.epoch
    const aside = !sameEpoch || edit.baseRevision !== current.revision
    await tx.insert(chainRevisions).values({
      chainId,
      revision,
      // In another epoch the number stands for another edit.
      parent: sameEpoch ? edit.baseRevision : null,
      document: edit.document,
      summary: edit.summary,
      savedAt: now(),
      aside,
      saveKey: edit.key ?? null,
    })
    if (aside) return { theirs: current, keptAsRevision: revision }
    await tx.update(chains).set({ revision }).where(eq(chains.id, chainId))
    return readChain(tx, chainId)
  })
  if ('theirs' in outcome) throw conflict(outcome.theirs, outcome.keptAsRevision)
  return outcome
}

/** What a save was kept as, by what its sender called it; null where it has not come yet. */
async function savedAs(
  db: Reader,
  chainId: string,
  key: string,
): Promise<{ revision: number; aside: boolean } | null> {
  const [row] = await db
    .select({ revision: chainRevisions.revision, aside: chainRevisions.aside })
    .from(chainRevisions)
    .where(and(eq(chainRevisions.chainId, chainId), eq(chainRevisions.saveKey, key)))
  return row ?? null
}

/** The revision that was current at a moment, as far as it can be told: the newest saved by then. */
export async function revisionAt(db: Reader, chainId: string, at: string): Promise<number> {
  const [row] = await db
    .select({ revision: max(chainRevisions.revision) })
    .from(chainRevisions)
    .where(
      and(
        eq(chainRevisions.chainId, chainId),
        eq(chainRevisions.aside, false),
        lte(chainRevisions.savedAt, at),
      ),
    )
  return row?.revision ?? 1
}

/** Moves the chain to the revision it was edited from, or forward again. */
export async function stepChain(
  db: Database,
  chainId: string,
  base: { baseRevision: number; epoch: string },
  direction: 'undo' | 'redo',
): Promise<ChainState> {
  return write(db, async (tx) => {
    const current = await readChain(tx, chainId)
    if (current.revision !== base.baseRevision || current.epoch !== base.epoch)
      throw conflict(current)
    const target =
      direction === 'undo'
        ? (await readRevision(tx, chainId, current.revision)).parent
        : (await tx.select({ child: newestChild }).from(chains).where(eq(chains.id, chainId)))[0]
            ?.child
    if (target === null || target === undefined) {
      throw new StoreError(
        'conflict',
        `Nothing to ${direction}`,
        direction === 'undo' ? 'This is how the chain began.' : 'This is the newest edit.',
      )
    }
    const { document } = await readRevision(tx, chainId, target)
    if (!chainDocumentSchema.safeParse(document).success)
      throw new StoreError(
        'conflict',
        `Cannot ${direction}`,
        'The edit before this one is no chain that this version of Salt Line can open.',
      )
    await tx.update(chains).set({ revision: target }).where(eq(chains.id, chainId))
    return readChain(tx, chainId)
  })
}

const conflict = (theirs: ChainState, keptAsRevision?: number): StoreError =>
  new StoreError(
    'conflict',
    'Edited elsewhere',
    'This chain was changed in another window meanwhile.' +
      (keptAsRevision === undefined ? '' : ` Your edit was kept as revision ${keptAsRevision}.`),
    { theirs, ...(keptAsRevision !== undefined && { keptAsRevision }) },
  )

export async function listRevisions(db: Database, chainId: string): Promise<RevisionSummary[]> {
  await readChain(db, chainId)
  return db
    .select({
      revision: chainRevisions.revision,
      parent: chainRevisions.parent,
      summary: chainRevisions.summary,
      savedAt: chainRevisions.savedAt,
      aside: chainRevisions.aside,
    })
    .from(chainRevisions)
    .where(eq(chainRevisions.chainId, chainId))
    .orderBy(desc(chainRevisions.revision))
    .limit(500)
}

export async function readRevision(db: Reader, chainId: string, revision: number) {
  const [row] = await db
    .select()
    .from(chainRevisions)
    .where(and(eq(chainRevisions.chainId, chainId), eq(chainRevisions.revision, revision)))
  if (!row) throw missing('revision')
  return { ...row, document: present(row.document) }
}

export async function setChainDeleted(db: Database, chainId: string, deleted: boolean) {
  const { rowsAffected } = await write(db, (tx) =>
    tx
      .update(chains)
      .set({ deletedAt: deleted ? now() : null })
      .where(eq(chains.id, chainId)),
  )
  if (rowsAffected === 0) throw missing('chain')
}
