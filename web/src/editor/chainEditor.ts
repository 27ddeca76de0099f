import { same } from '../model/same.ts'
import {
  type ChainDocument,
  type ChainState,
  chainDocumentSchema,
  newId,
  type Problem,
} from '@saltline/contract'
import { ApiError, call, keepSeen, OfflineError } from '../platform/api/client.ts'
import { errorText } from '../platform/errorText.ts'
import { summaryOf } from '../model/describeChange.ts'
import { dropDraft, findDraft, keepDraft } from './drafts.ts'
import type { Edit } from '../model/edits.ts'
import { putBack } from '../model/putBack.ts'
import { noteSave } from '../platform/api/saves.ts'
import type { KeyStore } from '../platform/storage.ts'

/** How long a figure must rest before it becomes a revision, ms. */
const REST_MS = 500
/** A save that failed is tried again after this, then after twice as long, and so on, ms. */
const FIRST_RETRY_MS = 1000
const LAST_RETRY_MS = 60_000
/** What a browser goes on sending when its page is closed, with something to spare, bytes. */
const KEEPALIVE_BYTES = 60_000

export type SaveStatus =
  | { kind: 'saved' }
  | { kind: 'saving' }
  /** The server does not answer, or cannot write; it is tried again. */
  | { kind: 'waiting'; message: string; kept: boolean }
  /** The server refused the document; nothing more is sent until that is put right. */
  | { kind: 'refused'; message: string; fields: readonly string[] }

const SAVED: SaveStatus = { kind: 'saved' }
/** The same each time: nothing is drawn anew for another keystroke. */
const SAVING: SaveStatus = { kind: 'saving' }

/** Two edits that met: what is on this screen, and what another window saved first. */
export interface Conflict {
  mine: ChainDocument
  theirs: ChainState
}

export interface EditorSnapshot {
  document: ChainDocument
  revision: number
  status: SaveStatus
  /** Why the last edit was not taken; null once another one was. */
  refusedEdit: string | null
  canUndo: boolean
  canRedo: boolean
  conflict: Conflict | null
}

/**
 * The chain under the operator's hands: takes edits at once, saves them when they rest, keeps what
 * is not yet saved in the browser, and stops to ask when another window was first.
 */
export class ChainEditor {
  private base: ChainState
  private document: ChainDocument
  /** What the next save is called; another one for every document that is sent. */
  private key = newId()
  private keyOf: ChainDocument | null = null
  private status: SaveStatus = SAVED
  private refusedEdit: string | null = null
  private conflict: Conflict | null = null
  private timer: ReturnType<typeof setTimeout> | undefined
  private retryMs = FIRST_RETRY_MS
  private kept = true
  private saving: Promise<void> | null = null
  private steps: Promise<void> = Promise.resolve()
  private readonly listeners = new Set<() => void>()
  private snapshot: EditorSnapshot

  constructor(
    state: ChainState,
    private readonly drafts: KeyStore,
    /** Which window this is; it survives a reload. */
    private readonly tab: () => string,
  ) {
    this.base = state
    this.document = state.document
    this.recoverDraft()
    this.snapshot = this.take()
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  getSnapshot = (): EditorSnapshot => this.snapshot

  /** Takes an edit; one that no chain can be is not taken, and `refusedEdit` says why. */
  edit(edit: Edit): void {
    const next = edit(this.document)
    if (next === this.document) return
    this.refusedEdit = whyNot(this.document, next)
    if (this.refusedEdit === null) {
      this.document = next
      this.status = SAVING
      this.retryMs = FIRST_RETRY_MS
      this.keepDraft()
      this.schedule(REST_MS)
    }
    this.emit()
  }

  /** Puts the fields that the server refused back to what was saved last; all other edits stay. */
  putBack(): void {
    if (this.status.kind !== 'refused') return
    const { fields } = this.status
    const mended = putBack(this.document, this.base.document, fields)
    this.document = mended
    if (!this.dirty) return this.settle(this.base)
    this.status = SAVING
    this.keepDraft()
    this.schedule(0)
    this.emit()
  }

  /** Saves what is not saved yet; resolves when nothing is under way. */
  async flush(): Promise<void> {
    clearTimeout(this.timer)
    while (this.saving) await this.saving
    if (!this.dirty || this.conflict) return
    this.saving = this.save(this.document).finally(() => {
      this.saving = null
    })
    noteSave(this.base.id, this.saving)
    await this.saving
  }

  /** Undo or redo; presses that come faster than the server answers wait their turn. */
  step(direction: 'undo' | 'redo'): Promise<void> {
    this.steps = this.steps.then(() => this.stepOnce(direction))
    return this.steps
  }

  private async stepOnce(direction: 'undo' | 'redo'): Promise<void> {
    // What the server refuses can still be taken back: to what it saved last.
    if (direction === 'undo' && this.status.kind === 'refused') return this.settle(this.base)
    await this.flush()
    if (this.dirty || this.conflict) return
    if (!(direction === 'undo' ? this.base.canUndo : this.base.canRedo)) return
    try {
      this.accept(
        await call(
          direction === 'undo' ? 'POST /chains/:chainId/undo' : 'POST /chains/:chainId/redo',
          {
            params: { chainId: this.base.id },
            body: { baseRevision: this.base.revision, epoch: this.base.epoch },
          },
        ),
      )
    } catch (error) {
      if (error instanceof ApiError && error.problem.theirs) this.accept(error.problem.theirs)
      else this.refusedEdit = errorText(error)
    }
    this.emit()
  }

  /** Looks whether another window changed the chain; takes it over where nothing is unsaved here. */
  async refresh(): Promise<void> {
    if (this.dirty || this.saving || this.conflict) return
    const { base } = this
    try {
      const state = await call('GET /chains/:chainId', {
        params: { chainId: this.base.id },
        init: {
          cache: 'no-store',
        },
      })
      // Read before an undo or a save that was answered meanwhile: it may be older than what is shown.
      if (this.base !== base) return await this.refresh()
      if (this.dirty || this.saving || state.revision === base.revision) return
      this.accept(state)
      this.emit()
    } catch (error) {
      // Nobody asked for it: a server that is away is told of when something is to be saved.
      if (!(error instanceof OfflineError) && !(error instanceof ApiError)) throw error
    }
  }

  /** Ends a conflict with one of the two; the other stays among the revisions. */
  async resolve(choice: 'mine' | 'theirs'): Promise<void> {
    if (!this.conflict) return
    const { mine, theirs } = this.conflict
    this.conflict = null
    this.accept(theirs)
    if (choice === 'mine') {
      this.document = mine
      // Sent again on another revision it is another save.
      this.keyOf = null
      this.keepDraft()
    }
    this.emit()
    await this.flush()
  }

  /** The page of this chain is left, the window stays. */
  dispose(): void {
    void this.flush()
  }

  /**
   * The window itself may be closed: a small document is sent on its way as it closes. A large one stays
   * in the browser, and is taken up when Salt Line is opened again.
   */
  leave(): void {
    if (!this.dirty) return
    this.keepDraft()
    void this.flush()
  }

  private get dirty(): boolean {
    return this.document !== this.base.document
  }

  private schedule(ms: number): void {
    clearTimeout(this.timer)
    this.timer = setTimeout(() => void this.flush(), ms)
  }

  private async save(document: ChainDocument): Promise<void> {
    this.status = SAVING
    this.nameSave(document)
    this.emit()
    try {
      const saved = await call('PUT /chains/:chainId', {
        params: { chainId: this.base.id },
        body: {
          baseRevision: this.base.revision,
          epoch: this.base.epoch,
          document,
          summary: summaryOf(this.base.document, document),
          key: this.key,
        },
        init: // The window may be left while it is on its way.
          { keepalive: sizeOf(document) < KEEPALIVE_BYTES },
      })
      this.retryMs = FIRST_RETRY_MS
      // What was typed while the save was under way stays, on the new base.
      if (this.document === document) this.accept(asSent(saved, document))
      else {
        this.base = saved
        keepSeen(`/chains/${saved.id}`, saved)
        this.keepDraft()
        this.schedule(REST_MS)
      }
    } catch (error) {
      this.fail(error)
    }
    this.emit()
  }

  /** The same document keeps its name however often it is sent. */
  private nameSave(document: ChainDocument): void {
    if (this.keyOf === document) return
    this.keyOf = document
    this.key = newId()
    this.keepDraft()
  }

  private fail(error: unknown): void {
    if (error instanceof ApiError && error.problem.theirs) {
      this.conflict = { mine: this.document, theirs: error.problem.theirs }
      return
    }
    if (error instanceof ApiError && error.problem.status < 500 && error.problem.status !== 429) {
      this.status = {
        kind: 'refused',
        message: errorText(error),
        fields: fieldsOf(error.problem),
      }
      return
    }
    if (!(error instanceof OfflineError || error instanceof ApiError)) throw error
    this.keepDraft()
    this.status = { kind: 'waiting', message: errorText(error), kept: this.kept }
    this.schedule(this.retryMs)
    this.retryMs = Math.min(LAST_RETRY_MS, this.retryMs * 2)
  }

  /** Gives up what is not saved, for what is. */
  private settle(state: ChainState): void {
    clearTimeout(this.timer)
    this.accept(state)
    this.emit()
  }

  private accept(state: ChainState): void {
    this.base = state
    keepSeen(`/chains/${state.id}`, state)
    this.document = state.document
    this.status = SAVED
    dropDraft(this.drafts, this.base.id, this.tab())
    this.kept = true
  }

  private keepDraft(): void {
    const { base, document, key } = this
    const draft = { base, document, key, tab: this.tab(), at: Date.now() }
    this.kept = keepDraft(this.drafts, base.id, draft)
  }

  /**
   * An edit that a closed window or a stopped server left behind is taken up again. It is sent under the
   * name it had: if the server kept it and only its answer was lost, that is no conflict.
   */
  private recoverDraft(): void {
    const draft = findDraft(this.drafts, this.base.id, this.tab(), Date.now())
    if (!draft) return
    const { base, document, key } = draft
    if (same(document, this.base.document)) return dropDraft(this.drafts, this.base.id, this.tab())
    const { revision, epoch } = base
    this.base = { ...this.base, revision, epoch, document: base.document }
    this.document = document
    this.key = key
    this.keyOf = document
    this.status = SAVING
    this.schedule(0)
  }

  private take(): EditorSnapshot {
    return {
      document: this.document,
      revision: this.base.revision,
      status: this.status,
      refusedEdit: this.refusedEdit,
      canUndo: this.base.canUndo || this.dirty,
      canRedo: this.base.canRedo && !this.dirty,
      conflict: this.conflict,
    }
  }

  private emit(): void {
    this.snapshot = this.take()
    for (const listener of this.listeners) listener()
  }
}

/** What came back as it was sent: the same object, so that nothing is worked out anew for having been saved. */
const asSent = (saved: ChainState, document: ChainDocument): ChainState =>
  same(saved.document, document) ? { ...saved, document } : saved

const sizeOf = (document: ChainDocument): number =>
  new TextEncoder().encode(JSON.stringify(document)).length

/** Why a document cannot be; null where it can, or where nothing is worse than it was. */
function whyNot(before: ChainDocument, next: ChainDocument): string | null {
  const parsed = chainDocumentSchema.safeParse(next)
  if (parsed.success) return null
  const known = new Set(
    chainDocumentSchema.safeParse(before).error?.issues.map(({ message }) => message),
  )
  return parsed.error.issues.find(({ message }) => !known.has(message))?.message ?? null
}

/** The document's own fields among those that a refusal points at. */
const fieldsOf = ({ errors = [] }: Problem): string[] =>
  errors.flatMap(({ pointer }) =>
    pointer.startsWith('/document') ? [pointer.slice('/document'.length)] : [],
  )
