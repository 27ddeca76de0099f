/** Where a thing has stood, and from when to when. */
import { type ChainDocument, sameFigures } from '@saltline/contract'
import { and, asc, eq, isNull, min, sql } from 'drizzle-orm'
import type { Database } from '../db/open.ts'
import { chainRevisions, chains, lineSweeps, roundMeans } from '../db/schema.ts'
import { readChain, readRevision } from './chains.ts'
import { endOf, type thingRow } from './things.ts'

/** A stretch of time in one chain, with the chain as it was at its end. */
export interface Stay {
  chainId: string
  stageId: string
  chain: string
  from: string
  to: string | null
  document: ChainDocument
}

type Find = (document: ChainDocument) => string | null

/**
 * Every stretch of time that a thing stood in a chain, deleted ones too, by the line of revisions that each came to.
 *
 * @param needle what a document with it has in its text
 * @param find the stage that it is in a document
 */
async function staysOf(
  db: Database,
  stationId: string,
  needle: string,
  find: Find,
): Promise<Stay[]> {
  const rows = await db
    .select({
      chainId: chainRevisions.chainId,
      revision: chainRevisions.revision,
      parent: chainRevisions.parent,
      savedAt: chainRevisions.savedAt,
      has: sql<number>`instr(${chainRevisions.document}, ${needle}) > 0`,
      current: chains.revision,
      deletedAt: chains.deletedAt,
    })
    .from(chainRevisions)
    .innerJoin(chains, eq(chains.id, chainRevisions.chainId))
    .where(eq(chains.stationId, stationId))
    .orderBy(asc(chains.createdAt), asc(chainRevisions.revision))
  const byChain = new Map<string, typeof rows>()
  for (const row of rows) {
    const own = byChain.get(row.chainId)
    if (own) own.push(row)
    else byChain.set(row.chainId, [row])
  }
  const found: Stay[] = []
  for (const [chainId, revisions] of byChain) {
    const { deletedAt } = revisions[0]!
    for (const { before, first, last, next } of stretches(lineOf(revisions))) {
      const { document } = await readRevision(db, chainId, last.revision)
      const stageId = find(document)
      if (stageId === null) continue
      const always = before === null || (await isSame(db, chainId, stageId, before, first))
      const from = always ? await recordedFrom(db, chainId, first.savedAt) : first.savedAt
      const to = next?.savedAt ?? deletedAt
      found.push({ ...{ chainId, stageId, chain: document.name, from, to }, document })
    }
  }
  return found
}

/** Whether a stage was what it is before it was called a thing. */
async function isSame(
  db: Database,
  chainId: string,
  stageId: string,
  before: Revision,
  first: Revision,
): Promise<boolean> {
  const [was, is] = await Promise.all(
    [before, first].map(async ({ revision }) =>
      (await readRevision(db, chainId, revision)).document.stages.find(({ id }) => id === stageId),
    ),
  )
  return was !== undefined && is !== undefined && sameFigures(was, is)
}

/** The first reading or sweep of a chain, where that came before it was kept here. */
async function recordedFrom(db: Database, chainId: string, savedAt: string): Promise<string> {
  const firsts = await Promise.all([
    db
      .select({ at: min(roundMeans.at) })
      .from(roundMeans)
      .where(eq(roundMeans.chainId, chainId)),
    db
      .select({ at: min(lineSweeps.readAt) })
      .from(lineSweeps)
      .where(and(eq(lineSweeps.chainId, chainId), isNull(lineSweeps.deletedAt))),
  ])
  return firsts.flatMap(([row]) => row?.at ?? []).reduce((a, b) => (b < a ? b : a), savedAt)
}

interface Revision {
  revision: number
  parent: number | null
  savedAt: string
  has: number
  current: number
}

/** From the first to the one that stands: what was undone or kept aside is not among them. */
function lineOf<R extends Revision>(revisions: readonly R[]): R[] {
  const by = new Map(revisions.map((each) => [each.revision, each]))
  const line: R[] = []
  for (
    let at = by.get(revisions[0]!.current);
    at && !line.includes(at);
    at = at.parent === null ? undefined : by.get(at.parent)
  )
    line.push(at)
  return line.reverse()
}

interface Stretch<R> {
  before: R | null
  first: R
  last: R
  next?: R
}

/** Runs of revisions that have it, each with the one before it and the first after it that has it no more. */
function stretches<R extends Revision>(line: readonly R[]): Stretch<R>[] {
  const found: Stretch<R>[] = []
  let open: Stretch<R> | null = null
  line.forEach((revision, i) => {
    if (!revision.has) {
      if (open) open.next = revision
      open = null
    } else if (open) open.last = revision
    else found.push((open = { before: line[i - 1] ?? null, first: revision, last: revision }))
  })
  return found
}

const stageWith =
  (thingId: string): Find =>
  ({ stages }) =>
    stages.find((stage) => stage.thingId === thingId)?.id ?? null

/** Where a thing is and was, by the revisions of this station and the readings of an instrument. */
export async function staysOfThing(
  db: Database,
  { id, stationId, body: { of } }: Awaited<ReturnType<typeof thingRow>>,
): Promise<Stay[]> {
  if (!of) return staysOf(db, stationId, `"thingId":"${id}"`, stageWith(id))
  const key = of.kind === 'gear' ? 'gearId' : 'antennaId'
  const ends = await staysOf(db, stationId, `"${key}":"${of.id}"`, (document) =>
    endOf(document, of),
  )
  return of.kind === 'gear' ? [...ends, ...(await usesOf(db, of.id))] : ends
}

/** Where an instrument was read, from its first reading in a chain to its last. */
async function usesOf(db: Database, instrumentId: string): Promise<Stay[]> {
  const rows = await db.all<{ chainId: string; from: string; to: string }>(sql`
    SELECT chain_id AS chainId, min(read_at) AS "from", max(read_at) AS "to"
    FROM readings WHERE instrument_id = ${instrumentId} AND deleted_at IS NULL GROUP BY chain_id`)
  return Promise.all(
    rows.map(async ({ chainId, from, to }) => {
      const { document } = await readChain(db, chainId)
      return { chainId, stageId: 'meter', chain: document.name, from, to, document }
    }),
  )
}
