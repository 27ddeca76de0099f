import { asStage, figuresOf, sameFigures, type StageDocument } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { act } from '../platform/act.ts'
import { addThing, thingsQuery } from '../platform/api/thingQueries.ts'
import { TextField } from '../ui/TextField.tsx'
import type { PanelProps } from './panelProps.ts'

/** Which thing of the register a stage is, and whether it is still like it. */
export function ThingLine({
  station,
  document,
  actions,
  stage,
}: Pick<PanelProps, 'station' | 'document' | 'actions'> & { stage: StageDocument }) {
  const { data: things } = useQuery(thingsQuery(station.id))
  const [mark, setMark] = useState<string | null>(null)
  if (!things) return null
  const thing = things.find(({ id }) => id === stage.thingId)
  const become = (figures: StageDocument, thingId: string) =>
    actions.changeStage(stage.id, (now) => asStage(figures, now, thingId))
  if (thing) {
    const others = thing.places.filter(
      ({ stageId, chain }) => stageId !== stage.id || chain !== document.name,
    )
    return (
      <p className="text-sm">
        It is{' '}
        <Link className="link" to={`/station/${station.id}/thing/${thing.id}`}>
          {thing.mark}
        </Link>
        {others.length > 0 && `, which is also in ${others.map(({ chain }) => chain).join(', ')}`}
        {sameFigures(thing.stage, stage) ? (
          '.'
        ) : (
          <>
            , and differs from it.{' '}
            <button
              type="button"
              className="link min-h-6"
              onClick={() => become(thing.stage, thing.id)}
            >
              take the figures of {thing.mark}
            </button>{' '}
            or open it to give it these.
          </>
        )}
      </p>
    )
  }
  const here = new Set(document.stages.map(({ thingId }) => thingId))
  const fitting = things.filter(
    ({ id, stage: own, state }) => own.kind === stage.kind && !here.has(id) && state !== 'gone',
  )
  const make = () =>
    void act(async () => {
      const id = await addThing(station.id, {
        ...{ mark: mark!.trim(), stage: figuresOf(stage), where: '', state: 'in use' },
        ...{ serial: '', note: '', places: [] },
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
}
