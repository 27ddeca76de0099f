import { useQuery } from '@tanstack/react-query'
import { Navigate } from 'react-router'
import { stationsQuery } from '../../platform/api/queries.ts'
import { chainAddress } from '../../editor/useChainAddress.ts'
import { Trouble } from '../../shell/Trouble.tsx'

/** Goes to the board of the first station; with one chain in it, to that chain; without a station, begins one. */
export function HomePage() {
  const { data: stations, error } = useQuery(stationsQuery)
  if (error) return <Trouble error={error} />
  if (!stations) return null
  const station = stations.find(({ chains }) => chains.length > 0) ?? stations[0]
  if (!station) return <Navigate to="/new" replace />
  const [only, ...others] = station.chains
  return (
    <Navigate
      to={
        only && others.length === 0 ? chainAddress(station.id, only.id) : `/station/${station.id}`
      }
      replace
    />
  )
}
