/** What other windows and devices change, as it happens; where the stream is not there, lists are asked for again. */
import { address } from '../base.ts'
import {
  type LiveFigure,
  liveFigureSchema,
  type Presence,
  presenceSchema,
} from '@saltline/contract'
import { useEffect } from 'react'
import { z } from 'zod'
import { outbox } from '../outbox/index.ts'
import { queryClient } from './queries.ts'
import { noteReach } from './reach.ts'
import { windowId } from './client.ts'

/** Without the stream, what is open is looked at again so often, ms. */
const LOOK_AGAIN_MS = 4000
/** A stream that was refused is tried again after this, ms. */
const OPEN_AGAIN_MS = 15_000

interface Change {
  what: 'chain' | 'log' | 'station'
  chainId: string | null
}

let connected = false
/** The chain that is looked at, whose meters and readers are wanted. */
let chain: string | null = null
/** Opens the stream anew, where there is one. */
let reopen: () => void = () => undefined

interface ChainWatch {
  live?: (figures: readonly LiveFigure[]) => void
  here?: (others: readonly Presence[]) => void
  /** The stream is open; whoever was known by the one before may be forgotten. */
  opened?: () => void
}
const chainWatches = new Map<ChainWatch, string>()

/** Calls with the live figures of one chain as they come, and with who reads where on it. */
export function watchChain(chainId: string, watch: ChainWatch): () => void {
  chainWatches.set(watch, chainId)
  if (chain !== chainId) {
    chain = chainId
    reopen()
  } else if (watch.here) watch.here(here)
  return () => {
    chainWatches.delete(watch)
    if (![...chainWatches.values()].includes(chainId) && chain === chainId) chain = null
  }
}

const figuresSchema = z.array(liveFigureSchema)
const presencesSchema = z.array(presenceSchema)
let here: readonly Presence[] = []

function heardLive(data: unknown): void {
  const figures = figuresSchema.safeParse(JSON.parse(String(data)))
  if (figures.success) for (const [{ live }] of chainWatches) live?.(figures.data)
}

function heardHere(data: unknown): void {
  const presences = presencesSchema.safeParse(JSON.parse(String(data)))
  if (!presences.success) return
  here = presences.data.filter(({ window }) => window !== windowId)
  for (const [watch] of chainWatches) watch.here?.(here)
}

const watchers = new Set<(chainId: string | null) => void>()

/** How often a list is asked for again: not at all while changes are told. */
export const lookAgain = (): number | false => (connected ? false : LOOK_AGAIN_MS)

/** Calls when a chain was changed elsewhere. */
export function onChainChanged(call: (chainId: string | null) => void): () => void {
  watchers.add(call)
  return () => watchers.delete(call)
}

/** Chains were changed by what was done here beside them. */
export const chainsChanged = (): void => took({ what: 'chain', chainId: null })

function took({ what, chainId }: Change): void {
  if (what === 'chain') for (const watcher of watchers) watcher(chainId)
  const keys =
    what === 'log'
      ? [['log'], ['runs'], ['run']]
      : [
          ...[['station'], ['stations'], ['chain-read'], ['revisions'], ['things']],
          ...[
            ['log', 'alerts'],
            ['log', 'duties'],
            ['log', 'duties offered'],
          ],
        ]
  for (const queryKey of keys) void queryClient.invalidateQueries({ queryKey })
}

/**
 * Listens while the window is to be seen: a browser gives one server six connections, and hidden windows must not take
 * them.
 */
export function useChanges(): void {
  useEffect(() => {
    if (typeof EventSource === 'undefined') return
    let source: EventSource | null = null
    let handing: EventSource | null = null
    let again = false
    let later: ReturnType<typeof setTimeout> | undefined
    /** @param before goes on listening until the new one does, so that nothing happens unheard */
    const open = (before: EventSource | null = null) => {
      clearTimeout(later)
      if (source || document.visibilityState === 'hidden') return before?.close()
      const search = new URLSearchParams({ window: windowId, ...(chain && { chain }) })
      source = new EventSource(address(`/api/changes?${search}`))
      handing = before
      source.addEventListener('live', ({ data }) => heardLive(data))
      source.addEventListener('here', ({ data }) => heardHere(data))
      source.onopen = () => {
        connected = true
        noteReach(true)
        void outbox.wake()
        for (const [watch] of chainWatches) watch.opened?.()
        const heard = handing?.readyState === EventSource.OPEN
        handing?.close()
        handing = null
        // What happened while nobody listened.
        if (again && !heard)
          for (const what of ['log', 'chain'] as const) took({ what, chainId: null })
        again = true
      }
      source.onerror = () => {
        const lost = connected
        connected = false
        // What is looked at again by itself starts with an answer, and who is signed out is told so.
        if (lost) took({ what: 'log', chainId: null })
        // Refused, or something in between answered: the browser does not try again by itself.
        if (source?.readyState === EventSource.CLOSED) later = setTimeout(reopen, OPEN_AGAIN_MS)
      }
      source.onmessage = ({ data }) => took(JSON.parse(String(data)) as Change)
    }
    const close = () => {
      clearTimeout(later)
      handing?.close()
      source?.close()
      source = handing = null
      connected = false
    }
    const turn = () => (document.visibilityState === 'hidden' ? close() : open())
    reopen = () => {
      handing?.close()
      const before = source
      source = handing = null
      open(before)
    }
    open()
    document.addEventListener('visibilitychange', turn)
    addEventListener('pagehide', close)
    return () => {
      reopen = () => undefined
      close()
      document.removeEventListener('visibilitychange', turn)
      removeEventListener('pagehide', close)
    }
  }, [])
}
