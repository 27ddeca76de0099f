/** Who reads where on a chain, in memory, for as long as their windows listen. */
import type { Presence } from '@saltline/contract'

/** Windows that are remembered at once. */
const MOST = 200
/** A window says again every half minute that it is here; one that has not for so long is gone, ms. */
const GONE_MS = 90_000

export class Presences {
  readonly #windows = new Map<string, { chainId: string; presence: Presence; at: number }>()
  readonly #now: () => number

  constructor(now: () => number = Date.now) {
    this.#now = now
  }

  /** @returns the chains whose list has changed by it */
  put(chainId: string, presence: Presence): string[] {
    const before = this.#windows.get(presence.window)
    if (!before && this.#windows.size >= MOST)
      this.#windows.delete(this.#windows.keys().next().value!)
    this.#windows.set(presence.window, { chainId, presence, at: this.#now() })
    return before && before.chainId !== chainId ? [before.chainId, chainId] : [chainId]
  }

  /** @returns the chain that it has left */
  leave(window: string): string[] {
    const before = this.#windows.get(window)
    this.#windows.delete(window)
    return before ? [before.chainId] : []
  }

  of(chainId: string): Presence[] {
    const now = this.#now()
    return [...this.#windows.values()]
      .filter((each) => each.chainId === chainId && now - each.at < GONE_MS)
      .map(({ presence }) => presence)
  }
}
