/** The stations that one practises on: invented, and the same everywhere. */
import { cableClasses } from '../cables/cableClass.ts'
import type { Chain } from '../chain/chain.ts'
import type { Channel } from '../diagnosis/evidence.ts'
import type { Cable } from '../line/cable.ts'
import type { Meter } from '../measure/meter.ts'
import type { Stage } from '../stages/stage.ts'

export interface PracticeStation {
  id: string
  name: string
  radio: string
  antenna: string
  chain: Chain
  /** Names of the stages; what is printed on the jacket of a cable, elsewhere nothing. */
  stageNames: readonly string[]
  jackets: readonly (string | null)[]
  /** Three frequencies on a steady carrier; the first of them once more on voice. */
  channels: readonly Channel[]
}

/** Index of the operating point that is voice on the first frequency. */
export const VOICE_POINT = 3

/** The two meters at hand: the station's own, which holds peaks, and one that averages. */
export const practiceMeters: readonly (Meter & { name: string })[] = [
  {
    name: 'Heron',
    kind: 'peak',
    rangesW: [3, 10, 30, 100, 300],
    accuracy: 0.05,
    divisions: 50,
    directivityDb: 28,
  },
  {
    name: 'Plover',
    kind: 'averaging',
    rangesW: [1, 3, 10, 30, 100, 300],
    accuracy: 0.03,
    divisions: 50,
    directivityDb: 28,
  },
]

/** A cable of the catalogue. */
export const practiceCable = (id: string): Cable & { name: string } =>
  cableClasses.find((own) => own.id === id)!

type Part = { name: string; stage: Stage; jacket?: string }

const section = (name: string, id: string, lengthM: number): Part => {
  const cable = practiceCable(id)
  return { name, stage: { kind: 'line', lengthM, cable }, jacket: cable.name }
}
const small = (name: string, lossDb: number): Part => ({ name, stage: { kind: 'pad', lossDb } })

function station(
  { id, name, radio, antenna }: Pick<PracticeStation, 'id' | 'name' | 'radio' | 'antenna'>,
  parts: readonly Part[],
  { mhz, powerW }: { mhz: readonly [number, number, number]; powerW: number },
  load: Chain['load'],
): PracticeStation {
  const steady = mhz.map((f): Channel => ({
    frequencyHz: f * 1e6,
    powerW,
    emission: { mode: 'key-down' },
  }))
  return {
    id,
    name,
    radio,
    antenna,
    chain: {
      transmitter: {
        behaviour: 'levelled',
        foldback: [
          [1.6, 1],
          [2.2, 0.8],
          [3, 0.45],
          [5, 0.2],
        ],
      },
      stages: parts.map(({ stage }) => stage),
      load,
    },
    stageNames: parts.map((part) => part.name),
    jackets: parts.map(({ jacket }) => jacket ?? null),
    channels: [...steady, { ...steady[0]!, emission: { mode: 'voice-processed' } }],
  }
}

export const practiceStations: readonly PracticeStation[] = [
  station(
    { id: 'dipole', name: 'HF dipole', radio: 'Petrel', antenna: 'Dipole' },
    [
      section('Patch lead', 'pe-5', 2),
      small('Arrester', 0.1),
      section('Feed line', 'foam-7', 42),
      small('Choke', 0.15),
    ],
    { mhz: [8.294, 8.1, 8.5], powerW: 90 },
    { kind: 'resonator', resonanceHz: 8.3e6, rOhm: 57, q: 7 },
  ),
  station(
    { id: 'mast', name: 'VHF mast', radio: 'Dunlin', antenna: 'Ground plane' },
    [
      section('Patch lead', 'pe-5', 1.5),
      small('Arrester', 0.15),
      section('Mast run', 'foam-10', 32),
      section('Tail', 'foam-5', 1.5),
    ],
    { mhz: [156.6, 155.2, 158], powerW: 25 },
    { kind: 'resonator', resonanceHz: 156.7e6, rOhm: 46, q: 8 },
  ),
  station(
    { id: 'tuned', name: 'HF vee with a tuner', radio: 'Petrel', antenna: 'Two-wire vee' },
    [
      section('Patch lead', 'pe-5', 1.5),
      {
        name: 'Automatic tuner',
        stage: {
          kind: 'tuner',
          method: 'network',
          network: 'L-low-pass',
          automatic: true,
          shuntAt: 'either',
          coilH: [0.02e-6, 20e-6],
          capacitorF: [2e-12, 3000e-12],
          coilQ: 120,
          capacitorQ: 1000,
        },
      },
      section('Desk lead', 'pe-5', 4),
      small('Arrester', 0.1),
      section('Duct run', 'foam-7', 36),
      small('Choke', 0.15),
    ],
    { mhz: [8.294, 7.9, 8.7], powerW: 90 },
    { kind: 'resonator', resonanceHz: 8.25e6, rOhm: 60, q: 8 },
  ),
]
