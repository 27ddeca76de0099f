/**
 * What the page was asked to show last, behind the question mark of its address, which the address may not show yet: two
 * keys pressed faster than the page follows must not undo each other, nor may the first, when it comes late, undo the second.
 */
export class AskedSearch {
  private asked: string
  /** What was asked for and has not come, oldest first. */
  private pending: string[] = []

  constructor(shown: URLSearchParams) {
    this.asked = shown.toString()
  }

  /**
   * Asks for a change.
   *
   * @param change what is to stand there; null takes a part away
   * @returns the whole of what is asked for now
   */
  change(change: Readonly<Record<string, string | null>>): URLSearchParams {
    const next = new URLSearchParams(this.asked)
    for (const [key, value] of Object.entries(change)) {
      if (value === null) next.delete(key)
      else next.set(key, value)
    }
    this.asked = next.toString()
    this.pending.push(this.asked)
    return next
  }

  /** The address shows this: what was asked for, sooner or later, or what came by another way (Back, a link), which holds. */
  came(shown: URLSearchParams): void {
    const text = shown.toString()
    const at = this.pending.lastIndexOf(text)
    this.pending = at < 0 ? [] : this.pending.slice(at + 1)
    if (this.pending.length === 0) this.asked = text
  }
}
