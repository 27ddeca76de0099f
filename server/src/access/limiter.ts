/** Wrong passphrases and codes: each makes the next one wait longer, for its address and a little for all. */

/** So many failures are free. */
const FREE = 4
const FIRST_MS = 1000
const MOST_MS = 60_000
/** Forgotten after this, ms. */
const MEMORY_MS = 15 * 60_000
/** Addresses that are remembered. */
const MOST_ADDRESSES = 2000
/** Failures of all addresses together in a minute. */
const ALL_A_MINUTE = 60

interface Failures {
  count: number
  last: number
}

export class Limiter {
  readonly #byAddress = new Map<string, Failures>()
  #all: number[] = []
  readonly #now: () => number

  constructor(now: () => number = Date.now) {
    this.#now = now
  }

  /** How long an address has to wait before its next attempt, ms. */
  waitMs(address: string): number {
    const now = this.#now()
    this.#all = this.#all.filter((at) => now - at < 60_000)
    if (this.#all.length >= ALL_A_MINUTE) return 60_000 - (now - this.#all[0]!)
    const failures = this.#byAddress.get(address)
    if (!failures || now - failures.last > MEMORY_MS || failures.count < FREE) return 0
    const wait = Math.min(MOST_MS, FIRST_MS * 2 ** (failures.count - FREE))
    return Math.max(0, failures.last + wait - now)
  }

  /** Counts an attempt as wrong until it is known to be right. */
  failed(address: string): void {
    const now = this.#now()
    const before = this.#byAddress.get(address)
    const count = before && now - before.last <= MEMORY_MS ? before.count + 1 : 1
    this.#byAddress.delete(address)
    this.#byAddress.set(address, { count, last: now })
    if (this.#byAddress.size > MOST_ADDRESSES)
      this.#byAddress.delete(this.#byAddress.keys().next().value!)
    this.#all.push(now)
  }

  /** Takes the last attempt back: it was right. */
  succeeded(address: string): void {
    this.#byAddress.delete(address)
    this.#all.pop()
  }
}
