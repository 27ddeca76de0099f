import { useQuery } from '@tanstack/react-query'
import { Navigate } from 'react-router'
import { stationsQuery } from '../api/queries.ts'
import { chainAddress } from '../chain/useChainAddress.ts'
import { Trouble } from './Trouble.tsx'

/** Goes straight to the first chain there is; without one to the first station; without that, begins one. */
export function HomePage() {
  const { data: stations, error } = useQuery(stationsQuery)
  if (error) return <Trouble error={error} />
  if (!stations) return null
  const station = stations.find(({ chains }) => chains.length > 0)
  if (!station) return <Navigate to={stations[0] ? `/station/${stations[0].id}` : '/new'} replace />
  return <Navigate to={chainAddress(station.id, station.chains[0]!.id)} replace />
}
