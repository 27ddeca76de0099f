/** A JSON file with one very long list in it, read piece by piece: the list by portions, and all else as one text. */

/** Elements of the list that stand beside each other: the text between its brackets. */
export interface Portion {
  text: string
  /** How many elements. */
  count: number
}

export interface SplitLimits {
  /** Elements of a portion. */
  portion: number
  /** The longest that one element, and the text of all else, may be, bytes. */
  element: number
  rest: number
}

/** A portion ends at the first comma beyond so many bytes, however few elements it has. */
const PORTION_BYTES = 4 * 1024 * 1024

const [QUOTE, COMMA, OPEN, CLOSE, BACKSLASH, OPEN_LIST, CLOSE_LIST] = [...'",{}\\[]'].map((c) =>
  c.charCodeAt(0),
) as [number, number, number, number, number, number, number]

/** A part of the file is longer than it may be. */
export class TooLongError extends Error {
  override readonly name = 'TooLongError'
}

/**
 * Splits a JSON text as it comes in. Only brackets, strings and commas are looked at: whether a text is JSON is seen when
 * its pieces are parsed. All else is the text of the file with the list left empty.
 *
 * @example
 * const splitter = new ListSplitter(['log', 'readings'], limits)
 * splitter.push(bytes) // [{ text: '{"id":"a"},{"id":"b"}', count: 2 }]
 * splitter.end() // '{"format":"…","log":{"readings":[]}}'
 */
export class ListSplitter {
  private depth = 0
  private inString = false
  private escaped = false
  private inList = false
  /** The last string at a depth of one and of two, which is the name of what is opened there; and the one being read. */
  private readonly names = ['', '', '']
  private name: number[] = []
  private rest: Uint8Array[] = []
  private restBytes = 0
  private items: Uint8Array[] = []
  private itemBytes = 0
  /** Whole elements of what waits. */
  private commas = 0
  /** A comma was the last of the portion before. */
  private hasMore = false

  constructor(
    private readonly path: readonly [string, string],
    private readonly limits: SplitLimits,
  ) {}

  /**
   * Takes the next bytes.
   *
   * @returns the portions that are whole
   * @throws TooLongError where an element, or all else together, is longer than it may be
   */
  push(chunk: Uint8Array): Portion[] {
    const done: Portion[] = []
    /** Where what is not yet put anywhere begins. */
    let from = 0
    for (let i = 0; i < chunk.length; i++) {
      const byte = chunk[i]!
      if (this.inString) {
        this.string(byte)
        continue
      }
      switch (byte) {
        case QUOTE:
          this.inString = true
          this.name = []
          break
        case OPEN:
        case OPEN_LIST:
          this.depth++
          if (byte === OPEN_LIST && this.depth === 3 && this.isPath()) {
            this.keepRest(chunk.subarray(from, i + 1))
            this.inList = true
            from = i + 1
          }
          break
        case COMMA:
          if (!this.inList || this.depth !== 3) break
          this.commas++
          if (this.commas < this.limits.portion && this.itemBytes + i - from < PORTION_BYTES) break
          this.keepItems(chunk.subarray(from, i))
          done.push(this.portion(this.commas))
          this.hasMore = true
          from = i + 1
          break
        case CLOSE:
        case CLOSE_LIST:
          if (this.inList && this.depth === 3) {
            this.keepItems(chunk.subarray(from, i))
            const last = this.portion(this.commas + 1)
            // A comma with nothing after it is no JSON: that is seen where the portion is parsed.
            if (last.text.trim() !== '' || last.count > 1 || this.hasMore) done.push(last)
            this.hasMore = false
            this.inList = false
            from = i
          }
          this.depth--
          break
        default:
      }
    }
    const left = chunk.subarray(from)
    if (this.inList) this.keepItems(left)
    else this.keepRest(left)
    return done
  }

  /** @returns the text of the file without what is in the list */
  end(): string {
    return decode(this.rest)
  }

  private string(byte: number): void {
    if (this.escaped) this.escaped = false
    else if (byte === BACKSLASH) this.escaped = true
    else if (byte === QUOTE) {
      this.inString = false
      if (this.depth <= 2) this.names[this.depth] = String.fromCharCode(...this.name)
      return
    }
    // Longer strings are the names of nothing that is looked for.
    if (this.depth <= 2 && this.name.length < 32) this.name.push(byte)
  }

  private isPath(): boolean {
    return this.names[1] === this.path[0] && this.names[2] === this.path[1]
  }

  private keepRest(bytes: Uint8Array): void {
    this.restBytes += bytes.length
    if (this.restBytes > this.limits.rest)
      throw new TooLongError(
        `Without what is in “${this.path.join('.')}”, the file may have at most ${mega(this.limits.rest)} MB.`,
      )
    this.rest.push(bytes.slice())
  }

  private keepItems(bytes: Uint8Array): void {
    this.itemBytes += bytes.length
    // A portion ends at the first comma beyond its own limit: what is longer is one element.
    if (this.itemBytes > PORTION_BYTES + this.limits.element)
      throw new TooLongError(
        `One element of “${this.path.join('.')}” may have at most ${mega(this.limits.element)} MB.`,
      )
    this.items.push(bytes.slice())
  }

  private portion(count: number): Portion {
    const text = decode(this.items)
    this.items = []
    this.itemBytes = this.commas = 0
    return { text, count }
  }
}

const mega = (bytes: number) => Math.round(bytes / 1024 / 1024)

/** Characters may lie across two pieces. */
function decode(pieces: readonly Uint8Array[]): string {
  const decoder = new TextDecoder('utf-8')
  return pieces.map((piece) => decoder.decode(piece, { stream: true })).join('') + decoder.decode()
}
