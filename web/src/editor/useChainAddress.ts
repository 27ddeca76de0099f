import { useCallback, useEffect, useMemo, useRef } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import { readSelection, type Selection, writeSelection } from '../model/selection.ts'

/** Station, chain, lens, channel and selection live in the address, so that back works and a link shows the same. */
export function useChainAddress() {
  const { stationId, chainId, lens } = useParams() as {
    stationId: string
    chainId: string
    lens: string
  }
  const [search, setSearch] = useSearchParams()
  const navigate = useNavigate()
  const channelId = search.get('channel')
  const selectText = search.get('select')
  const selection = useMemo(() => readSelection(selectText), [selectText])

  // What was asked for last, which the address may not show yet: two keys pressed faster than the page
  // follows must not undo each other.
  const asked = useRef(search)
  useEffect(() => {
    asked.current = search
  }, [search])
  /** Changes what stands behind the question mark; null takes a part away. */
  const put = useCallback(
    (change: Record<string, string | null>, replace = false) => {
      const next = new URLSearchParams(asked.current)
      for (const [key, value] of Object.entries(change)) {
        if (value === null) next.delete(key)
        else next.set(key, value)
      }
      asked.current = next
      setSearch(next, { replace })
    },
    [setSearch],
  )
  const select = useCallback(
    (next: Selection | null) => put({ select: next && writeSelection(next) }),
    [put],
  )
  const pickChannel = useCallback(
    (id: string, next?: Selection) =>
      put({ channel: id, ...(next && { select: writeSelection(next) }) }),
    [put],
  )
  const openChain = useCallback(
    (id: string) => void navigate(chainAddress(stationId, id, lens)),
    [navigate, stationId, lens],
  )
  return {
    stationId,
    chainId,
    lens,
    channelId,
    selection,
    select,
    pickChannel,
    openChain,
    put,
  }
}

/** @param lens of the registry in `lenses/`; an id that is not in it shows the first one */
export const chainAddress = (stationId: string, chainId: string, lens = 'budget'): string =>
  `/station/${stationId}/chain/${chainId}/${lens}`
