import {
  asStage,
  figuresOf,
  isPart,
  type PartThing,
  sameFigures,
  type StageDocument,
  type Thing,
} from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { memo, type RefObject, useEffect, useRef, useState } from 'react'
import { Link } from 'react-router'
import { act } from '../platform/act.ts'
import { addThing, thingsQuery } from '../platform/api/thingQueries.ts'
import { TextField } from '../ui/TextField.tsx'
import type { PanelProps } from './panelProps.ts'

const NONE: readonly Thing[] = []

/**
 * Which thing of the register a stage is, and whether it is still like it. A hook that gives an element, not a component:
 * it is asked with every key in a field, and what it gives is drawn again only when that changes.
 */
export function useThingLine({
  station,
  document,
  actions,
  stage,
}: Pick<PanelProps, 'station' | 'document' | 'actions'> & { stage: StageDocument | undefined }) {
  const { data: things = NONE, isPending } = useQuery(thingsQuery(station.id))
  const now = useRef(stage)
  useEffect(() => {
    now.current = stage
  })
  if (isPending || !stage) return null
  const parts = things.filter(isPart)
  const thing = parts.find(({ id }) => id === stage.thingId)
  const about = { stationId: station.id, stageId: stage.id, actions }
  return thing ? (
    <Known
      key={`thing-${stage.id}`}
      {...about}
      thing={thing}
      chain={document.name}
      differs={!sameFigures(thing.stage, stage)}
    />
  ) : (
    <Unknown
      key={`no-thing-${stage.id}`}
      {...about}
      now={now}
      kind={stage.kind}
      things={parts}
      here={document.stages.map(({ thingId }) => thingId ?? '').join(' ')}
    />
  )
}

interface About {
  stationId: string
  stageId: string
  actions: PanelProps['actions']
}

/** A stage that is a thing: it is drawn again only when that changes, not with every key in a field. */
const Known = memo(function Known({
  stationId,
  stageId,
  actions,
  thing,
  chain,
  differs,
}: About & { thing: PartThing; chain: string; differs: boolean }) {
  const others = thing.places.filter((place) => place.stageId !== stageId || place.chain !== chain)
  const here = thing.places.find((place) => !others.includes(place))
  if (here?.gone) {
    const now = others.find(({ gone }) => !gone)?.chain
    return (
      <p className="text-sm text-caution">
        ▲{' '}
        <Link className="link" to={`/station/${stationId}/thing/${thing.id}`}>
          {thing.mark}
        </Link>{' '}
        is gone from here{now && `: it was moved to ${now}`}. Put another part in, or bring it back
        on its page.
      </p>
    )
  }
  return (
    <p className="text-sm">
      It is{' '}
      <Link className="link" to={`/station/${stationId}/thing/${thing.id}`}>
        {thing.mark}
      </Link>
      {others.length > 0 && `, which is also in ${others.map((each) => each.chain).join(', ')}`}
      {differs ? (
        <>
          , and differs from it.{' '}
          <button
            type="button"
            className="link min-h-6"
            onClick={() =>
              actions.changeStage(stageId, (stage) => asStage(thing.stage, stage, thing.id))
            }
          >
            take the figures of {thing.mark}
          </button>{' '}
          or open it to give it these.
        </>
      ) : (
        '.'
      )}
    </p>
  )
})

/** A stage that is no thing yet: one of the register, or a new one. */
const Unknown = memo(function Unknown({
  stationId,
  stageId,
  actions,
  now,
  kind,
  things,
  here,
}: About & {
  /** The stage as it stands when something is pressed. */
  now: RefObject<StageDocument | undefined>
  kind: StageDocument['kind']
  things: readonly PartThing[]
  /** The things that stand in the chain, with spaces between. */
  here: string
}) {
  const [mark, setMark] = useState<string | null>(null)
  const taken = new Set(here.split(' '))
  const fitting = things.filter(
    ({ id, stage, state }) => stage.kind === kind && !taken.has(id) && state !== 'gone',
  )
  const become = (figures: StageDocument, thingId: string) =>
    actions.changeStage(stageId, (stage) => asStage(figures, stage, thingId))
  const make = () =>
    void act(async () => {
      const stage = now.current
      if (!stage) return
      const id = await addThing(stationId, {
        ...{ mark: mark!.trim(), stage: figuresOf(stage), where: '', state: 'in use' },
        ...{ movedTo: null, serial: '', note: '', places: [] },
      })
      become(stage, id)
      setMark(null)
      return { said: `${stage.name} is ${mark} in the register.` }
    })
  return (
    <div className="flex flex-wrap items-end gap-2 text-sm">
      {fitting.length > 0 && (
        <label className="text-xs text-muted">
          It is the thing
          <select
            className="field mt-0.5 text-sm"
            value=""
            onChange={({ target }) => {
              const chosen = fitting.find(({ id }) => id === target.value)
              if (chosen) become(chosen.stage, chosen.id)
            }}
          >
            <option value="">none of the register</option>
            {fitting.map(({ id, mark: own, stage: { name } }) => (
              <option key={id} value={id}>
                {own} {name}
              </option>
            ))}
          </select>
        </label>
      )}
      {mark === null ? (
        <button type="button" className="link min-h-6" onClick={() => setMark('')}>
          put it into the register
        </button>
      ) : (
        <form
          className="flex items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault()
            if (mark.trim() !== '') make()
          }}
        >
          <TextField
            label="Mark, written on it"
            value={mark}
            most={12}
            optional
            onChange={setMark}
          />
          <button type="submit" className="button" disabled={mark.trim() === ''}>
            Add
          </button>
        </form>
      )}
    </div>
  )
})
