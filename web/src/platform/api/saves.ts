/** Saves that are under way, by chain: a page that reads a chain waits for them first. */
const pending = new Map<string, Promise<unknown>>()

export function noteSave(chainId: string, save: Promise<unknown>): void {
  const own = save.finally(() => {
    if (pending.get(chainId) === own) pending.delete(chainId)
  })
  pending.set(chainId, own)
}

/** Resolves when no save of the chain is under way; at once where there is none. */
export const savesOf = (chainId: string): Promise<unknown> =>
  pending.get(chainId) ?? Promise.resolve()
