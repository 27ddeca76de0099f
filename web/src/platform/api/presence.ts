import type { Presence, PresenceBody } from '@saltline/contract'
import { useEffect, useState } from 'react'
import { watchChain } from './changes.ts'
import { call, windowId } from './client.ts'

/** It is said again that this window is here, ms. */
const AGAIN_MS = 30_000

/** Nobody waits for it, and nothing is lost where it is not heard. */
const say = (chainId: string, where: PresenceBody): void =>
  void call('PUT /live/:chainId/windows/:window', {
    params: { chainId, window: windowId },
    body: where,
  }).catch(() => undefined)

/** Says where this window reads, and hears where others do. */
export function usePresence(
  chainId: string,
  { by, channelId, before }: NonNullable<PresenceBody>,
): readonly Presence[] {
  const [others, setOthers] = useState<readonly Presence[]>([])
  useEffect(() => {
    const here = () => say(chainId, { by, channelId, before })
    // Names are typed letter by letter.
    const soon = setTimeout(here, 300)
    const timer = setInterval(here, AGAIN_MS)
    const unwatch = watchChain(chainId, { here: setOthers, opened: here })
    return () => {
      clearTimeout(soon)
      clearInterval(timer)
      unwatch()
    }
  }, [chainId, by, channelId, before])
  useEffect(() => () => say(chainId, null), [chainId])
  return others
}
