/** Unsaved edits in the browser: one a window, taken up where a window has gone. */
import type { ChainState } from '@saltline/contract'
import { beforeEach, describe, expect, test, vi } from 'vitest'
import { type Draft, dropDraft, findDraft, hasDraft, keepDraft } from '../src/editor/drafts.ts'
import type { KeyStore } from '../src/platform/storage.ts'
import { document, state } from './fixtures.ts'

/** Storage that may be closed. */
class Store {
  readonly kept = new Map<string, string>()
  closed = false
  #open() {
    if (this.closed) throw new Error('closed')
  }
  get length() {
    this.#open()
    return this.kept.size
  }
  key(i: number) {
    this.#open()
    return [...this.kept.keys()][i] ?? null
  }
  getItem(key: string) {
    this.#open()
    return this.kept.get(key) ?? null
  }
  setItem(key: string, value: string) {
    this.#open()
    this.kept.set(key, value)
  }
  removeItem(key: string) {
    this.#open()
    this.kept.delete(key)
  }
}

let store: Store
const asStore = () => store as unknown as KeyStore
beforeEach(() => {
  store = new Store()
})

const base: ChainState = state()
const draft = (tab: string, at: number, name = tab): Draft => ({
  base,
  document: { ...document, name },
  key: `save-of-${tab}`,
  tab,
  at,
})
const find = (tab: string, now: number) => findDraft(asStore(), base.id, tab, now)

describe('a draft', () => {
  test('is found by its own window, however young, and is gone when it is dropped', () => {
    expect(keepDraft(asStore(), base.id, draft('one', 1000))).toBe(true)
    expect(find('one', 1000)).toEqual(draft('one', 1000))
    dropDraft(asStore(), base.id, 'one')
    expect(find('one', 1000)).toBeNull()
  })

  test('is kept beside those of other windows and other chains', () => {
    keepDraft(asStore(), base.id, draft('one', 1000))
    keepDraft(asStore(), base.id, draft('two', 1000))
    keepDraft(asStore(), 'other', draft('one', 1000, 'of another chain'))
    expect(find('one', 1000)!.document.name).toBe('one')
    expect(find('two', 1000)!.document.name).toBe('two')
    dropDraft(asStore(), base.id, 'one')
    expect(find('two', 1000)!.document.name).toBe('two')
    expect(findDraft(asStore(), 'other', 'one', 1000)!.document.name).toBe('of another chain')
  })

  test('of a living window is nobody else’s; of one that has gone it is taken up, once', () => {
    keepDraft(asStore(), base.id, draft('gone', 1000))
    expect(find('new', 12_999)).toBeNull()
    const taken = find('new', 13_000)
    expect(taken).toEqual({ ...draft('gone', 1000), tab: 'new', at: 13_000 })
    // It is the new window's own from now on.
    expect(find('new', 13_000)).toEqual(taken)
    expect(find('third', 13_001)).toBeNull()
    expect(store.kept.size).toBe(1)
  })

  test('of several that have gone the newest is taken', () => {
    keepDraft(asStore(), base.id, draft('old', 1000))
    keepDraft(asStore(), base.id, draft('newer', 5000))
    expect(find('new', 60_000)!.document.name).toBe('newer')
  })

  test('that cannot be read is as none', () => {
    store.setItem(`saltline.draft.${base.id}.one`, '{broken')
    expect(find('one', 1000)).toBeNull()
    store.setItem(`saltline.draft.${base.id}.one`, JSON.stringify({ tab: 'one', at: 1 }))
    expect(find('one', 1000)).toBeNull()
  })

  test('from before saves had a name is taken all the same', () => {
    const { key: _, ...older } = draft('one', 1000)
    store.setItem(`saltline.draft.${base.id}`, JSON.stringify(older))
    expect(find('one', 1000)).toMatchObject({ tab: 'one', key: 'draft-without-key' })
  })

  test('in a browser that keeps nothing is not kept, and says so', () => {
    store.closed = true
    expect(keepDraft(asStore(), base.id, draft('one', 1000))).toBe(false)
    expect(find('one', 1000)).toBeNull()
    expect(() => dropDraft(asStore(), base.id, 'one')).not.toThrow()
  })

  test('waits in this browser, whichever window made it', () => {
    vi.stubGlobal('localStorage', { [`saltline.draft.${base.id}.one`]: '{}', other: '' })
    expect(hasDraft(base.id)).toBe(true)
    expect(hasDraft('another')).toBe(false)
    vi.stubGlobal('localStorage', { [`saltline.draft.${base.id}`]: '{}' })
    expect(hasDraft(base.id)).toBe(true)
    vi.stubGlobal('localStorage', undefined)
    expect(hasDraft(base.id)).toBe(false)
    vi.unstubAllGlobals()
  })
})
