import { isPart, type Station, type Thing } from '@saltline/contract'
import { Link } from 'react-router'
import { chainAddress } from '../../editor/useChainAddress.ts'
import { act } from '../../platform/act.ts'
import { placeThing, unplaceThing } from '../../platform/api/thingQueries.ts'
import { GiveFigures } from './GiveFigures.tsx'

/** A chain that it stands in, and what can be said of that. */
export function PlaceRow({
  station,
  thing,
  place,
}: {
  station: Station
  thing: Thing
  place: Thing['places'][number]
}) {
  const { chainId, stageId, chain, same, gone } = place
  const { mark } = thing
  const part = isPart(thing) ? thing : null
  const others = part !== null && thing.places.length > 1
  const move = (moved: boolean) =>
    void act(async () => {
      const back = thing.places.find((each) => each.chainId === thing.movedTo)
      await placeThing(thing.id, { chainId, stageId }, moved)
      return {
        said: moved ? `${mark} is in ${chain} alone now.` : `${mark} is in all its chains.`,
        undo: () =>
          placeThing(
            thing.id,
            back ? { chainId: back.chainId, stageId: back.stageId } : { chainId, stageId },
            back !== undefined,
          ),
      }
    })
  return (
    <li className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-rule py-1.5 text-sm">
      <span className="min-w-48 flex-1">
        <Link
          className="link"
          to={`${chainAddress(station.id, chainId, 'budget')}?select=${part ? `stage:${stageId}` : stageId}`}
        >
          {chain}
        </Link>
        {gone && <span className="text-caution"> ▲ gone: it was moved to another chain</span>}
        {!same && <span className="text-caution"> ▲ edited there, and differs</span>}
        {thing.movedTo === chainId && thing.places.length > 1 && (
          <span className="text-muted"> · in this chain alone</span>
        )}
      </span>
      {others && (gone || thing.movedTo === null) && (
        <button type="button" className="link min-h-6" onClick={() => move(true)}>
          it was moved here
        </button>
      )}
      {others && thing.movedTo === chainId && (
        <button type="button" className="link min-h-6" onClick={() => move(false)}>
          it is in all of them
        </button>
      )}
      {!same && part && (
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
          <GiveFigures thing={part} place={place} />
        </>
      )}
      <Link className="link min-h-6" to={`${chainAddress(station.id, chainId, 'log')}`}>
        enter a reading
      </Link>
      {part && (
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
      )}
    </li>
  )
}
