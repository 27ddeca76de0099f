/** One-time codes that bring a phone in: good once, for two minutes, kept nowhere. */
import { randomLetters } from './passphrase.ts'

const GOOD_MS = 120_000
/** Codes at once. */
const MOST = 20

export class JoinCodes {
  readonly #codes = new Map<string, number>()
  readonly #now: () => number

  constructor(now: () => number = Date.now) {
    this.#now = now
  }

  make(): { code: string; expiresAt: string } {
    this.#forget()
    if (this.#codes.size >= MOST) this.#codes.delete(this.#codes.keys().next().value!)
    const code = randomLetters(12, 4)
    const until = this.#now() + GOOD_MS
    this.#codes.set(code, until)
    return { code, expiresAt: new Date(until).toISOString() }
  }

  /** Whether a code is good; it is not good again. */
  take(code: string): boolean {
    this.#forget()
    return this.#codes.delete(code.trim().toLowerCase())
  }

  #forget(): void {
    const now = this.#now()
    for (const [code, until] of this.#codes) if (until <= now) this.#codes.delete(code)
  }
}
