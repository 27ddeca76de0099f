import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { ApiError, OfflineError } from '../src/platform/api/client.ts'
import { type NewEntry, Outbox } from '../src/platform/outbox/outbox.ts'
import type { KeyStore } from '../src/platform/storage.ts'

class Store implements KeyStore {
  readonly all = new Map<string, string>()
  full = false
  get length() {
    return this.all.size
  }
  key = (i: number) => [...this.all.keys()][i] ?? null
  getItem = (key: string) => this.all.get(key) ?? null
  setItem = (key: string, value: string) => {
    if (this.full) throw new Error('full')
    this.all.set(key, value)
  }
  removeItem = (key: string) => void this.all.delete(key)
}

const entry = (id: string, change: Partial<NewEntry> = {}): NewEntry => ({
  id,
  kind: 'reading',
  chainId: 'c',
  path: `/chains/c/readings/${id}`,
  body: { forwardW: 40 },
  said: `reading ${id}`,
  ...change,
})
const refusal = (status: number) => new ApiError({ type: 'about:blank', title: 'No.', status })

let store: Store
/** What the server does with each request, in turn; it takes what nothing is said of. */
let does: (() => Promise<unknown>)[]
let seen: string[]
let late: string[]

function open(): Outbox {
  return new Outbox(
    store,
    (path) => {
      seen.push(path.split('/').at(-1)!)
      return (does.shift() ?? (() => Promise.resolve({ ok: true })))()
    },
    { late: ({ id }) => late.push(id), taken: () => undefined },
  )
}
const down = () => Promise.reject(new OfflineError())

afterEach(() => void vi.useRealTimers())
beforeEach(() => {
  vi.useFakeTimers()
  store = new Store()
  does = []
  seen = []
  late = []
})

describe('the outbox', () => {
  test('sends at once where the server answers, and keeps nothing', async () => {
    const box = open()
    expect(await box.send(entry('a'))).toEqual({ is: 'taken', answer: { ok: true } })
    expect(box.getSnapshot()).toEqual([])
    expect(store.length).toBe(0)
    expect(late).toEqual([])
  })

  test('what waits is sent in order when the server is back, and each once', async () => {
    const box = open()
    does = [down, down]
    expect(await box.send(entry('a'))).toEqual({ is: 'waiting' })
    expect(await box.send(entry('b'))).toEqual({ is: 'waiting' })
    expect(box.getSnapshot().map(({ id }) => id)).toEqual(['a', 'b'])
    await vi.advanceTimersByTimeAsync(60_000)
    expect(seen).toEqual(['a', 'a', 'a', 'b'])
    expect(late).toEqual(['a', 'b'])
    expect(box.getSnapshot()).toEqual([])
  })

  test('it waits over a reload, in the order of entering', async () => {
    const before = open()
    does = [down, down, down]
    await before.send(entry('a'))
    await before.send(entry('b'))
    await before.send(entry('c'))
    vi.clearAllTimers()
    seen = []
    const after = open()
    expect(after.getSnapshot().map(({ said }) => said)).toEqual([
      'reading a',
      'reading b',
      'reading c',
    ])
    await after.wake()
    expect(seen).toEqual(['a', 'b', 'c'])
    expect(store.length).toBe(0)
  })

  test('a later one for the same address takes the place of one that was not sent', async () => {
    const box = open()
    does = [down, down, down]
    const step = (id: string) => entry(id, { kind: 'step', path: '/chains/c/runs/r', body: id })
    await box.send(step('s1'))
    await box.send(entry('a'))
    await box.send(step('s2'))
    expect(box.getSnapshot().map(({ id }) => id)).toEqual(['a', 's2'])
    expect(box.waiting('/chains/c/runs/r')?.body).toBe('s2')
  })

  test('a refused one stays with its reason, and does not hold up the others', async () => {
    const box = open()
    does = [() => Promise.reject(refusal(422))]
    const [a, b] = await Promise.all([box.send(entry('a')), box.send(entry('b'))])
    expect([a.is, b.is]).toEqual(['refused', 'taken'])
    expect(box.getSnapshot()).toMatchObject([{ id: 'a', refused: 'No.' }])
    expect(open().getSnapshot()).toMatchObject([{ id: 'a', refused: 'No.' }])
    box.again('a')
    await vi.advanceTimersByTimeAsync(10)
    expect(box.getSnapshot()).toEqual([])
  })

  test.each([401, 421, 429, 502, 503])('%s is no refusal: it waits', async (status) => {
    const box = open()
    does = [() => Promise.reject(refusal(status))]
    expect((await box.send(entry('a'))).is).toBe('waiting')
    expect(box.getSnapshot()[0]!.refused).toBeUndefined()
    box.discard('a')
  })

  test('nobody waits long for an answer that does not come; the entry is taken all the same', async () => {
    const box = open()
    let answer!: (value: unknown) => void
    does = [() => new Promise((done) => (answer = done))]
    const sent = box.send(entry('a'))
    await vi.advanceTimersByTimeAsync(4000)
    expect(await sent).toEqual({ is: 'waiting' })
    answer({})
    await vi.advanceTimersByTimeAsync(0)
    expect(late).toEqual(['a'])
    expect(box.getSnapshot()).toEqual([])
  })

  test('what is discarded under way does not come back when it is refused', async () => {
    const box = open()
    let refuse!: () => void
    does = [() => new Promise((_, no) => (refuse = () => no(refusal(404))))]
    const sent = box.send(entry('a'))
    box.discard('a')
    refuse()
    expect((await sent).is).toBe('refused')
    expect(box.getSnapshot()).toEqual([])
  })

  test('storage that is full is said; the entry waits in the window', async () => {
    const box = open()
    store.full = true
    does = [down]
    await box.send(entry('a'))
    expect(box.kept).toBe(false)
    expect(box.getSnapshot()).toHaveLength(1)
    store.full = false
    await vi.advanceTimersByTimeAsync(2000)
    expect([box.kept, box.getSnapshot()]).toEqual([true, []])
  })

  test('what another window has sent is not sent again', async () => {
    const one = open()
    const two = open()
    does = [down]
    await one.send(entry('a'))
    two.look()
    expect(two.getSnapshot()).toHaveLength(1)
    await two.wake()
    seen = []
    await one.wake()
    expect(seen).toEqual([])
    expect(one.getSnapshot()).toEqual([])
  })

  test('rubbish in storage is passed over', () => {
    store.all.set('saltline.outbox.x', '{"id":')
    store.all.set('saltline.outbox.y', '{"id":"y"}')
    expect(open().getSnapshot()).toEqual([])
  })
})

describe('a clock that was wrong', () => {
  const HOURS = 3_600_000
  const dated = (clockMs: number) =>
    entry('a', { body: { forwardW: 40, readAt: '2026-03-01T09:00:00.000Z' }, clockMs })
  const openWith = (clock: () => Promise<number | null>, sent: unknown[]) =>
    new Outbox(
      store,
      (_path, body) => {
        sent.push(body)
        return Promise.resolve({})
      },
      { late: () => undefined, taken: () => undefined },
      clock,
    )

  test('holds a reading back, which is then sent corrected, or as it is', async () => {
    for (const corrected of [true, false]) {
      store = new Store()
      const sent: { readAt: string }[] = []
      const box = openWith(() => Promise.resolve(5 * HOURS), sent)
      await box.send(dated(0))
      expect(sent).toEqual([])
      const [held] = box.getSnapshot()
      expect(held).toMatchObject({ shiftMs: 5 * HOURS })
      expect(held!.refused).toContain('5 h 0 min behind')
      box.dated('a', corrected)
      await vi.waitFor(() => expect(sent).toHaveLength(1))
      expect(sent[0]!.readAt).toBe(
        corrected ? '2026-03-01T14:00:00.000Z' : '2026-03-01T09:00:00.000Z',
      )
      expect(box.getSnapshot()).toEqual([])
    }
  })

  test('that was known when it was entered, or is off by a minute, holds nothing back', async () => {
    for (const [now, then] of [
      [5 * HOURS, 5 * HOURS],
      [0, 60_000],
    ] as const) {
      store = new Store()
      const sent: unknown[] = []
      expect((await openWith(() => Promise.resolve(now), sent).send(dated(then))).is).toBe('taken')
      expect(sent).toHaveLength(1)
    }
  })

  test('is not guessed while nobody answers: it waits', async () => {
    const sent: unknown[] = []
    const box = openWith(() => Promise.resolve(null), sent)
    expect((await box.send(dated(0))).is).toBe('waiting')
    expect(sent).toEqual([])
    expect(box.waiting('/chains/c/readings/a')).toBeDefined()
  })
})
