import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { dayText } from '@saltline/contract'
import { act } from '../platform/act.ts'
import { deletedStationsQuery, emptyStationBin, restoreStation } from '../platform/api/queries.ts'
import { RemoveForGood } from './Confirm.tsx'

/** Stations that were deleted, wherever one looks for them. */
export function DeletedStations() {
  const { data: stations = [] } = useQuery(deletedStationsQuery)
  const [asking, setAsking] = useState(false)
  if (stations.length === 0) return null
  return (
    <div className="mt-3 text-sm">
      <h3 className="text-muted">Deleted stations</h3>
      <ul>
        {stations.map(({ id, name, deletedAt, readings }) => (
          <li key={id} className="flex items-baseline gap-3 border-b border-rule py-1">
            <span className="w-24 shrink-0 text-muted">{dayText(deletedAt)}</span>
            <span className="min-w-0 flex-1">
              {name}
              {readings > 0 && <span className="text-muted">, {readings} readings</span>}
            </span>
            <button
              type="button"
              className="link"
              aria-label={`Restore the station ${name}`}
              onClick={() =>
                void act(async () => {
                  await restoreStation(id)
                  return { said: `The station “${name}” is back.` }
                })
              }
            >
              restore
            </button>
          </li>
        ))}
      </ul>
      <button type="button" className="link mt-1" onClick={() => setAsking(true)}>
        remove them for good…
      </button>
      {asking && (
        <RemoveForGood
          what={`${stations.length === 1 ? 'one station' : `${stations.length} stations`} with all chains and readings`}
          run={emptyStationBin}
          onClose={() => setAsking(false)}
        />
      )}
    </div>
  )
}
