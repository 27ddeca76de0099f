/** Live figures in memory: the newest of every meter, and its last minutes once a second. Nothing of it is stored. */
import type { LiveBody, LiveFigure, LiveMeter } from '@saltline/contract'

/** Meters at once; the one that was silent longest goes. */
const MOST_METERS = 100
/** Seconds of trend. */
const TREND_S = 300
/** Figures a second that one meter may send, and how many at once. */
export const MOST_A_SECOND = 50
/** How far the clock of a meter may be from this one, ms. */
const CLOCK_MS = 60_000
/** A meter that was silent so long is forgotten, ms. */
const FORGOTTEN_MS = 600_000

interface Meter {
  latest: LiveFigure
  /** Second since 1970, and the newest watts in it. */
  trend: { second: number; watts: number }[]
  tokens: number
  filledAt: number
  /** Told to nobody yet. */
  fresh: boolean
}

export class LiveMeters {
  readonly #meters = new Map<string, Meter>()
  readonly #now: () => number

  constructor(now: () => number = Date.now) {
    this.#now = now
  }

  /** Takes a figure; false where the meter sends too often. */
  take(chainId: string, plane: number, body: LiveBody): boolean {
    const now = this.#now()
    const key = `${chainId} ${plane}`
    const known = this.#meters.get(key)
    const tokens = known
      ? Math.min(MOST_A_SECOND, known.tokens + ((now - known.filledAt) / 1000) * MOST_A_SECOND)
      : MOST_A_SECOND
    if (known && tokens < 1) {
      known.tokens = tokens
      known.filledAt = now
      return false
    }
    // A clock that is far off, or was never set, tells less than the arrival does.
    const told = body.at !== undefined && Math.abs(Date.parse(body.at) - now) <= CLOCK_MS
    const { at: _, ...figures } = body
    const latest = {
      ...figures,
      ...(told && { at: body.at }),
      plane,
      seenAt: new Date(now).toISOString(),
    }
    const trend = known?.trend ?? []
    const second = Math.floor(now / 1000)
    if (trend.at(-1)?.second === second) trend.at(-1)!.watts = body.forwardW
    else trend.push({ second, watts: body.forwardW })
    while (trend.length > 0 && trend[0]!.second <= second - TREND_S) trend.shift()
    // The newest last, so that the first is the one that was silent longest.
    this.#meters.delete(key)
    this.#meters.set(key, { latest, trend, tokens: tokens - 1, filledAt: now, fresh: true })
    if (this.#meters.size > MOST_METERS) this.#meters.delete(this.#meters.keys().next().value!)
    return true
  }

  /** All meters of a chain, by their planes. */
  of(chainId: string): LiveMeter[] {
    const now = this.#now()
    const second = Math.floor(now / 1000)
    this.#forget(now)
    return [...this.#meters]
      .filter(([key]) => key.startsWith(`${chainId} `))
      .map(([, { latest, trend }]) => ({
        latest,
        trend: trend.map((each): [number, number] => [second - each.second, each.watts]),
      }))
      .sort((a, b) => a.latest.plane - b.latest.plane)
  }

  /** What came since this was last asked, by chain. */
  takeFresh(): Map<string, LiveFigure[]> {
    const fresh = new Map<string, LiveFigure[]>()
    for (const [key, meter] of this.#meters) {
      if (!meter.fresh) continue
      meter.fresh = false
      const chainId = key.slice(0, key.lastIndexOf(' '))
      fresh.set(chainId, [...(fresh.get(chainId) ?? []), meter.latest])
    }
    return fresh
  }

  #forget(now: number): void {
    for (const [key, { filledAt }] of this.#meters)
      if (now - filledAt > FORGOTTEN_MS) this.#meters.delete(key)
  }
}
