import {
  type ChainDocument,
  type ChainState,
  chainDocumentSchema,
  chainStateSchema,
} from '@saltline/contract'
import { z } from 'zod'
import { ApiError, call, OfflineError } from '../api/client.ts'
import { summaryOf } from './describeChange.ts'
import type { Edit } from './edits.ts'

/** How long a figure must rest before it becomes a revision, ms. */
const REST_MS = 500
const RETRY_MS = 3000

export type SaveStatus =
  | { kind: 'saved' }
  | { kind: 'saving' }
  | { kind: 'offline' }
  | { kind: 'refused'; message: string }

/** Two edits that met: what is on this screen, and what another window saved first. */
export interface Conflict {
  mine: ChainDocument
  theirs: ChainState
}

export interface EditorSnapshot {
  document: ChainDocument
  revision: number
  status: SaveStatus
  canUndo: boolean
  canRedo: boolean
  conflict: Conflict | null
}

const draftSchema = z.object({
  base: chainStateSchema,
  document: chainDocumentSchema,
  tab: z.string(),
  at: z.number(),
})

/** A draft that no living window has touched for so long is an orphan, and is taken up, ms. */
const ORPHAN_MS = 4 * RETRY_MS

/** Where unsaved edits survive a reload; closed storage only loses that comfort. */
export interface DraftStore {
  getItem(key: string): string | null
  setItem(key: string, value: string): void
  removeItem(key: string): void
}

/**
 * The chain under the operator's hands: takes edits at once, saves them when they rest, keeps what
 * is not yet saved in the browser, and stops to ask when another window was first.
 */
export class ChainEditor {
  private base: ChainState
  private document: ChainDocument
  private status: SaveStatus = { kind: 'saved' }
  private conflict: Conflict | null = null
  private timer: ReturnType<typeof setTimeout> | undefined
  private saving: Promise<void> | null = null
  private steps: Promise<void> = Promise.resolve()
  private readonly listeners = new Set<() => void>()
  private snapshot: EditorSnapshot

  constructor(
    state: ChainState,
    private readonly drafts: DraftStore,
    /** Which window this is; it survives a reload. */
    private readonly tab: string,
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

  edit(edit: Edit): void {
    const next = edit(this.document)
    if (next === this.document) return
    this.document = next
    this.status = { kind: 'saving' }
    this.keepDraft()
    this.schedule(REST_MS)
    this.emit()
  }

  /** Saves what is not saved yet; resolves when nothing is under way. */
  async flush(init: RequestInit = {}): Promise<void> {
    clearTimeout(this.timer)
    while (this.saving) await this.saving
    if (!this.dirty || this.conflict) return
    this.saving = this.save(this.document, init).finally(() => {
      this.saving = null
    })
    await this.saving
  }

  /** Undo or redo; presses that come faster than the server answers wait their turn. */
  step(direction: 'undo' | 'redo'): Promise<void> {
    this.steps = this.steps.then(() => this.stepOnce(direction))
    return this.steps
  }

  private async stepOnce(direction: 'undo' | 'redo'): Promise<void> {
    await this.flush()
    if (this.dirty || this.conflict) return
    try {
      this.accept(
        await call('POST', `/chains/${this.base.id}/${direction}`, chainStateSchema, {
          baseRevision: this.base.revision,
        }),
      )
    } catch (error) {
      if (error instanceof ApiError && error.problem.theirs) this.accept(error.problem.theirs)
      else if (error instanceof OfflineError) this.status = { kind: 'offline' }
      else if (!(error instanceof ApiError)) throw error
    }
    this.emit()
  }

  /** Looks whether another window changed the chain; takes it over where nothing is unsaved here. */
  async refresh(): Promise<void> {
    if (this.dirty || this.saving || this.conflict) return
    try {
      const state = await call('GET', `/chains/${this.base.id}`, chainStateSchema)
      if (this.dirty || this.saving || state.revision === this.base.revision) return
      this.accept(state)
      this.emit()
    } catch (error) {
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
      this.keepDraft()
    }
    this.emit()
    await this.flush()
  }

  dispose(): void {
    void this.flush({ keepalive: true })
  }

  private get dirty(): boolean {
    return this.document !== this.base.document
  }

  private schedule(ms: number): void {
    clearTimeout(this.timer)
    this.timer = setTimeout(() => void this.flush(), ms)
  }

  private async save(document: ChainDocument, init: RequestInit): Promise<void> {
    this.status = { kind: 'saving' }
    this.emit()
    try {
      const saved = await call(
        'PUT',
        `/chains/${this.base.id}`,
        chainStateSchema,
        {
          baseRevision: this.base.revision,
          document,
          summary: summaryOf(this.base.document, document),
        },
        init,
      )
      // What was typed while the save was under way stays, on the new base.
      if (this.document === document) this.accept(saved)
      else {
        this.base = saved
        this.keepDraft()
        this.schedule(REST_MS)
      }
    } catch (error) {
      this.fail(error)
    }
    this.emit()
  }

  private fail(error: unknown): void {
    if (error instanceof OfflineError) {
      this.status = { kind: 'offline' }
      this.keepDraft()
      this.schedule(RETRY_MS)
    } else if (error instanceof ApiError) {
      const { theirs } = error.problem
      if (theirs) this.conflict = { mine: this.document, theirs }
      else this.status = { kind: 'refused', message: error.message }
    } else throw error
  }

  private accept(state: ChainState): void {
    this.base = state
    this.document = state.document
    this.status = { kind: 'saved' }
    try {
      this.drafts.removeItem(this.draftKey)
    } catch {
      // Closed storage: there was no draft.
    }
  }

  private get draftKey(): string {
    return `saltline.draft.${this.base.id}`
  }

  private keepDraft(): void {
    try {
      this.drafts.setItem(
        this.draftKey,
        JSON.stringify({
          base: this.base,
          document: this.document,
          tab: this.tab,
          at: Date.now(),
        }),
      )
    } catch {
      // Closed or full storage: the edit is still on the screen and on its way to the server.
    }
  }

  /** An edit that a closed window or a stopped server left behind is taken up again. */
  private recoverDraft(): void {
    let draft
    try {
      draft = draftSchema.safeParse(JSON.parse(this.drafts.getItem(this.draftKey) ?? 'null'))
    } catch {
      return
    }
    if (!draft.success) return
    const { base, document, tab, at } = draft.data
    if (tab !== this.tab && Date.now() - at < ORPHAN_MS) return
    if (JSON.stringify(document) === JSON.stringify(this.base.document)) return
    this.document = document
    if (base.revision === this.base.revision) {
      this.status = { kind: 'saving' }
      this.schedule(0)
    } else this.conflict = { mine: document, theirs: this.base }
  }

  private take(): EditorSnapshot {
    return {
      document: this.document,
      revision: this.base.revision,
      status: this.status,
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
