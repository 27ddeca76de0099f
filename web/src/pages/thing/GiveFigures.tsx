import { figuresOf, type PartThing, type StageDocument, type Thing } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { bodyOfThing, stageFacts } from '../../model/things.ts'
import { act } from '../../platform/act.ts'
import { chainOnPaperQuery } from '../../platform/api/queries.ts'
import { changeThing } from '../../platform/api/thingQueries.ts'
import { useUnits } from '../../platform/preferences.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { Following } from './Following.tsx'
import { useConsequences } from './useConsequences.ts'

/** Gives a thing the figures that it has in one chain, and with it to all chains, after saying what follows. */
export function GiveFigures({
  thing,
  place,
}: {
  thing: PartThing
  place: Thing['places'][number]
}) {
  const [open, setOpen] = useState(false)
  const { data } = useQuery(chainOnPaperQuery(place.chainId))
  const stage = data?.document.stages.find(({ id }) => id === place.stageId)
  return (
    <>
      <button
        type="button"
        className="link min-h-6"
        disabled={!stage}
        onClick={() => setOpen(true)}
      >
        give {thing.mark} these figures…
      </button>
      {open && stage && (
        <Give thing={thing} place={place} stage={stage} onClose={() => setOpen(false)} />
      )}
    </>
  )
}

function Give({
  thing,
  place,
  stage,
  onClose,
}: {
  thing: PartThing
  place: Thing['places'][number]
  stage: StageDocument
  onClose: () => void
}) {
  const { length } = useUnits()
  const figures = figuresOf(stage)
  const found = useConsequences(thing, figures, place.chainId)
  const { mark } = thing
  const give = () =>
    void act(async () => {
      await changeThing(thing.id, { ...bodyOfThing(thing), stage: figures })
      onClose()
      return {
        said: `${mark} is changed, in every chain that has it.`,
        undo: () => changeThing(thing.id, bodyOfThing(thing)),
      }
    })
  return (
    <Dialog title={`${mark}, as in ${place.chain}`} onClose={onClose}>
      <div className="space-y-3">
        <p className="text-sm">
          {stageFacts(thing.stage, length)} → {stageFacts(figures, length)}
        </p>
        <Following found={found} />
        <button
          type="button"
          className="button button-main"
          disabled={found === null}
          onClick={give}
        >
          Change {mark} everywhere
        </button>
      </div>
    </Dialog>
  )
}
