/** A tuner in another place, as changes of an alternative. */
import { type ChainDocument, type Change, newId } from '@saltline/contract'
import type { TunerPlace } from '@saltline/core'
import { tunerKinds } from './stages/tuner.ts'

export const tunerPlaceNames: Record<TunerPlace, string> = {
  none: 'no tuner',
  radio: 'tuner at the radio',
  feedPoint: 'tuner at the feed point',
}

/** A usual one, where the chain has none. */
const usualTuner = () => ({
  ...tunerKinds.hand,
  coilH: [...tunerKinds.hand.coilH] as [number, number],
  capacitorF: [...tunerKinds.hand.capacitorF] as [number, number],
  id: newId(),
  name: 'Tuner',
})

/** The tuner of the chain moved there, or taken out; a usual one put in where there is none. */
export function tunerPlaceChanges({ stages }: ChainDocument, place: TunerPlace): Change[] {
  const tuners = stages.filter(({ kind }) => kind === 'tuner')
  const [own, ...others] = tuners
  const surplus = (place === 'none' ? tuners : others).map(({ id }): Change => ({
    kind: 'remove',
    stageId: id,
  }))
  if (place === 'none') return surplus
  const rest = stages.filter(({ kind }) => kind !== 'tuner')
  const amplifier = rest.findLast(({ kind, bypassed }) => kind === 'amplifier' && !bypassed)
  const behind = place === 'radio' ? (amplifier?.id ?? null) : (rest.at(-1)?.id ?? null)
  return [
    ...surplus,
    own
      ? { kind: 'move', stageId: own.id, behind }
      : { kind: 'insert', stage: usualTuner(), behind },
  ]
}
