import { dayText, figuresOf, type Station, type Thing } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { Printer, Trash2 } from 'lucide-react'
import { Link, useNavigate, useParams } from 'react-router'
import { chainAddress } from '../../editor/useChainAddress.ts'
import { thingFacts } from '../../model/things.ts'
import { act } from '../../platform/act.ts'
import { measurementsQuery } from '../../platform/api/logQueries.ts'
import { stationQuery } from '../../platform/api/queries.ts'
import {
  deleteThing,
  placeThing,
  restoreThing,
  thingsQuery,
  unplaceThing,
} from '../../platform/api/thingQueries.ts'
import { useUnits } from '../../platform/preferences.ts'
import { Page } from '../../shell/Page.tsx'
import { Trouble } from '../../shell/Trouble.tsx'
import { titleOf } from '../../worksheets/sheets/index.ts'
import { GiveFigures } from './GiveFigures.tsx'
import { ThingFacts } from './ThingFacts.tsx'

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
    <Page title={thing ? `${thing.mark} ${thing.stage.name}` : 'Thing'} stationId={stationId}>
      {station && thing && <One station={station} thing={thing} />}
    </Page>
  )
}

function One({ station, thing }: { station: Station; thing: Thing }) {
  const { length } = useUnits()
  const navigate = useNavigate()
  const { id, mark, stage } = thing
  const gear = `/station/${station.id}/gear?kind=things`
  const remove = () =>
    act(async () => {
      await deleteThing(id)
      await navigate(gear)
      return {
        said: `${mark} is in the bin. Chains keep its figures.`,
        undo: () => restoreThing(id),
      }
    })
  return (
    <div className="mx-auto w-full max-w-4xl space-y-6 px-5 py-5 max-sm:px-3">
      <header className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h2 className="text-xl font-bold">
            {mark} · {stage.name}
          </h2>
          <p className="text-sm text-muted">{thingFacts(stage, length)}</p>
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
            <Place key={place.chainId} station={station} thing={thing} place={place} />
          ))}
        </ul>
      </section>
      <ThingFacts key={JSON.stringify(figuresOf(stage))} station={station} thing={thing} />
      <History station={station} thing={thing} />
    </div>
  )
}

function Place({
  station,
  thing,
  place,
}: {
  station: Station
  thing: Thing
  place: Thing['places'][number]
}) {
  const { chainId, stageId, chain, same } = place
  const { mark } = thing
  return (
    <li className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-rule py-1.5 text-sm">
      <span className="min-w-48 flex-1">
        <Link className="link" to={`${chainAddress(station.id, chainId)}?select=stage:${stageId}`}>
          {chain}
        </Link>
        {!same && <span className="text-caution"> ▲ edited there, and differs</span>}
      </span>
      {!same && (
        <>
          <button
            type="button"
            className="link min-h-6"
            onClick={() =>
              void act(async () => {
                await placeThing(thing.id, { chainId, stageId })
                return { said: `${chain} has the figures of ${mark} again.` }
              })
            }
          >
            take the figures of {mark}
          </button>
          <GiveFigures thing={thing} place={place} />
        </>
      )}
      <Link className="link min-h-6" to={`${chainAddress(station.id, chainId, 'log')}`}>
        enter a reading
      </Link>
      <button
        type="button"
        className="link min-h-6"
        aria-label={`Not ${mark} any more in ${chain}`}
        onClick={() =>
          void act(async () => {
            await unplaceThing(thing.id, chainId)
            return {
              said: `${chain} has a part of its own there.`,
              undo: () => placeThing(thing.id, { chainId, stageId }),
            }
          })
        }
      >
        not {mark} any more
      </button>
    </li>
  )
}

/** Bench sheets about it, in any chain. */
function History({ station, thing }: { station: Station; thing: Thing }) {
  const { data: kept = [] } = useQuery(measurementsQuery(station.id))
  const own = kept.filter(({ chainId, stageId }) =>
    thing.places.some((place) => place.chainId === chainId && place.stageId === stageId),
  )
  return (
    <section aria-label="Measured">
      <h3 className="border-b border-ink pb-1 font-bold">Measured</h3>
      {own.length === 0 && (
        <p className="py-1.5 text-sm text-muted">No bench sheet is about it yet.</p>
      )}
      <ul>
        {own.map(({ id, kind, title, measuredAt }) => (
          <li key={id} className="flex gap-3 border-b border-rule py-1 text-sm">
            <span className="w-24 text-muted">{dayText(measuredAt)}</span>
            <Link className="link" to={`/station/${station.id}/bench?sheet=${kind}&from=${id}`}>
              {titleOf(kind)}: {title}
            </Link>
          </li>
        ))}
      </ul>
      {thing.stage.kind === 'line' && thing.places[0] && (
        <Link
          className="button mt-2"
          to={`/station/${station.id}/bench?sheet=substitution&about=${thing.places[0].chainId}/${thing.places[0].stageId}`}
        >
          Measure its loss
        </Link>
      )}
    </section>
  )
}
