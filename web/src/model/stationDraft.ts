/** What a new station is asked for, in the order of the job; every answer has a default that solves. */
import {
  CHAIN_DOCUMENT_VERSION,
  type ChainDocument,
  newId,
  type StageDocument,
  type TransmitterDocument,
} from '@saltline/contract'
import { cableClasses } from '@saltline/core'
import { copyOfClass } from './stages/line.ts'

export interface StationDraft {
  name: string
  transmitter: string
  powerW: number
  /** How the set protects itself, by kind. */
  foldback: 'solid-state' | 'none'
  peaked: boolean
  leadM: number
  leadCable: string
  meter: boolean
  runM: number
  runCable: string
  antenna: string
  swr: number
  frequenciesHz: number[]
}

export const firstDraft: StationDraft = {
  name: 'My station',
  transmitter: 'Transmitter',
  powerW: 100,
  foldback: 'solid-state',
  peaked: false,
  leadM: 1,
  leadCable: 'pe-5',
  meter: false,
  runM: 20,
  runCable: 'pe-10',
  antenna: 'Antenna',
  swr: 1.5,
  frequenciesHz: [7.1e6],
}

/** Typical of solid-state sets: full power to 1.5, half at 3, little beyond. */
const TYPICAL_FOLDBACK: TransmitterDocument['foldback'] = [
  [1.5, 1],
  [2, 0.85],
  [3, 0.5],
  [5, 0.25],
  [10, 0.1],
]

const line = (name: string, lengthM: number, cableId: string): StageDocument => ({
  id: newId(),
  kind: 'line',
  name,
  lengthM,
  cable: copyOfClass(cableClasses.find(({ id }) => id === cableId)!),
})

/** The chain that the answers so far describe. */
export function chainOfDraft(draft: StationDraft): ChainDocument {
  const { leadM, runM } = draft
  return {
    version: CHAIN_DOCUMENT_VERSION,
    name: 'First chain',
    transmitter: {
      name: draft.transmitter,
      ratedW: draft.powerW,
      behaviour: draft.peaked ? 'peaked' : 'levelled',
      foldback: draft.foldback === 'none' ? [] : TYPICAL_FOLDBACK,
    },
    stages: [
      ...(leadM > 0 ? [line('Patch lead', leadM, draft.leadCable)] : []),
      ...(draft.meter
        ? [
            {
              id: newId(),
              kind: 'pad' as const,
              part: 'meter' as const,
              name: 'Wattmeter',
              lossDb: 0.05,
            },
          ]
        : []),
      ...(runM > 0 ? [line('Long run', runM, draft.runCable)] : []),
    ],
    load: { kind: 'swr', name: draft.antenna, swr: draft.swr },
    channels: draft.frequenciesHz.map((frequencyHz) => ({
      id: newId(),
      frequencyHz,
      mode: 'voice-plain',
      powerW: draft.powerW,
    })),
  }
}
