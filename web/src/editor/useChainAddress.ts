import { useCallback, useEffect, useMemo, useRef } from 'react'
import { isLens, type LensId } from './lens.ts'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import { readSelection, type Selection, writeSelection } from '../model/selection.ts'

/** Station, chain, lens, channel and selection live in the address, so that back works and a link shows the same. */
export function useChainAddress() {
  const { stationId, chainId, lens } = useParams() as {
    stationId: string
    chainId: string
    /** As the address has it: perhaps of none that there is. */
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
    (id: string) => void navigate(chainAddress(stationId, id, isLens(lens) ? lens : undefined)),
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

export const chainAddress = (stationId: string, chainId: string, lens: LensId = 'budget'): string =>
  `/station/${stationId}/chain/${chainId}/${lens}`

/** From one lens to another of the same chain, for links that are relative to the path. */
export const otherLens = (lens: LensId, search: Record<string, string>): string =>
  `../${lens}?${new URLSearchParams(search)}`
