/** Unsaved edits in the browser's storage: one draft a chain and window. */
import { chainDocumentSchema, chainStateSchema } from '@saltline/contract'
import { z } from 'zod'
import { type KeyStore, keysOf } from '../platform/storage.ts'

const draftSchema = z.object({
  base: chainStateSchema,
  document: chainDocumentSchema,
  /** What the save of it is called; sent again it is kept once. */
  key: z.string(),
  tab: z.string(),
  at: z.number(),
})
export type Draft = z.output<typeof draftSchema>

/** A draft that no living window has touched for so long is an orphan, and is taken up, ms. */
const ORPHAN_MS = 12_000

const PREFIX = 'saltline.draft.'

const keyOf = (chainId: string, tab: string): string => `${PREFIX}${chainId}.${tab}`

/** @returns whether it is kept; false where storage is closed or full */
export function keepDraft(store: KeyStore, chainId: string, draft: Draft): boolean {
  try {
    store.setItem(keyOf(chainId, draft.tab), JSON.stringify(draft))
    return true
  } catch {
    return false
  }
}

/** Whether an edit of a chain waits in this browser, whichever window made it. */
export function hasDraft(chainId: string): boolean {
  try {
    return Object.keys(localStorage).some(
      (key) => key === PREFIX + chainId || key.startsWith(`${PREFIX}${chainId}.`),
    )
  } catch {
    // Closed storage: there is no draft.
    return false
  }
}

export function dropDraft(store: KeyStore, chainId: string, tab: string): void {
  try {
    store.removeItem(keyOf(chainId, tab))
  } catch {
    // Closed storage: there was no draft.
  }
}

/**
 * The draft that a window should take up: its own, or the newest that a closed window left behind. An
 * orphan that is taken up becomes the window's own.
 */
export function findDraft(
  store: KeyStore,
  chainId: string,
  tab: string,
  now: number,
): Draft | null {
  try {
    const all = keysOf(store)
      // The key of a chain alone is how drafts were kept before each window had its own.
      .filter((key) => key === PREFIX + chainId || key.startsWith(`${PREFIX}${chainId}.`))
      .flatMap((key) => {
        const draft = read(store.getItem(key))
        return draft ? [{ key, draft }] : []
      })
    const own = all.find(({ draft }) => draft.tab === tab)
    if (own) return own.draft
    const [orphan] = all
      .filter(({ draft }) => now - draft.at >= ORPHAN_MS)
      .sort((a, b) => b.draft.at - a.draft.at)
    if (!orphan) return null
    store.removeItem(orphan.key)
    const taken = { ...orphan.draft, tab, at: now }
    keepDraft(store, chainId, taken)
    return taken
  } catch {
    return null
  }
}

function read(text: string | null): Draft | null {
  try {
    const parsed = draftSchema.safeParse({
      key: 'draft-without-key',
      ...JSON.parse(text ?? 'null'),
    })
    return parsed.success ? parsed.data : null
  } catch {
    return null
  }
}
