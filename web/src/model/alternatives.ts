/** Alternatives to a chain: what they change, what of it no longer fits, and what it costs. */
import type {
  Alternative,
  ChainDocument,
  Change,
  LoadDocument,
  StageDocument,
} from '@saltline/contract'
import {
  formatLength,
  formatPower,
  type LengthUnit,
  type PowerUnit,
  withCable,
} from '@saltline/core'
import { factsOf, type Store } from './cableFacts.ts'
import type { Edit } from './edits.ts'
import { kindOf } from './stages/index.ts'
import { withoutReads } from './swrRead.ts'

type Line = Extract<StageDocument, { kind: 'line' }>

export const alternativesOf = ({ alternatives = [] }: ChainDocument): Alternative[] => alternatives

/** A change that the chain has no place for any more, and why. */
export interface Misfit {
  change: number
  why: string
}

export interface Applied {
  document: ChainDocument
  misfits: Misfit[]
}

/** The chain with an alternative's changes made, one after the other; those that do not fit are named. */
export function applyAlternative(document: ChainDocument, { changes }: Alternative): Applied {
  const misfits: Misfit[] = []
  let next = document
  changes.forEach((change, i) => {
    const result = applyChange(next, change)
    if (typeof result === 'string') misfits.push({ change: i, why: result })
    else next = result
  })
  return { document: next, misfits }
}

/** The chain with one change made, or why it cannot be. */
function applyChange(document: ChainDocument, change: Change): ChainDocument | string {
  const { stages } = document
  const stageId = 'stageId' in change ? change.stageId : null
  const at = stages.findIndex(({ id }) => id === stageId)
  if (stageId !== null && at < 0) return 'That part is no longer in the chain.'
  const stage = stages[at]!
  const put = (changed: StageDocument[]) => ({ ...document, stages: changed })
  switch (change.kind) {
    case 'cable':
      if (stage.kind !== 'line' && stage.kind !== 'stub')
        return `${stage.name} is no cable any more.`
      return put(stages.with(at, newCable(stage, change.cable)))
    case 'length':
      if (stage.kind !== 'line' && stage.kind !== 'stub')
        return `${stage.name} is no cable any more.`
      return put(stages.with(at, { ...stage, lengthM: change.lengthM }))
    case 'replace':
      return put(stages.with(at, { ...change.stage, id: stage.id, name: stage.name }))
    case 'remove':
      return put(stages.toSpliced(at, 1))
    case 'insert': {
      if (stages.some(({ id }) => id === change.stage.id)) return 'It is in the chain already.'
      const index = behindOf(stages, change.behind)
      return index === null ? NOWHERE : put(stages.toSpliced(index, 0, change.stage))
    }
    case 'move': {
      const rest = stages.toSpliced(at, 1)
      const index = behindOf(rest, change.behind)
      return index === null ? NOWHERE : put(rest.toSpliced(index, 0, stage))
    }
    case 'power':
      return {
        ...document,
        channels: document.channels.map((channel) => ({ ...channel, powerW: change.powerW })),
      }
    case 'antenna':
      return { ...document, load: change.load }
  }
}

const NOWHERE = 'The part that it was to stand behind is no longer in the chain.'

/** Index behind a stage; 0 behind the transmitter, null where the stage is gone. */
function behindOf(stages: readonly StageDocument[], behind: string | null): number | null {
  if (behind === null) return 0
  const index = stages.findIndex(({ id }) => id === behind)
  return index < 0 ? null : index + 1
}

/** A new cable is not aged, and what was known of the old one's limits is gone with it. */
function newCable<S extends Line | Extract<StageDocument, { kind: 'stub' }>>(
  stage: S,
  cable: Line['cable'],
): S {
  const { limits: _, ...rest } = withCable(stage, cable)
  return rest as S
}

/** What a change does, in a few words. */
export function changeText(
  change: Change,
  { stages }: ChainDocument,
  units: { length: LengthUnit; power: PowerUnit },
): string {
  const nameOf = (id: string) =>
    stages.find((stage) => stage.id === id)?.name ?? 'a part that is gone'
  const place = (behind: string | null) =>
    behind === null ? 'at the transmitter' : `behind ${nameOf(behind)}`
  switch (change.kind) {
    case 'cable':
      return `${nameOf(change.stageId)}: ${change.cable.name}`
    case 'length':
      return `${nameOf(change.stageId)}: ${formatLength(change.lengthM, units.length)}`
    case 'replace':
      return `${nameOf(change.stageId)}: ${kindOf(change.stage).title(change.stage)} with other figures`
    case 'insert':
      return `${change.stage.name} put in ${place(change.behind)}`
    case 'move':
      return `${nameOf(change.stageId)} ${place(change.behind)}`
    case 'remove':
      return `without ${nameOf(change.stageId)}`
    case 'power':
      return `${formatPower(change.powerW, units.power)} set on every channel`
    case 'antenna':
      return `antenna: ${change.load.name}`
  }
}

/** What an alternative is to be bought and carried; null where a part of it is not known. */
export interface Expense {
  price: number | null
  /** What of it has no price. */
  unpriced: string[]
  /** Of all cable in the chain, kg. */
  weightKg: number | null
  /** Of all cable that is new, mm; null where none is new, or it is not known. */
  bendMm: number | null
}

/** The price of an alternative, and what its cable weighs. Moving a part or turning a knob costs nothing. */
export function expenseOf(
  document: ChainDocument,
  alternative: Alternative | null,
  station: Store,
): Expense {
  const after = alternative ? applyAlternative(document, alternative).document : document
  const before = new Map(document.stages.map((stage) => [stage.id, stage]))
  const unpriced: string[] = []
  let price = alternative?.otherPrice ?? 0
  const bends: (number | null)[] = []
  let weightKg: number | null = 0
  for (const stage of after.stages) {
    if (stage.kind !== 'line') {
      const was = before.get(stage.id)
      // A part that comes in, or in another make, has a price of its own, which the operator says.
      const bought = !was || (was !== stage && was.kind !== stage.kind)
      if (bought && alternative?.otherPrice === undefined) unpriced.push(stage.name)
      continue
    }
    const facts = factsOf(stage.cable, station)
    weightKg =
      weightKg === null || facts.weightKgPer100m === null
        ? null
        : weightKg + (stage.lengthM * facts.weightKgPer100m) / 100
    if (!isNew(before.get(stage.id), stage)) continue
    bends.push(facts.minBendMm)
    const { connectorPair } = station.prices
    if (facts.pricePerM === null || connectorPair === undefined)
      unpriced.push(facts.pricePerM === null ? stage.cable.name : 'connectors')
    else price += facts.pricePerM * stage.lengthM + connectorPair
  }
  return {
    price: unpriced.length > 0 ? null : price,
    unpriced: [...new Set(unpriced)],
    weightKg,
    bendMm:
      bends.length === 0 || bends.some((bend) => bend === null)
        ? null
        : Math.max(...(bends as number[])),
  }
}

/** A section is bought where its cable is another one or there is more of it; a shorter one is cut. */
const isNew = (was: StageDocument | undefined, now: Line): boolean =>
  was?.kind !== 'line' || was.cable.name !== now.cable.name || now.lengthM > was.lengthM

/** The edits of the list. */
export const addAlternative =
  (alternative: Alternative): Edit =>
  (document) => ({ ...document, alternatives: [...alternativesOf(document), alternative] })

export const changeAlternative =
  (id: string, change: (alternative: Alternative) => Alternative): Edit =>
  (document) => ({
    ...document,
    alternatives: alternativesOf(document).map((each) => (each.id === id ? change(each) : each)),
  })

export const removeAlternative =
  (id: string): Edit =>
  (document) => ({
    ...document,
    alternatives: alternativesOf(document).filter((each) => each.id !== id),
  })

/** It becomes the chain; the others stay, and follow. */
export const takeAlternative =
  (id: string): Edit =>
  (document) => {
    const chosen = alternativesOf(document).find((each) => each.id === id)
    if (!chosen) return document
    const next = removeAlternative(id)(applyAlternative(document, chosen).document)
    return { ...next, load: withoutReads(next.load) }
  }

/** The sweep that an alternative's antenna needs, besides the chain's own. */
export const sweepOf = (load: LoadDocument): string | undefined =>
  load.kind === 'antenna' ? load.sweepId : undefined
