import type { BinEntry } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import {
  binQuery,
  deletedStationsQuery,
  emptyBin,
  emptyStationBin,
  restoreFromBin,
  restoreStation,
} from '../api/queries.ts'
import { act } from '../app/act.ts'
import { dayText } from '../lenses/log/places.ts'
import { Dialog } from '../parts/Dialog.tsx'

const SHOWN = 8

/** What was deleted from the station: each can be taken back until the bin is emptied. */
export function Bin({ stationId }: { stationId: string }) {
  const { data: entries = [] } = useQuery(binQuery(stationId))
  const [all, setAll] = useState(false)
  const [asking, setAsking] = useState(false)
  const shown = all ? entries : entries.slice(0, SHOWN)
  return (
    <section aria-label="Bin">
      <h2 className="border-b border-ink pb-1 font-bold">Bin</h2>
      {entries.length === 0 && <p className="py-1.5 text-sm text-muted">Nothing was deleted.</p>}
      <ul className="text-sm">
        {shown.map((entry) => (
          <Entry key={`${entry.kind} ${entry.id}`} entry={entry} />
        ))}
      </ul>
      <div className="mt-1 flex flex-wrap gap-3">
        {entries.length > SHOWN && (
          <button type="button" className="link text-sm" onClick={() => setAll(!all)}>
            {all ? 'show fewer' : `show all ${entries.length}`}
          </button>
        )}
        {entries.length > 0 && (
          <button type="button" className="link text-sm" onClick={() => setAsking(true)}>
            empty the bin…
          </button>
        )}
      </div>
      {asking && (
        <Empty
          what={countText(entries)}
          onEmpty={() => emptyBin(stationId)}
          onClose={() => setAsking(false)}
        />
      )}
      <DeletedStations />
    </section>
  )
}

function Entry({ entry }: { entry: BinEntry }) {
  const { kind, name, deletedAt, readings } = entry
  return (
    <li className="flex items-baseline gap-3 border-b border-rule py-1">
      <span className="w-24 shrink-0 text-muted">{dayText(deletedAt)}</span>
      <span className="min-w-0 flex-1">
        {name}
        <span className="block text-xs text-muted">
          {kind}
          {readings > 0 && ` with ${readings} reading${readings === 1 ? '' : 's'}`}
        </span>
      </span>
      <button
        type="button"
        className="link"
        aria-label={`Take back the ${kind} ${name}`}
        onClick={() =>
          void act(async () => {
            await restoreFromBin(entry)
            return { said: `“${name}” is back.` }
          })
        }
      >
        take back
      </button>
    </li>
  )
}

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
              aria-label={`Take back the station ${name}`}
              onClick={() =>
                void act(async () => {
                  await restoreStation(id)
                  return { said: `The station “${name}” is back.` }
                })
              }
            >
              take back
            </button>
          </li>
        ))}
      </ul>
      <button type="button" className="link mt-1" onClick={() => setAsking(true)}>
        remove them for good…
      </button>
      {asking && (
        <Empty
          what={`${stations.length === 1 ? 'one station' : `${stations.length} stations`} with all chains and readings`}
          onEmpty={emptyStationBin}
          onClose={() => setAsking(false)}
        />
      )}
    </div>
  )
}

function countText(entries: readonly BinEntry[]): string {
  const readings = entries.reduce((sum, entry) => sum + entry.readings, 0)
  const things = entries.length === 1 ? 'one thing' : `${entries.length} things`
  return readings > 0 ? `${things}, and ${readings} readings of deleted chains` : things
}

function Empty({
  what,
  onEmpty,
  onClose,
}: {
  what: string
  onEmpty: () => Promise<void>
  onClose: () => void
}) {
  const empty = async () => {
    const done = await act(async () => {
      await onEmpty()
      return { said: 'Removed for good.' }
    })
    if (done) onClose()
  }
  return (
    <Dialog title="Remove for good?" onClose={onClose}>
      <p>This removes {what}. It cannot be taken back; a backup made before still holds it.</p>
      <div className="mt-4 flex gap-2">
        <button type="button" className="button" onClick={onClose}>
          Leave it
        </button>
        <button type="button" className="button button-main" onClick={() => void empty()}>
          Remove for good
        </button>
      </div>
    </Dialog>
  )
}
