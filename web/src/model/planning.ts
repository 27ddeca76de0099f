/** What the planner is asked for, and what its answer makes of a chain. */
import { type Alternative, type ChainDocument, newId, type Station } from '@saltline/contract'
import {
  type Chain,
  type PlanMember,
  type PlanRequest,
  type TunerStage,
  tunerPlaces,
} from '@saltline/core'
import { operatingPoint } from './answers.ts'
import { type CableChoice, cableChoices, factsOf } from './cableFacts.ts'
import { tunerKinds } from './stages/tuner.ts'
import { tunerPlaceChanges, tunerPlaceNames } from './tunerPlace.ts'

export type Line = Extract<ChainDocument['stages'][number], { kind: 'line' }>

/** What may change, and what counts. */
export interface Wanted {
  /** Ids of sections. */
  sections: string[]
  tuner: boolean
  tunerPrice: number | undefined
  /** Only cables of the impedance that is there. */
  sameImpedance: boolean
  /** Bounds of the cables that may be used; null where there is none. */
  mostOuterMm: number | null
  mostBendMm: number | null
  mostKgPer100m: number | null
  mostPricePerM: number | null
  counts: 'worst' | 'all' | 'weights' | `one ${string}`
  /** By channel; 1 where nothing is said. */
  weights: Record<string, number>
  by: 'price' | 'weight'
  budget: number | null
}

/** A request, and what it was made of: what its answer is read by. */
export interface Asked {
  request: PlanRequest
  sections: Line[]
  choices: CableChoice[]
}

/** Cables within this of an impedance have it, Ω. */
const SAME_OHM = 5

export const linesOf = ({ stages }: ChainDocument): Line[] =>
  stages.filter((stage): stage is Line => stage.kind === 'line' && !stage.bypassed)

/** At first the longest section may change, and nothing else. */
export const firstWanted = (lines: readonly Line[]): Wanted => ({
  sections: lines
    .toSorted((a, b) => b.lengthM - a.lengthM)
    .slice(0, 1)
    .map(({ id }) => id),
  tuner: false,
  tunerPrice: undefined,
  sameImpedance: true,
  mostOuterMm: null,
  mostBendMm: null,
  mostKgPer100m: null,
  mostPricePerM: null,
  counts: 'worst',
  weights: {},
  by: 'price',
  budget: null,
})

/** What is not known is ruled out by a bound; a bound that is not given rules nothing out. */
const within = (value: number | null, most: number | null): boolean =>
  most === null || (value !== null && value <= most)

export function planFor(
  document: ChainDocument,
  chain: Chain,
  station: Pick<Station, 'gear' | 'prices'>,
  wanted: Wanted,
): Asked {
  const choices = cableChoices(station)
  const sections = linesOf(document).filter(({ id }) => wanted.sections.includes(id))
  const fits = (choice: CableChoice, section: Line) =>
    (!wanted.sameImpedance || Math.abs(choice.cable.z0Ohm - section.cable.z0Ohm) < SAME_OHM) &&
    within(choice.outerMm, wanted.mostOuterMm) &&
    within(choice.minBendMm, wanted.mostBendMm) &&
    within(choice.weightKgPer100m, wanted.mostKgPer100m) &&
    within(choice.pricePerM, wanted.mostPricePerM)
  const own = chain.stages.find((stage): stage is TunerStage => stage.kind === 'tuner')
  const byPrice = wanted.by === 'price'
  const costPerM = ({ pricePerM, weightKgPer100m }: CableChoice) =>
    (byPrice ? pricePerM : weightKgPer100m === null ? null : weightKgPer100m / 100) ?? undefined
  const weightOf = (section: Line) => {
    const { weightKgPer100m } = factsOf(section.cable, station)
    return weightKgPer100m === null ? undefined : (weightKgPer100m * section.lengthM) / 100
  }
  const weightOn = (channelId: string): number => {
    if (wanted.counts === 'all') return 1
    if (wanted.counts === 'weights') return wanted.weights[channelId] ?? 1
    return wanted.counts === `one ${channelId}` ? 1 : 0
  }
  const request: PlanRequest = {
    chain,
    at: document.channels.map((each) => operatingPoint(document.transmitter, each)),
    counts: wanted.counts === 'worst' ? 'worst' : document.channels.map(({ id }) => weightOn(id)),
    sections: sections.map((section) => ({
      stage: document.stages.findIndex(({ id }) => id === section.id),
      presentCost: byPrice ? 0 : weightOf(section),
      candidates: choices
        .filter((choice) => choice.id !== section.cable.gearId && fits(choice, section))
        .map((choice) => ({ id: choice.id, cable: choice.cable, costPerM: costPerM(choice) })),
    })),
    ...(wanted.tuner && {
      tuner: {
        tuner: own ?? tunerKinds.hand,
        places: own ? tunerPlaces : (['radio', 'feedPoint'] as const),
        cost: own || !byPrice ? 0 : wanted.tunerPrice,
      },
    }),
    costPerSection: byPrice ? station.prices.connectorPair : 0,
    budget: wanted.budget ?? undefined,
  }
  return { request, sections, choices }
}

/** A member of a plan as changes to the chain that it was made for. */
export function plannedAlternative(
  { cables, place }: PlanMember,
  { sections, choices }: Asked,
  document: ChainDocument,
): Alternative {
  const bought = cables.flatMap((id, s) => {
    const choice = choices.find((each) => each.id === id)
    return choice ? [{ section: sections[s]!, choice }] : []
  })
  const name = [
    ...bought.map(({ section, choice }) => `${section.name}: ${choice.name}`),
    ...(place === null ? [] : [tunerPlaceNames[place]]),
  ].join(', ')
  return {
    id: newId(),
    name: (name || 'As it stands').slice(0, 80),
    changes: [
      ...bought.map(({ section, choice }) => ({
        kind: 'cable' as const,
        stageId: section.id,
        cable: choice.cable,
      })),
      ...(place === null ? [] : tunerPlaceChanges(document, place)),
    ],
  }
}
