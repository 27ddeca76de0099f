/** What is entered in the field: it gets its identity here, and waits where the server does not answer. */
import {
  type AttemptBody,
  type Duty,
  type DutyMarkBody,
  type LineSweepBody,
  newId,
  type Reading,
  type ReadingBody,
  readingSchema,
  type Run,
  type RunBody,
  runSchema,
  type Thing,
  type ThingNoteBody,
} from '@saltline/contract'
import { type ApiError, send } from '../api/client.ts'
import { clockOffset } from '../clock.ts'
import { queryClient } from '../api/queries.ts'
import { outbox, showRun } from './index.ts'
import type { NewEntry } from './outbox.ts'

export interface Entered {
  /** The reading’s own. */
  id: string
  /** What it is called in the outbox. */
  entryId: string
  /** As it is kept; null while it waits. */
  reading: Reading | null
  /** It stays in the outbox, to be corrected. */
  refused: ApiError | null
}

/** @param said what it is, in words */
export function enterReading(chainId: string, body: ReadingBody, said: string): Promise<Entered> {
  const id = newId()
  const path = `/chains/${chainId}/readings/${id}`
  const clockMs = clockOffset() ?? 0
  return entered(id, { id, kind: 'reading', chainId, path, body, said, clockMs })
}

/** Corrects a reading, which may itself still wait: then the correction goes after it. */
export const enterCorrection = (
  chainId: string,
  id: string,
  body: ReadingBody,
  said: string,
): Promise<Entered> =>
  entered(id, { id: newId(), kind: 'correction', chainId, path: `/readings/${id}`, body, said })

async function entered(id: string, entry: NewEntry): Promise<Entered> {
  const sent = await outbox.send(entry)
  const is = { id, entryId: entry.id, reading: null, refused: null }
  if (sent.is === 'refused') return { ...is, refused: sent.error }
  const answer = sent.is === 'taken' ? readingSchema.safeParse(sent.answer) : null
  return { ...is, reading: answer?.data ?? null }
}

/** As `enterReading` and `enterCorrection`, for a page that keeps what was typed itself. */
export async function orThrow(entering: Promise<Entered>): Promise<Entered> {
  const entered = await entering
  if (entered.refused) {
    outbox.discard(entered.entryId)
    throw entered.refused
  }
  return entered
}

const runPath = ({ id, chainId }: Pick<Run, 'id' | 'chainId'>) => `/chains/${chainId}/runs/${id}`

/** A run as it stands here, where a step of it waits. */
export const waitingRun = (runId: string): Run | undefined =>
  outbox
    .getSnapshot()
    .findLast(
      ({ kind, path, refused }) =>
        kind === 'step' && refused === undefined && path.endsWith(`/runs/${runId}`),
    )?.shown as Run | undefined

/** Begins a run; where the server does not answer it is known here alone until it does. */
export function beginRun(chainId: string, body: RunBody): Promise<Run> {
  const now = new Date().toISOString()
  return enterRun(
    { ...body, id: newId(), chainId, revision: 0, startedAt: now, changedAt: now },
    body,
  )
}

/**
 * Keeps what was done on a run.
 *
 * @throws ApiError 409 where another device went on with it
 */
export async function enterRun(run: Run, body: RunBody): Promise<Run> {
  const shown: Run = { ...run, ...body, changedAt: new Date().toISOString() }
  const id = newId()
  const sent = await outbox.send({
    id,
    kind: 'step',
    chainId: run.chainId,
    path: runPath(run),
    body: {
      baseRevision: run.revision,
      run: body,
      ...(run.revision === 0 && { startedAt: run.startedAt }),
    },
    said: `${body.title}, ${body.next} of ${body.steps.length} steps`,
    shown,
  })
  if (sent.is === 'refused') {
    outbox.discard(id)
    throw sent.error
  }
  const kept = sent.is === 'taken' ? runSchema.safeParse(sent.answer).data : undefined
  await showRun(run.id, kept ?? shown)
  void queryClient.invalidateQueries({ queryKey: ['runs', run.chainId] })
  return kept ?? shown
}

export const enterAttempt = (stationId: string, id: string, body: AttemptBody): void =>
  void outbox.send({
    id,
    kind: 'attempt',
    chainId: null,
    path: `/stations/${stationId}/attempts/${id}`,
    body,
    said: `an attempt at ${body.drill}, ${body.points} points`,
  })

/**
 * Says something of a duty or a thing, or keeps a sweep; where the server does not answer, it goes there when it does.
 *
 * @returns whether it waits, and what takes it back
 */
async function enterRemark(
  entry: Omit<NewEntry, 'chainId' | 'shown'> & { chainId?: string },
  deletedAt = entry.path,
): Promise<{ waits: boolean; undo: () => Promise<void> }> {
  const sent = await outbox.send({ chainId: null, ...entry })
  if (sent.is === 'refused') {
    outbox.discard(entry.id)
    throw sent.error
  }
  const undo = async () => {
    if (outbox.waiting(entry.path)) outbox.discard(entry.id)
    else await send('DELETE', deletedAt)
    for (const queryKey of [['log'], ['things']]) await queryClient.invalidateQueries({ queryKey })
  }
  return { waits: sent.is === 'waiting', undo }
}

export function enterMark(duty: Pick<Duty, 'id' | 'title'>, body: DutyMarkBody) {
  const id = newId()
  const said = `“${duty.title}” ${body.kind === 'done' ? 'is done' : 'is put off'}`
  return enterRemark({ id, kind: 'mark', path: `/duties/${duty.id}/marks/${id}`, body, said })
}

export function enterThingNote(thing: Pick<Thing, 'id' | 'mark'>, body: ThingNoteBody) {
  const id = newId()
  const said = `a note on ${thing.mark}: ${body.text}`
  return enterRemark({ id, kind: 'note', path: `/things/${thing.id}/notes/${id}`, body, said })
}

/** @returns what `enterRemark` does, and the sweep’s own id */
export async function enterLineSweep(chainId: string, body: LineSweepBody, id = newId()) {
  const entered = await enterRemark(
    {
      ...{ id, kind: 'sweep', chainId, path: `/chains/${chainId}/line-sweeps/${id}`, body },
      ...{ said: `the sweep ${body.name ?? ''}`.trim(), clockMs: clockOffset() ?? 0 },
    },
    `/line-sweeps/${id}`,
  )
  return { ...entered, id }
}
