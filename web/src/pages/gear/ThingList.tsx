import {
  isPart,
  type OfferedThing,
  type Station,
  type Thing,
  thingStates,
  type UnmarkedThing,
} from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { Printer } from 'lucide-react'
import { Link } from 'react-router'
import { chainsOf, stageFacts, thingFacts } from '../../model/things.ts'
import { act } from '../../platform/act.ts'
import {
  addThing,
  deleteThing,
  offeredThingsQuery,
  thingsQuery,
  unmarkedThingsQuery,
} from '../../platform/api/thingQueries.ts'
import { useUnits } from '../../platform/preferences.ts'
import { Scroll } from '../../ui/Scroll.tsx'

/** The register: what the station owns, and in which chains each thing stands. */
export function ThingList({ station }: { station: Station }) {
  const { length } = useUnits()
  const { data: things } = useQuery(thingsQuery(station.id))
  const { data: offers = [] } = useQuery(offeredThingsQuery(station.id))
  const { data: unmarked = [] } = useQuery(unmarkedThingsQuery(station.id))
  if (!things) return null
  const inOrder = [...things].sort(
    (a, b) => thingStates.indexOf(a.state) - thingStates.indexOf(b.state),
  )
  return (
    <div className="mx-auto w-full max-w-5xl space-y-6 px-5 py-5 max-sm:px-3">
      <section aria-label="Things">
        <header className="flex flex-wrap items-end justify-between gap-3">
          <p className="max-w-prose text-sm text-muted">
            A cable is one thing, however many chains pass through it: changed once, it changes in
            all of them. Any stage of a chain is made a thing in its panel.
          </p>
          {things.length > 0 && (
            <Link className="button" to={`/station/${station.id}/labels`}>
              <Printer size={14} aria-hidden /> Labels
            </Link>
          )}
        </header>
        {things.length === 0 ? (
          <p className="mt-3">No thing is in the register yet.</p>
        ) : (
          <Scroll label="Things">
            <table className="mt-2 w-full text-sm [&_td]:py-1.5 [&_td]:pr-4 [&_th]:py-1.5 [&_th]:pr-4">
              <thead>
                <tr className="border-b border-ink text-left">
                  <th scope="col">Mark</th>
                  <th scope="col">What</th>
                  <th scope="col">In</th>
                  <th scope="col">Where</th>
                  <th scope="col">State</th>
                </tr>
              </thead>
              <tbody>
                {inOrder.map((thing) => (
                  <Row key={thing.id} station={station} thing={thing} unit={length} />
                ))}
              </tbody>
            </table>
          </Scroll>
        )}
      </section>
      {offers.length > 0 && (
        <section aria-label="Equal parts">
          <h2 className="border-b border-ink pb-1 font-bold">Perhaps one thing each</h2>
          <ul>
            {offers.map((offer) => (
              <Offer key={offer.mark} stationId={station.id} offer={offer} />
            ))}
          </ul>
        </section>
      )}
      {unmarked.length > 0 && (
        <section aria-label="Without a mark">
          <h2 className="border-b border-ink pb-1 font-bold">In Gear, without a mark</h2>
          <ul>
            {unmarked.map((entry) => (
              <Unmarked key={entry.of.id} station={station} entry={entry} />
            ))}
          </ul>
        </section>
      )}
    </div>
  )
}

const Row = ({
  station,
  thing,
  unit,
}: {
  station: Station
  thing: Thing
  unit: Parameters<typeof thingFacts>[1]
}) => (
  <tr className="border-b border-rule align-top">
    <th scope="row" className="text-left">
      <Link className="link font-bold" to={`/station/${station.id}/thing/${thing.id}`}>
        {thing.mark}
      </Link>
    </th>
    <td>
      {thing.name}
      <span className="block text-muted">{thingFacts(thing, unit, station.gear)}</span>
    </td>
    <td>
      {isPart(thing) || thing.places.length > 0 ? chainsOf(thing) : ''}
      {thing.places.some(({ same }) => !same) && (
        <span className="block text-caution">▲ differs in a chain</span>
      )}
      {thing.places.some(({ gone }) => gone) && (
        <span className="block text-caution">▲ gone from a chain</span>
      )}
    </td>
    <td>{thing.where}</td>
    <td>{thing.state}</td>
  </tr>
)

/** What is not known yet of one that is added. */
const NEW = { where: '', state: 'in use', movedTo: null, serial: '', note: '' } as const

/** A radio, an instrument or an antenna, which has its figures in Gear: what it lacks is a mark. */
function Unmarked({ station, entry }: { station: Station; entry: UnmarkedThing }) {
  const { mark, name, of } = entry
  const { length } = useUnits()
  return (
    <li className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1 border-b border-rule py-1.5 text-sm">
      <span>
        <b>{name}</b> <span className="text-muted">{thingFacts({ of }, length, station.gear)}</span>
      </span>
      <button
        type="button"
        className="link min-h-6"
        aria-label={`Put it into the register as ${mark}: ${name}`}
        onClick={() =>
          void act(async () => {
            const id = await addThing(station.id, { mark, of, ...NEW, places: [] })
            return { said: `${name} is ${mark} in the register.`, undo: () => deleteThing(id) }
          })
        }
      >
        put it into the register as {mark}
      </button>
    </li>
  )
}

function Offer({ stationId, offer }: { stationId: string; offer: OfferedThing }) {
  const { mark, stage, places } = offer
  const { length } = useUnits()
  const join = () =>
    void act(async () => {
      const id = await addThing(stationId, {
        ...{ mark, stage, ...NEW },
        places: places.map(({ chainId, stageId }) => ({ chainId, stageId })),
      })
      return { said: `${stage.name} is one thing now, ${mark}.`, undo: () => deleteThing(id) }
    })
  return (
    <li className="flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1 border-b border-rule py-1.5 text-sm">
      <span>
        <b>{stage.name}</b>{' '}
        <span className="text-muted">
          {[stageFacts(stage, length), `in ${chainsOf({ places })}`].filter(Boolean).join(', ')}
        </span>
      </span>
      <button
        type="button"
        className="link min-h-6"
        aria-label={`Make it one thing, ${mark}: ${stage.name}`}
        onClick={join}
      >
        make it one thing, {mark}
      </button>
    </li>
  )
}
