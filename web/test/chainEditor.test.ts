import type { ChainState } from '@saltline/contract'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { ChainEditor } from '../src/chain/chainEditor.ts'
import { removeStage, toggleBypass } from '../src/chain/edits.ts'
import { document, state } from './fixtures.ts'

/** Answers like the server, with a door that can be shut and answers that can be held back. */
class FakeServer {
  current: ChainState = state()
  saves: ChainState['document'][] = []
  offline = false
  hold: Promise<void> | null = null

  fetch = async (url: string, init: RequestInit): Promise<Response> => {
    if (this.offline) throw new TypeError('refused')
    await this.hold
    if (init.method === 'GET') return this.json(200, this.current)
    const body = JSON.parse(String(init.body)) as {
      baseRevision: number
      document: ChainState['document']
    }
    if (body.baseRevision !== this.current.revision)
      return this.json(409, {
        type: 'about:blank',
        title: 'Edited elsewhere',
        status: 409,
        theirs: this.current,
        keptAsRevision: 9,
      })
    if (url.endsWith('/undo'))
      this.current = state({ revision: body.baseRevision - 1, canRedo: true })
    else {
      this.saves.push(body.document)
      this.current = state({
        revision: body.baseRevision + 1,
        document: body.document,
        canUndo: true,
      })
    }
    return this.json(200, this.current)
  }

  private json(status: number, body: unknown): Response {
    return new Response(JSON.stringify(body), {
      status,
      headers: { 'content-type': 'application/json' },
    })
  }
}

let server: FakeServer
let storage: Map<string, string>
const drafts = {
  getItem: (key: string) => storage.get(key) ?? null,
  setItem: (key: string, value: string) => void storage.set(key, value),
  removeItem: (key: string) => void storage.delete(key),
}
const open = (tab = 'one') => new ChainEditor(server.current, drafts, tab)

beforeEach(() => {
  vi.useFakeTimers()
  server = new FakeServer()
  storage = new Map()
  vi.stubGlobal('fetch', server.fetch)
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('saving', () => {
  test('an edit shows at once and becomes one revision when it rests', async () => {
    const editor = open()
    editor.edit(removeStage('a'))
    editor.edit(removeStage('b'))
    expect(editor.getSnapshot().document.stages).toHaveLength(1)
    expect(server.saves).toHaveLength(0)
    await vi.advanceTimersByTimeAsync(600)
    expect(server.saves).toHaveLength(1)
    expect(editor.getSnapshot()).toMatchObject({
      revision: 2,
      status: { kind: 'saved' },
      canUndo: true,
    })
    expect(storage.size).toBe(0)
  })

  test('what is typed while a save is under way is saved next, on the new base', async () => {
    const editor = open()
    let release = () => undefined as void
    server.hold = new Promise((done) => (release = done))
    editor.edit(removeStage('a'))
    await vi.advanceTimersByTimeAsync(600)
    editor.edit(removeStage('b'))
    release()
    await vi.advanceTimersByTimeAsync(600)
    expect(server.saves.map((d) => d.stages.length)).toEqual([2, 1])
    expect(editor.getSnapshot()).toMatchObject({ revision: 3, status: { kind: 'saved' } })
  })

  test('two who ask for a flush at once cause one save', async () => {
    const editor = open()
    editor.edit(removeStage('a'))
    await Promise.all([editor.flush(), editor.flush(), editor.flush()])
    expect(server.saves).toHaveLength(1)
    expect(editor.getSnapshot().conflict).toBeNull()
  })

  test('a silent server is asked again, and the edit waits in the browser', async () => {
    const editor = open()
    server.offline = true
    editor.edit(removeStage('a'))
    await vi.advanceTimersByTimeAsync(600)
    expect(editor.getSnapshot().status.kind).toBe('offline')
    expect(storage.size).toBe(1)
    server.offline = false
    await vi.advanceTimersByTimeAsync(3100)
    expect(editor.getSnapshot().status.kind).toBe('saved')
    expect(server.saves).toHaveLength(1)
  })
})

describe('drafts', () => {
  const leaveDraft = (tab: string) => {
    server.offline = true
    open(tab).edit(removeStage('a'))
    server.offline = false
    vi.clearAllTimers()
  }

  test('the same window takes its own up at once and saves it', async () => {
    leaveDraft('one')
    const editor = open('one')
    expect(editor.getSnapshot().document.stages).toHaveLength(2)
    await vi.advanceTimersByTimeAsync(10)
    expect(server.saves).toHaveLength(1)
  })

  test('another window leaves a living draft alone, and takes up an orphan', () => {
    leaveDraft('one')
    expect(open('two').getSnapshot().document).toEqual(document)
    vi.advanceTimersByTime(60_000)
    expect(open('two').getSnapshot().document.stages).toHaveLength(2)
  })

  test('a draft on an old revision is a conflict, not an overwrite', () => {
    leaveDraft('one')
    server.current = state({ revision: 2, document: toggleBypass('b')(document) })
    expect(open('one').getSnapshot().conflict).toMatchObject({ theirs: { revision: 2 } })
  })

  test('rubbish in the browser’s storage is passed over', () => {
    storage.set('saltline.draft.chain', '{"base": 7')
    expect(open().getSnapshot().document).toEqual(document)
  })
})

describe('two writers', () => {
  const meet = async () => {
    const editor = open()
    server.current = state({ revision: 2, document: toggleBypass('b')(document) })
    editor.edit(removeStage('a'))
    await vi.advanceTimersByTimeAsync(600)
    return editor
  }

  test('the second is told and sees both', async () => {
    const { conflict } = (await meet()).getSnapshot()
    expect(conflict!.mine.stages).toHaveLength(2)
    expect(conflict!.theirs.document.stages[1]!.bypassed).toBe(true)
  })

  test('going on with mine saves it on top of theirs', async () => {
    const editor = await meet()
    await editor.resolve('mine')
    expect(editor.getSnapshot()).toMatchObject({ revision: 3, conflict: null })
    expect(server.current.document.stages).toHaveLength(2)
  })

  test('going on with theirs shows theirs', async () => {
    const editor = await meet()
    await editor.resolve('theirs')
    expect(editor.getSnapshot()).toMatchObject({
      revision: 2,
      conflict: null,
      status: { kind: 'saved' },
    })
    expect(editor.getSnapshot().document.stages[1]!.bypassed).toBe(true)
  })

  test('a window without unsaved edits follows the other', async () => {
    const editor = open()
    server.current = state({ revision: 5 })
    await editor.refresh()
    expect(editor.getSnapshot().revision).toBe(5)
  })
})

test('undo saves what is unsaved first, and quick presses wait their turn', async () => {
  server.current = state({ revision: 3 })
  const editor = open()
  editor.edit(removeStage('a'))
  await Promise.all([editor.step('undo'), editor.step('undo')])
  expect(server.saves).toHaveLength(1)
  expect(editor.getSnapshot()).toMatchObject({
    revision: 2,
    conflict: null,
    status: { kind: 'saved' },
  })
})
