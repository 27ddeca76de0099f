import type { ChainState } from '@saltline/contract'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { ChainEditor } from '../src/editor/chainEditor.ts'
import { removeStage, toggleBypass } from '../src/model/edits.ts'
import { document, state } from './fixtures.ts'

/** Answers like the server, with a door that can be shut and answers that can be held back. */
class FakeServer {
  current: ChainState = state()
  saves: ChainState['document'][] = []
  offline = false
  /** Answers every save with this instead. */
  refuse: { status: number; errors?: { pointer: string; message: string }[] } | null = null
  /** Keeps a save and loses the answer. */
  loseAnswer = false
  keys = new Set<string>()
  hold: Promise<void> | null = null

  fetch = async (url: string, init: RequestInit): Promise<Response> => {
    if (this.offline) throw new TypeError('refused')
    await this.hold
    if (init.method === 'GET') return this.json(200, this.current)
    const body = JSON.parse(String(init.body)) as {
      baseRevision: number
      document: ChainState['document']
      key?: string
    }
    if (this.refuse)
      return this.json(this.refuse.status, {
        type: 'about:blank',
        title: 'No',
        detail: 'No.',
        ...this.refuse,
      })
    if (body.key && this.keys.has(body.key)) return this.json(200, this.current)
    if (body.baseRevision !== this.current.revision)
      return this.json(409, {
        type: 'about:blank',
        title: 'Edited elsewhere',
        status: 409,
        theirs: this.current,
        keptAsRevision: 9,
      })
    if (url.endsWith('/undo'))
      this.current = state({
        revision: body.baseRevision - 1,
        canRedo: true,
        canUndo: body.baseRevision > 2,
      })
    else {
      this.saves.push(body.document)
      if (body.key) this.keys.add(body.key)
      this.current = state({
        revision: body.baseRevision + 1,
        document: body.document,
        canUndo: true,
      })
      if (this.loseAnswer) throw new TypeError('connection reset')
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
/** Whether the browser's storage takes anything. */
let full = false
const drafts = {
  get length() {
    return storage.size
  },
  key: (index: number) => [...storage.keys()][index] ?? null,
  getItem: (key: string) => storage.get(key) ?? null,
  setItem: (key: string, value: string) => {
    if (full) throw new Error('QuotaExceededError')
    storage.set(key, value)
  },
  removeItem: (key: string) => void storage.delete(key),
}
const open = (tab = 'one') => new ChainEditor(server.current, drafts, () => tab)

beforeEach(() => {
  vi.useFakeTimers()
  server = new FakeServer()
  storage = new Map()
  full = false
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
    expect(editor.getSnapshot().status).toMatchObject({ kind: 'waiting', kept: true })
    expect(storage.size).toBe(1)
    server.offline = false
    await vi.advanceTimersByTimeAsync(3100)
    expect(editor.getSnapshot().status.kind).toBe('saved')
    expect(server.saves).toHaveLength(1)
  })

  test('with full storage nobody says that an edit is kept in the browser', async () => {
    full = true
    const editor = open()
    server.offline = true
    editor.edit(removeStage('a'))
    await vi.advanceTimersByTimeAsync(600)
    expect(editor.getSnapshot().status).toMatchObject({ kind: 'waiting', kept: false })
    server.offline = false
    await vi.advanceTimersByTimeAsync(3100)
    expect(editor.getSnapshot().status.kind).toBe('saved')
  })

  test('a server that stumbles is asked again, each time after a longer pause', async () => {
    const editor = open()
    const calls: number[] = []
    vi.stubGlobal('fetch', (url: string, init: RequestInit) => {
      calls.push(Date.now())
      return server.fetch(url, init)
    })
    server.refuse = { status: 503 }
    editor.edit(removeStage('a'))
    await vi.advanceTimersByTimeAsync(16_000)
    const pauses = calls.slice(1).map((at, i) => Math.round((at - calls[i]!) / 1000))
    expect(pauses).toEqual([1, 2, 4, 8])
    server.refuse = null
    await vi.advanceTimersByTimeAsync(17_000)
    expect(editor.getSnapshot().status.kind).toBe('saved')
  })

  test('a save whose answer was lost is no conflict', async () => {
    const editor = open()
    server.loseAnswer = true
    editor.edit(removeStage('a'))
    await vi.advanceTimersByTimeAsync(600)
    expect(editor.getSnapshot().status.kind).toBe('waiting')
    server.loseAnswer = false
    await vi.advanceTimersByTimeAsync(1100)
    expect(server.saves).toHaveLength(1)
    expect(editor.getSnapshot()).toMatchObject({
      revision: 2,
      status: { kind: 'saved' },
      conflict: null,
    })
  })

  test('nothing to undo sends nothing', async () => {
    const editor = open()
    const fetched = vi.fn(server.fetch)
    vi.stubGlobal('fetch', fetched)
    await editor.step('undo')
    await editor.step('redo')
    expect(fetched).not.toHaveBeenCalled()
  })
})

describe('what cannot be', () => {
  const tooLong = (d: ChainState['document']) => ({ ...d, name: 'x'.repeat(81) })

  test('is not taken, says why, and blocks nothing that comes after', async () => {
    const editor = open()
    editor.edit(tooLong)
    expect(editor.getSnapshot()).toMatchObject({
      document: { name: document.name },
      refusedEdit: expect.stringContaining('at most 80 characters') as string,
    })
    editor.edit(removeStage('a'))
    expect(editor.getSnapshot().refusedEdit).toBeNull()
    await vi.advanceTimersByTimeAsync(600)
    expect(server.saves).toHaveLength(1)
  })

  test('by the server’s word alone is named, and put back without losing the rest', async () => {
    const editor = open()
    server.refuse = {
      status: 422,
      errors: [{ pointer: '/document/transmitter/ratedW', message: 'Not that much.' }],
    }
    editor.edit((d) => ({ ...d, transmitter: { ...d.transmitter, ratedW: 999 } }))
    editor.edit(removeStage('a'))
    await vi.advanceTimersByTimeAsync(600)
    expect(editor.getSnapshot().status).toMatchObject({
      kind: 'refused',
      fields: ['/transmitter/ratedW'],
    })
    server.refuse = null
    editor.putBack()
    await vi.advanceTimersByTimeAsync(600)
    expect(editor.getSnapshot().status.kind).toBe('saved')
    expect(server.current.document.transmitter.ratedW).toBe(document.transmitter.ratedW)
    expect(server.current.document.stages).toHaveLength(2)
  })

  test('is undone to what was saved last', async () => {
    const editor = open()
    server.refuse = { status: 422 }
    editor.edit(removeStage('a'))
    await vi.advanceTimersByTimeAsync(600)
    await editor.step('undo')
    expect(editor.getSnapshot()).toMatchObject({ document, status: { kind: 'saved' } })
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

  test('a draft on an old revision is a conflict, not an overwrite', async () => {
    leaveDraft('one')
    server.current = state({ revision: 2, document: toggleBypass('b')(document) })
    const editor = open('one')
    await vi.advanceTimersByTimeAsync(10)
    expect(editor.getSnapshot().conflict).toMatchObject({ theirs: { revision: 2 } })
  })

  test('two windows keep a draft each, and neither is lost', async () => {
    server.offline = true
    open('one').edit(removeStage('a'))
    open('two').edit(removeStage('b'))
    vi.clearAllTimers()
    server.offline = false
    expect(storage.size).toBe(2)
    expect(
      open('one')
        .getSnapshot()
        .document.stages.map(({ id }) => id),
    ).not.toContain('a')
    expect(
      open('two')
        .getSnapshot()
        .document.stages.map(({ id }) => id),
    ).not.toContain('b')
  })

  test('of a window that was closed after its save arrived is no conflict', async () => {
    server.loseAnswer = true
    const first = open('one')
    first.edit(removeStage('a'))
    await vi.advanceTimersByTimeAsync(600)
    vi.clearAllTimers()
    server.loseAnswer = false
    // The server tidied the document: it is not letter for letter what was sent.
    server.current = {
      ...server.current,
      document: { ...server.current.document, note: 'tidied' },
    }
    const editor = open('one')
    await vi.advanceTimersByTimeAsync(10)
    expect(editor.getSnapshot()).toMatchObject({ conflict: null, status: { kind: 'saved' } })
    expect(server.saves).toHaveLength(1)
  })

  test('a large document is not sent as the window closes, but kept for the next time', async () => {
    const editor = open('one')
    const fetched = vi.fn(server.fetch)
    vi.stubGlobal('fetch', fetched)
    const note = 'n'.repeat(1900)
    editor.edit((d) => ({
      ...d,
      stages: Array.from({ length: 39 }, (_, i) => ({ ...d.stages[0]!, id: `s${i}`, note })),
    }))
    editor.leave()
    expect(storage.size).toBe(1)
    expect(fetched.mock.calls.every(([, init]) => !init.keepalive)).toBe(true)
    vi.clearAllTimers()
    const small = open('two')
    small.edit(removeStage('a'))
    fetched.mockClear()
    small.leave()
    await vi.advanceTimersByTimeAsync(10)
    expect(fetched.mock.calls.some(([, init]) => init.keepalive)).toBe(true)
  })

  test('a save that is on its way outlives its window', async () => {
    const editor = open('one')
    const fetched = vi.fn(server.fetch)
    vi.stubGlobal('fetch', fetched)
    editor.edit(removeStage('a'))
    // The edit has rested: the save is begun before anybody leaves.
    await vi.advanceTimersByTimeAsync(600)
    expect(fetched.mock.calls.map(([, init]) => init.keepalive)).toEqual([true])
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

test('an undo is not taken back by an answer that was read before it', async () => {
  server.current = state({ revision: 3, canUndo: true })
  const editor = open()
  const readBefore = server.current
  let answer = (_: Response): void => undefined
  const held = new Promise<Response>((resolve) => (answer = resolve))
  const asked = vi.fn(server.fetch).mockReturnValueOnce(held)
  vi.stubGlobal('fetch', asked)
  const looked = editor.refresh()
  await editor.step('undo')
  answer(Response.json(readBefore))
  await looked
  expect(editor.getSnapshot().revision).toBe(2)
  // It looked again: another window may have saved after the undo.
  expect(asked).toHaveBeenCalledTimes(3)
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
