/** Saves that are under way, by chain: a page that reads a chain waits for them first. */
const pending = new Map<string, Promise<unknown>>()

const listeners = new Set<() => void>()

/** Calls when a save begins. */
export const onSave = (call: () => void): void => void listeners.add(call)

export function noteSave(chainId: string, save: Promise<unknown>): void {
  const own = save.finally(() => {
    if (pending.get(chainId) === own) pending.delete(chainId)
  })
  pending.set(chainId, own)
  for (const call of listeners) call()
}

/** Resolves when no save of the chain is under way; at once where there is none. */
export const savesOf = (chainId: string): Promise<unknown> =>
  pending.get(chainId) ?? Promise.resolve()

/** Resolves when no save is under way: for what tells of all chains. */
export const everySave = (): Promise<unknown> => Promise.allSettled(pending.values())
