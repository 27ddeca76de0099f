import { dayText, isPart, type Station, type Thing } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { Printer, Trash2 } from 'lucide-react'
import { Link, useNavigate, useParams } from 'react-router'
import { lastLoss, thingFacts } from '../../model/things.ts'
import { act } from '../../platform/act.ts'
import { stationQuery } from '../../platform/api/queries.ts'
import {
  deleteThing,
  restoreThing,
  thingHistoryQuery,
  thingsQuery,
} from '../../platform/api/thingQueries.ts'
import { useUnits } from '../../platform/preferences.ts'
import { Page } from '../../shell/Page.tsx'
import { Trouble } from '../../shell/Trouble.tsx'
import { PlaceRow } from './PlaceRow.tsx'
import { ThingFacts } from './ThingFacts.tsx'
import { ThingNotes } from './ThingNotes.tsx'
import { ThingRecord } from './ThingRecord.tsx'

/** One thing: what it is, where it stands, what was measured of it wherever it was. */
export function ThingPage() {
  const { stationId, thingId } = useParams() as { stationId: string; thingId: string }
  const { data: station, error } = useQuery(stationQuery(stationId))
  const { data: things, error: noThings } = useQuery(thingsQuery(stationId))
  const thing = things?.find(({ id }) => id === thingId)
  const trouble = error ?? noThings
  if (trouble) return <Trouble error={trouble} />
  if (things && !thing)
    return (
      <Trouble error={new Error('There is no such thing in the register; it may be in the bin.')} />
    )
  return (
    <Page title={thing ? `${thing.mark} ${thing.name}` : 'Thing'} stationId={stationId}>
      {station && thing && <One station={station} thing={thing} />}
    </Page>
  )
}

function One({ station, thing }: { station: Station; thing: Thing }) {
  const { length } = useUnits()
  const navigate = useNavigate()
  const { data: history } = useQuery(thingHistoryQuery(thing.id))
  const { id, mark } = thing
  const last = history ? lastLoss(history) : null
  const gear = `/station/${station.id}/gear?kind=things`
  const remove = () =>
    act(async () => {
      await deleteThing(id)
      await navigate(gear)
      return {
        said: `${mark} is in the bin.${isPart(thing) ? ' Chains keep its figures.' : ''}`,
        undo: () => restoreThing(id),
      }
    })
  return (
    <div className="mx-auto w-full max-w-4xl space-y-6 px-5 py-5 max-sm:px-3">
      <header className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h2 className="text-xl font-bold">
            {mark} · {thing.name}
          </h2>
          <p className="text-sm text-muted">
            {[thingFacts(thing, length, station.gear), thing.where, thing.state]
              .filter(Boolean)
              .join(' · ')}
          </p>
          {last && (
            <p className="text-sm">
              Last loss: {last.words} ({dayText(new Date(last.at).toISOString())})
            </p>
          )}
        </div>
        <div className="flex flex-wrap gap-2">
          <Link className="button" to={`/station/${station.id}/labels?thing=${id}`}>
            <Printer size={14} aria-hidden /> Label
          </Link>
          <button type="button" className="button" onClick={() => void remove()}>
            <Trash2 size={14} aria-hidden /> Delete
          </button>
          <Link className="quiet" to={gear}>
            All things
          </Link>
        </div>
      </header>
      <section aria-label="In chains">
        <h3 className="border-b border-ink pb-1 font-bold">In chains</h3>
        {thing.places.length === 0 && <p className="py-1.5 text-sm text-muted">In no chain.</p>}
        <ul>
          {thing.places.map((place) => (
            <PlaceRow key={place.chainId} station={station} thing={thing} place={place} />
          ))}
        </ul>
      </section>
      {history && <ThingRecord station={station} thing={thing} history={history} />}
      <ThingNotes thing={thing} />
      <ThingFacts key={JSON.stringify(thing.stage ?? null)} station={station} thing={thing} />
    </div>
  )
}
