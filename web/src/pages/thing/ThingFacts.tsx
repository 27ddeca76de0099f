import {
  type Station,
  type Thing,
  thingBodySchema,
  type ThingBody,
  thingStates,
} from '@saltline/contract'
import { useState } from 'react'
import { bodyOfThing } from '../../model/things.ts'
import { act } from '../../platform/act.ts'
import { changeThing } from '../../platform/api/thingQueries.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { Problem } from '../../ui/Problem.tsx'
import { LengthField } from '../../ui/quantities.tsx'
import { TextField } from '../../ui/TextField.tsx'
import { Following } from './Following.tsx'
import { useConsequences } from './useConsequences.ts'

/** What is known of a thing besides its figures, and the length of a cable; kept together. */
export function ThingFacts({ station, thing }: { station: Station; thing: Thing }) {
  const [body, setBody] = useState<ThingBody>(() => bodyOfThing(thing))
  const [problem, setProblem] = useState<string | null>(null)
  const found = useConsequences(thing, body.stage)
  const set = (change: Partial<ThingBody>) => setBody({ ...body, ...change })
  const { stage } = body
  const longer = JSON.stringify(stage) !== JSON.stringify(thing.stage)
  const touched = JSON.stringify(body) !== JSON.stringify(bodyOfThing(thing))
  const save = async () => {
    const checked = thingBodySchema.safeParse(body)
    if (!checked.success) return setProblem(checked.error.issues[0]!.message)
    setProblem(null)
    await act(async () => {
      await changeThing(thing.id, checked.data)
      return {
        said: `${body.mark} is changed${longer ? ', in every chain that has it' : ''}.`,
        undo: () => changeThing(thing.id, bodyOfThing(thing)),
      }
    })
  }
  return (
    <section aria-label="What is known of it">
      <h3 className="border-b border-ink pb-1 font-bold">What is known of it</h3>
      <form
        className="mt-2 grid gap-3 sm:grid-cols-3"
        onSubmit={(event) => {
          event.preventDefault()
          void save()
        }}
      >
        <TextField
          label="Mark, written on it"
          value={body.mark}
          most={12}
          onChange={(mark) => set({ mark })}
        />
        {stage && (
          <TextField
            label="Name"
            value={stage.name}
            onChange={(name) => set({ stage: { ...stage, name } })}
          />
        )}
        <ChoiceField
          label="State"
          value={body.state}
          options={thingStates.map((value) => ({ value, label: value }))}
          onChange={(state) => set({ state })}
        />
        {stage?.kind === 'line' && (
          <LengthField
            label="Length"
            value={stage.lengthM}
            onChange={(lengthM) => set({ stage: { ...stage, lengthM } })}
          />
        )}
        <TextField
          label="Where it is"
          value={body.where}
          most={80}
          optional
          onChange={(where) => set({ where })}
        />
        <TextField
          label="Serial number"
          value={body.serial}
          most={60}
          optional
          onChange={(serial) => set({ serial })}
        />
        <label className="block text-xs text-muted">
          Bought on
          <input
            type="date"
            className="field mt-0.5 text-sm"
            value={body.boughtOn ?? ''}
            onChange={({ target }) => set({ boughtOn: target.value || undefined })}
          />
        </label>
        <OptionalField
          label="For"
          unit={station.currency}
          value={body.price ?? null}
          min={0}
          max={1e7}
          onChange={(price) => set({ price: price ?? undefined })}
        />
        <label className="block text-xs text-muted sm:col-span-3">
          Note
          <textarea
            className="field mt-0.5"
            rows={2}
            maxLength={2000}
            value={body.note}
            onChange={({ target }) => set({ note: target.value })}
          />
        </label>
        <div className="space-y-2 sm:col-span-3">
          {longer && <Following found={found} />}
          <Problem text={problem} />
          <button type="submit" className="button button-main" disabled={!touched}>
            {longer && thing.places.length > 0 ? 'Keep, and change its chains' : 'Keep'}
          </button>
        </div>
      </form>
    </section>
  )
}
