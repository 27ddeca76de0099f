/** What was entered and is not yet taken by the server: kept in the browser, sent in order, taken once. */
import { z } from 'zod'
import { ApiError } from '../api/client.ts'
import { errorText } from '../errorText.ts'
import { type KeyStore, keysOf } from '../storage.ts'

const entrySchema = z.object({
  id: z.string(),
  /** The order of entering. */
  n: z.number(),
  /** When it was entered, ms. */
  at: z.number(),
  kind: z.enum(['reading', 'correction', 'step', 'attempt', 'mark', 'note', 'sweep']),
  chainId: z.string().nullable(),
  /** It is put there; sent again it changes nothing. */
  path: z.string(),
  body: z.unknown(),
  /** What it is, in words. */
  said: z.string(),
  /** What its page shows until it is taken. */
  shown: z.unknown().optional(),
  /** How much later it was by the server’s clock when it was entered, as far as was known, ms. */
  clockMs: z.number().optional(),
  /** What its date is to be corrected by, ms: this device’s clock was wrong, and it waits for a word. */
  shiftMs: z.number().optional(),
  /** Why the server did not take it. */
  refused: z.string().optional(),
})
/** One thing that waits. */
export type Entry = z.infer<typeof entrySchema>
export type NewEntry = Omit<Entry, 'n' | 'at' | 'refused' | 'shiftMs'>

/** What became of an entry. */
export type Sent =
  | { is: 'taken'; answer: unknown }
  /** The server does not answer: it is sent when it does. */
  | { is: 'waiting' }
  | { is: 'refused'; error: ApiError }

/** A clock that is further off makes a date doubtful, ms. */
const DOUBT_MS = 120_000

const isDated = (body: unknown): boolean =>
  typeof body === 'object' && body !== null && 'readAt' in body

function wrongClock(shiftMs: number): string {
  const minutes = Math.round(Math.abs(shiftMs) / 60_000)
  const [days, hours] = [Math.floor(minutes / 1440), Math.floor((minutes % 1440) / 60)]
  const long =
    days > 0
      ? `${days} d ${hours} h`
      : hours > 0
        ? `${hours} h ${minutes % 60} min`
        : `${minutes} min`
  return `this device’s clock was ${long} ${shiftMs > 0 ? 'behind' : 'ahead of'} the server’s when it was entered.`
}

const PREFIX = 'saltline.outbox.'
/** After this the caller is told that the entry waits; the request goes on, ms. */
const ANSWER_MS = 4000
/** The server is asked again after this, then after twice as long, and so on, ms. */
const FIRST_RETRY_MS = 1000
const LAST_RETRY_MS = 30_000

interface Watch {
  /** Taken after its sender had been told that it waits. */
  late: (entry: Entry) => void
  taken: (entry: Entry, answer: unknown) => void
}

export class Outbox {
  private entries: readonly Entry[] = []
  /** Those of them that do not wait for their first answer any more. */
  private shown: readonly Entry[] = []
  /** Those that the browser's storage did not take: they last as long as the window. */
  private readonly unkept = new Map<string, Entry>()
  private readonly waitingFor = new Map<string, (sent: Sent) => void>()
  private readonly listeners = new Set<() => void>()
  private pumping = false
  private timer: ReturnType<typeof setTimeout> | undefined
  private retryMs = FIRST_RETRY_MS
  private last = 0

  constructor(
    private readonly store: KeyStore,
    private readonly put: (path: string, body: unknown) => Promise<unknown>,
    private readonly watch: Watch,
    /** How much later it is by the server’s clock, ms; null where nobody answers. */
    private readonly clock: () => Promise<number | null> = () => Promise.resolve(0),
  ) {
    this.look()
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  /** What waits or was refused, in the order of entering; not what has only just been sent. */
  getSnapshot = (): readonly Entry[] => this.shown

  /** False where an entry would be lost with the window. */
  get kept(): boolean {
    return this.unkept.size === 0
  }

  /** The newest entry for an address that is still to be sent. */
  waiting(path: string): Entry | undefined {
    return this.entries.findLast((entry) => entry.path === path && entry.refused === undefined)
  }

  /**
   * Sends an entry after all that wait. A later one for the same address takes the place of one that has not been
   * sent: it holds all that the earlier one did.
   *
   * @returns what became of it, or that it waits where no answer comes soon
   */
  send(entry: NewEntry): Promise<Sent> {
    const before = this.waiting(entry.path)
    this.last = Math.max(this.last + 1, ...this.entries.map(({ n }) => n + 1))
    this.write({ ...entry, n: this.last, at: Date.now() })
    if (before) this.erase(before.id)
    const sent = new Promise<Sent>((done) => this.waitingFor.set(entry.id, done))
    this.look()
    setTimeout(() => this.settle(entry.id, { is: 'waiting' }), ANSWER_MS)
    void this.wake()
    return sent
  }

  /** Sends a refused one again, after all that wait. */
  again(id: string): void {
    const entry = this.entries.find((own) => own.id === id)
    if (!entry) return
    const { refused: _refused, ...rest } = entry
    this.write(rest)
    this.look()
    void this.wake()
  }

  /** Sends one whose date is in doubt: corrected by the server’s clock, or as it is. */
  dated(id: string, corrected: boolean): void {
    const entry = this.entries.find((own) => own.id === id)
    if (!entry) return
    const { refused: _refused, shiftMs = 0, clockMs: _clock, ...rest } = entry
    const body = rest.body as { readAt: string }
    const readAt = new Date(Date.parse(body.readAt) + shiftMs).toISOString()
    this.write(corrected ? { ...rest, body: { ...body, readAt } } : rest)
    this.look()
    void this.wake()
  }

  discard(id: string): void {
    this.erase(id)
    this.look()
  }

  /** Sends what waits, now. */
  async wake(): Promise<void> {
    if (this.pumping) return
    this.pumping = true
    clearTimeout(this.timer)
    try {
      for (;;) {
        this.look()
        const entry = this.entries.find(({ refused }) => refused === undefined)
        if (!entry) return
        if (!(await this.deliver(entry))) return this.retryLater()
        this.retryMs = FIRST_RETRY_MS
      }
    } finally {
      this.pumping = false
    }
  }

  /** Reads again what is kept: another window may have sent some of it. */
  look = (): void => {
    const kept = keysOf(this.store)
      .filter((key) => key.startsWith(PREFIX))
      .flatMap((key) => read(this.store.getItem(key)))
    const all = [...kept, ...this.unkept.values()].sort((a, b) => a.n - b.n || a.at - b.at)
    this.entries = all
    const shown = all.filter(({ id }) => !this.waitingFor.has(id))
    if (JSON.stringify(shown) === JSON.stringify(this.shown)) return
    this.shown = shown
    for (const listener of this.listeners) listener()
  }

  /** @returns whether the next one may be sent */
  private async deliver(entry: Entry): Promise<boolean> {
    if (entry.clockMs !== undefined && isDated(entry.body)) {
      const now = await this.clock()
      if (now === null) return false
      const shiftMs = now - entry.clockMs
      if (Math.abs(shiftMs) >= DOUBT_MS) {
        this.write({ ...entry, shiftMs, refused: wrongClock(shiftMs) })
        this.settle(entry.id, { is: 'waiting' })
        return true
      }
    }
    try {
      const answer = await this.put(entry.path, entry.body)
      this.discard(entry.id)
      this.watch.taken(entry, answer)
      if (!this.settle(entry.id, { is: 'taken', answer })) this.watch.late(entry)
      return true
    } catch (error) {
      if (!isRefusal(error)) return false
      // It may have been taken back, or replaced, while it was under way.
      if (this.entries.some(({ id }) => id === entry.id))
        this.write({ ...entry, refused: errorText(error) })
      this.settle(entry.id, { is: 'refused', error })
      return true
    }
  }

  private retryLater(): void {
    for (const id of [...this.waitingFor.keys()]) this.settle(id, { is: 'waiting' })
    this.timer = setTimeout(() => void this.wake(), this.retryMs)
    this.retryMs = Math.min(LAST_RETRY_MS, this.retryMs * 2)
  }

  private settle(id: string, sent: Sent): boolean {
    const tell = this.waitingFor.get(id)
    this.waitingFor.delete(id)
    this.look()
    tell?.(sent)
    return tell !== undefined
  }

  private write(entry: Entry): void {
    try {
      this.store.setItem(PREFIX + entry.id, JSON.stringify(entry))
      this.unkept.delete(entry.id)
    } catch {
      this.unkept.set(entry.id, entry)
    }
  }

  private erase(id: string): void {
    this.unkept.delete(id)
    try {
      this.store.removeItem(PREFIX + id)
    } catch {
      // Closed storage: it was not there.
    }
  }
}

/** Whether the server has read it and does not want it, or fails on it; anything else may pass. */
const isRefusal = (error: unknown): error is ApiError =>
  error instanceof ApiError && [400, 403, 404, 409, 413, 422, 500].includes(error.problem.status)

function read(text: string | null): Entry[] {
  try {
    const { success, data } = entrySchema.safeParse(JSON.parse(text ?? 'null'))
    return success ? [data] : []
  } catch {
    return []
  }
}
