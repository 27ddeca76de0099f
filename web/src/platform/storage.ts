/** What of the browser's storage is used: strings under keys, which can be listed. */
export interface KeyStore {
  readonly length: number
  key(index: number): string | null
  getItem(key: string): string | null
  setItem(key: string, value: string): void
  removeItem(key: string): void
}

const closed: KeyStore = {
  length: 0,
  key: () => null,
  getItem: () => null,
  setItem: () => {
    throw new Error('closed')
  },
  removeItem: () => undefined,
}

/** The browser's storage; where it is closed to the page, one that keeps nothing and says so when it is written to. */
export function browserStore(): KeyStore {
  try {
    return localStorage
  } catch {
    return closed
  }
}

export const keysOf = (store: KeyStore): string[] =>
  Array.from({ length: store.length }, (_, i) => store.key(i)).filter((key) => key !== null)
