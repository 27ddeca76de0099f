/** What a new station is asked for, in the order of the job; every answer has a default that solves. */
import {
  CHAIN_DOCUMENT_VERSION,
  type ChainDocument,
  type Mode,
  newId,
  type StageDocument,
  type TransmitterDocument,
} from '@saltline/contract'
import { cableClasses } from '@saltline/core'
import { copyOfClass } from './stages/line.ts'
import { type AT_ANTENNA, AT_RADIO, keptSwr, swrLoad } from './swrRead.ts'

export interface StationDraft {
  name: string
  /** Of its first chain. */
  chain: string
  transmitter: string
  powerW: number
  /** How the set protects itself: as is typical, from an SWR that its book names, or not at all. */
  foldback: 'typical' | 'from' | 'none'
  fullPowerToSwr: number
  peaked: boolean
  leadM: number
  leadCable: string
  meter: boolean
  runM: number
  runCable: string
  antenna: string
  swr: number
  swrAt: typeof AT_RADIO | typeof AT_ANTENNA
  channels: { frequencyHz: number; mode: Mode }[]
}

export const firstDraft: StationDraft = {
  name: 'My station',
  chain: 'First chain',
  transmitter: 'Transmitter',
  powerW: 100,
  foldback: 'typical',
  fullPowerToSwr: 2,
  peaked: false,
  leadM: 1,
  leadCable: 'pe-5',
  meter: false,
  runM: 20,
  runCable: 'pe-10',
  antenna: 'Antenna',
  swr: 1.5,
  swrAt: AT_RADIO,
  channels: [{ frequencyHz: 7.1e6, mode: 'voice-plain' }],
}

/** The mode that a channel most likely has: aircraft talk in AM, and above them FM is usual. */
const usualMode = (hz: number): Mode => (hz < 118e6 ? 'voice-plain' : hz < 137e6 ? 'AM' : 'FM')

/** A channel on another frequency; its mode goes along where nobody chose one. */
export const retuned = (
  { frequencyHz, mode }: StationDraft['channels'][number],
  hz: number,
): StationDraft['channels'][number] => ({
  frequencyHz: hz,
  mode: mode === usualMode(frequencyHz) ? usualMode(hz) : mode,
})

/** Typical of solid-state sets: full power to 1.5, half at 3, little beyond. */
const TYPICAL_FOLDBACK: TransmitterDocument['foldback'] = [
  [1.5, 1],
  [2, 0.85],
  [3, 0.5],
  [5, 0.25],
  [10, 0.1],
]

/** The same, beginning elsewhere. */
const foldbackFrom = (swr: number): TransmitterDocument['foldback'] =>
  TYPICAL_FOLDBACK.map(([at, share]) => [
    Number(((at * swr) / TYPICAL_FOLDBACK[0]![0]).toFixed(2)),
    share,
  ])

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
  const document: ChainDocument = {
    version: CHAIN_DOCUMENT_VERSION,
    name: draft.chain,
    transmitter: {
      name: draft.transmitter,
      ratedW: draft.powerW,
      behaviour: draft.peaked ? 'peaked' : 'levelled',
      foldback:
        draft.foldback === 'none'
          ? []
          : draft.foldback === 'from'
            ? foldbackFrom(draft.fullPowerToSwr)
            : TYPICAL_FOLDBACK,
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
    channels: draft.channels.map((channel) => ({
      id: newId(),
      ...channel,
      powerW: draft.powerW,
    })),
  }
  const kept = keptSwr(document, draft.swr, draft.swrAt, firstHz(draft))
  return 'problem' in kept
    ? document
    : {
        ...document,
        load: swrLoad(draft.antenna, kept, firstHz(draft)),
      }
}

const firstHz = ({ channels }: StationDraft): number => channels[0]!.frequencyHz

/** Why the SWR and the cables of a draft cannot both be right. */
export function whyNotDraft(draft: StationDraft): string | null {
  const kept = keptSwr(chainOfDraft(draft), draft.swr, draft.swrAt, firstHz(draft))
  return 'problem' in kept ? kept.problem : null
}
