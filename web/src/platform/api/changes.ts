/** What other windows and devices change, as it happens; where the stream is not there, lists are asked for again. */
import { type LiveFigure, liveFigureSchema } from '@saltline/contract'
import { useEffect } from 'react'
import { z } from 'zod'
import { outbox } from '../outbox/index.ts'
import { queryClient } from './queries.ts'
import { noteReach } from './reach.ts'
import { windowId } from './client.ts'

/** Without the stream, what is open is looked at again so often, ms. */
const LOOK_AGAIN_MS = 4000

interface Change {
  what: 'chain' | 'log' | 'station'
  chainId: string | null
}

let connected = false
/** The chain whose live figures are wanted, and who is told of them. */
let chain: string | null = null
const liveWatchers = new Set<(figures: readonly LiveFigure[]) => void>()
/** Opens the stream anew, where there is one. */
let reopen: () => void = () => undefined

/** Calls with the live figures of one chain as they come. */
export function onLive(
  chainId: string,
  call: (figures: readonly LiveFigure[]) => void,
): () => void {
  chain = chainId
  liveWatchers.add(call)
  reopen()
  return () => {
    liveWatchers.delete(call)
    if (chain === chainId) chain = null
  }
}

const figuresSchema = z.array(liveFigureSchema)
const watchers = new Set<(chainId: string | null) => void>()

/** How often a list is asked for again: not at all while changes are told. */
export const lookAgain = (): number | false => (connected ? false : LOOK_AGAIN_MS)

/** Calls when a chain was changed elsewhere. */
export function onChainChanged(call: (chainId: string | null) => void): () => void {
  watchers.add(call)
  return () => watchers.delete(call)
}

function took({ what, chainId }: Change): void {
  if (what === 'chain') for (const watcher of watchers) watcher(chainId)
  const keys =
    what === 'log'
      ? [['log'], ['runs'], ['run']]
      : [['station'], ['stations'], ['chain-read'], ['revisions'], ['log', 'alerts']]
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
    const open = () => {
      if (source || document.visibilityState === 'hidden') return
      let first = true
      const search = new URLSearchParams({ window: windowId, ...(chain && { chain }) })
      source = new EventSource(`/api/changes?${search}`)
      source.addEventListener('live', ({ data }) => {
        const figures = figuresSchema.safeParse(JSON.parse(String(data)))
        if (figures.success) for (const watcher of liveWatchers) watcher(figures.data)
      })
      source.onopen = () => {
        connected = true
        noteReach(true)
        void outbox.wake()
        // What happened while nobody listened.
        if (!first) took({ what: 'log', chainId: null })
        first = false
      }
      source.onerror = () => (connected = false)
      source.onmessage = ({ data }) => took(JSON.parse(String(data)) as Change)
    }
    const close = () => {
      source?.close()
      source = null
      connected = false
    }
    const turn = () => (document.visibilityState === 'hidden' ? close() : open())
    reopen = () => {
      close()
      open()
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
