import { type BinEntry, dayText } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { binQuery, emptyBin, restoreFromBin } from '../../platform/api/queries.ts'
import { act } from '../../platform/act.ts'
import { RemoveForGood } from '../../shell/Confirm.tsx'
import { DeletedStations } from '../../shell/DeletedStations.tsx'

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
        <RemoveForGood
          what={countText(entries)}
          run={() => emptyBin(stationId)}
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
        aria-label={`Restore the ${kind} ${name}`}
        onClick={() =>
          void act(async () => {
            await restoreFromBin(entry)
            return { said: `“${name}” is back.` }
          })
        }
      >
        restore
      </button>
    </li>
  )
}

function countText(entries: readonly BinEntry[]): string {
  const readings = entries.reduce((sum, entry) => sum + entry.readings, 0)
  const things = entries.length === 1 ? 'one thing' : `${entries.length} things`
  return readings > 0 ? `${things}, and ${readings} readings of deleted chains` : things
}
