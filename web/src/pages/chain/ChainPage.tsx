import { useQuery } from '@tanstack/react-query'
import { lensOf } from '../../lenses/index.ts'
import { chainQuery, stationQuery } from '../../platform/api/queries.ts'
import { Trouble } from '../../shell/Trouble.tsx'
import { ChainWorkspace } from './ChainWorkspace.tsx'
import { useChainAddress } from '../../editor/useChainAddress.ts'

/** Fetches a chain and its station, then hands over to the workspace. */
export function ChainPage() {
  const { stationId, chainId, lens: lensId } = useChainAddress()
  const lens = lensOf(lensId)
  const station = useQuery(stationQuery(stationId))
  const chain = useQuery(chainQuery(chainId))
  const error = station.error ?? chain.error
  if (!lens)
    return <Trouble error={new Error(`A chain has no page “${lensId}”: see the address.`)} />
  if (error && !(station.data && chain.data)) return <Trouble error={error} />
  if (!station.data || !chain.data) return null
  return <ChainWorkspace key={chainId} station={station.data} state={chain.data} lens={lens} />
}
