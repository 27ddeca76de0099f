import { useCallback, useEffect, useMemo, useState } from 'react'
import { AskedSearch } from './askedSearch.ts'
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

  const [asked] = useState(() => new AskedSearch(search))
  useEffect(() => asked.came(search), [asked, search])
  /** Changes what stands behind the question mark; null takes a part away. */
  const put = useCallback(
    (change: Record<string, string | null>, replace = false) =>
      setSearch(asked.change(change), { replace }),
    [asked, setSearch],
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
