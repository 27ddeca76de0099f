/** Merrow Point Coastwatch: a made-up look-out post on a salt-marsh headland. */
import {
  type CableDocument,
  CHAIN_DOCUMENT_VERSION,
  type ChainDocument,
  type PlaceOfThing,
  type ThingBody,
} from '@saltline/contract'
import { type CableClass, cableClasses } from '@saltline/core'

export const stationId = 'merrow-point'

export const station = {
  name: 'Merrow Point',
  place: 'Merrow Point Coastwatch, salt-marsh headland',
  note: 'A volunteer look-out post. HF for the long passages, VHF for the bay.',
  swrLimit: 2,
  /** What the stores of the look-out pay: invented. Some classes were never asked for. */
  prices: {
    perM: {
      'pe-5': 1.1,
      'pe-10': 2.6,
      'foam-5': 1.6,
      'foam-7': 2.2,
      'foam-10': 3.4,
      'foam-13': 6.8,
      'ptfe-5': 9,
      'superflex-13': 9.5,
    },
    connectorPair: 9,
  },
}

export const antennas = [
  {
    id: 'two-wire-vee',
    sweepId: 'two-wire-vee-spring',
    file: 'two-wire-vee-4-8mhz.s1p',
    name: 'Two-wire vee',
    note: 'Cut for 4 and 8 MHz, apex at 12 m. Fair on 12, hopeless on 6.',
  },
  {
    id: 'ground-plane',
    sweepId: 'ground-plane-spring',
    file: 'ground-plane-marine-vhf.s1p',
    name: 'Ground plane',
    note: 'Quarter wave with drooping radials, 22 m up the mast.',
  },
  {
    id: 'whip-8m',
    sweepId: 'whip-8m-spring',
    file: 'whip-8m.s1p',
    name: '8 m whip',
    note: 'On a 2 m post at the sea wall, six raised radials.',
  },
] as const

/** A chain takes its own copy of a catalogue class. */
function cable(id: string): CableDocument {
  const found: CableClass | undefined = cableClasses.find((entry) => entry.id === id)
  if (!found) throw new Error(`no cable class ${id}`)
  const { name, z0Ohm, velocityFactor, k1DbPer100m, k2DbPer100m, maxHz } = found
  return { gearId: id, name, z0Ohm, velocityFactor, k1DbPer100m, k2DbPer100m, maxHz }
}

export const petrel = {
  name: 'Petrel 125',
  gearId: 'petrel-125',
  ratedW: 125,
  behaviour: 'levelled' as const,
  foldback: [
    [1, 1],
    [1.5, 1],
    [2, 0.85],
    [3, 0.5],
    [5, 0.25],
    [10, 0.1],
  ] as [number, number][],
}

export const dunlin = {
  name: 'Dunlin 25',
  gearId: 'dunlin-25',
  ratedW: 25,
  behaviour: 'levelled' as const,
  foldback: [
    [1, 1],
    [2, 1],
    [3, 0.6],
    [6, 0.3],
  ] as [number, number][],
}

const antenna = (index: 0 | 1 | 2) => ({
  kind: 'antenna' as const,
  name: antennas[index].name,
  antennaId: antennas[index].id,
  sweepId: antennas[index].sweepId,
})

/** A hand tuner: a T of two capacitors and a roller coil. */
const capstan = {
  kind: 'tuner' as const,
  method: 'network' as const,
  network: 'T' as const,
  shuntAt: 'either' as const,
  coilH: [0.2e-6, 25e-6] as [number, number],
  capacitorF: [18e-12, 330e-12] as [number, number],
  coilQ: 180,
  coilQAtHz: 7e6,
  capacitorQ: 1200,
  ratedW: 300,
  tuneWindowW: [2, 20] as [number, number],
}

const capstanDials = {
  c4: ['7.5', '31', '8'],
  c8: ['6', '17', '6.5'],
  c12: ['3.5', '9', '4'],
}

/** Under consideration: 500 W of voice, 300 W of anything steady. */
const bollard = {
  kind: 'amplifier' as const,
  gainDb: 12,
  driveW: 40,
  fullW: 500,
  ceilings: { data: 300, FM: 300, 'key-down': 300 },
  behaviour: 'levelled' as const,
  foldback: [
    [1.5, 1],
    [2.5, 0.6],
    [3, 0.4],
  ] as [number, number][],
  tripSwr: 3,
  tripReflectedW: 60,
  inputOhm: { rOhm: 62, xOhm: 18 },
  inputBands: [{ lowHz: 10e6, highHz: 15e6, rOhm: 95, xOhm: 35 }],
}

const hfLongRun: ChainDocument = {
  version: CHAIN_DOCUMENT_VERSION,
  name: 'HF long run',
  transmitter: petrel,
  stages: [
    {
      ...{ id: 'patch', kind: 'line', name: 'Patch lead', lengthM: 1.2, cable: cable('pe-5') },
      thingId: 'thing-l1',
    },
    {
      id: 'meter',
      kind: 'pad',
      part: 'meter',
      name: 'Wattmeter',
      lossDb: 0.06,
      limits: { voltageRms: 500, averageW: 1000 },
    },
    { id: 'tuner', name: 'Capstan', ...capstan, dials: capstanDials },
    { id: 'desk', kind: 'line', name: 'Desk lead', lengthM: 4, cable: cable('pe-5') },
    {
      id: 'arrester',
      thingId: 'thing-p1',
      kind: 'pad',
      part: 'arrester',
      name: 'Arrester',
      lossDb: 0.07,
      limits: { firingVoltageDc: 350, averageW: 400 },
    },
    {
      ...{ id: 'duct', kind: 'line', name: 'Duct run', lengthM: 46, cable: cable('foam-7') },
      thingId: 'thing-l2',
    },
    {
      id: 'choke',
      kind: 'pad',
      part: 'choke',
      name: 'Choke',
      lossDb: 0.15,
      limits: { voltageRms: 900, averageW: 600 },
    },
  ],
  load: antenna(0),
  channels: [
    { id: 'c4', frequencyHz: 4.146e6, mode: 'voice-plain', powerW: 125 },
    { id: 'c6', frequencyHz: 6.224e6, mode: 'voice-plain', powerW: 125 },
    { id: 'c8', frequencyHz: 8.294e6, mode: 'voice-plain', powerW: 125 },
    { id: 'c12', frequencyHz: 12.353e6, mode: 'data', powerW: 125 },
  ],
  alternatives: [
    {
      id: 'thick-duct',
      name: 'Duct run in 10 mm foam',
      changes: [{ kind: 'cable', stageId: 'duct', cable: cable('foam-10') }],
    },
    {
      id: 'new-desk-lead',
      name: 'Desk lead in 10 mm',
      changes: [{ kind: 'cable', stageId: 'desk', cable: cable('pe-10') }],
    },
    {
      id: 'tuner-outside',
      name: 'Tuner at the feed point',
      changes: [{ kind: 'move', stageId: 'tuner', behind: 'choke' }],
    },
  ],
}

/** Drawn up to see what the amplifier would do to the same run. */
const hfAmplified: ChainDocument = {
  ...hfLongRun,
  name: 'HF with amplifier',
  note: 'Drawn up: is the run good enough for 500 W?',
  alternatives: undefined,
  stages: [
    { id: 'exciter', kind: 'line', name: 'Exciter lead', lengthM: 1, cable: cable('pe-5') },
    { id: 'amplifier', name: 'Bollard 500', ...bollard },
    ...hfLongRun.stages.map((stage) =>
      stage.id === 'tuner' ? { ...stage, dials: undefined } : stage,
    ),
  ],
  channels: hfLongRun.channels.map((channel) => ({ ...channel, powerW: 40 })),
}

const vhfMast: ChainDocument = {
  version: CHAIN_DOCUMENT_VERSION,
  name: 'VHF mast',
  transmitter: dunlin,
  stages: [
    { id: 'patch', kind: 'line', name: 'Patch lead', lengthM: 1, cable: cable('pe-5') },
    { id: 'arrester', kind: 'pad', part: 'arrester', name: 'Arrester', lossDb: 0.15 },
    { id: 'mast', kind: 'line', name: 'Mast run', lengthM: 38, cable: cable('foam-10') },
    { id: 'joint', kind: 'pad', part: 'connector', name: 'Joint', lossDb: 0.05, atHz: 156e6 },
    { id: 'tail', kind: 'line', name: 'Flexible tail', lengthM: 1.5, cable: cable('foam-5') },
  ],
  load: antenna(1),
  channels: [
    { id: 'c1', frequencyHz: 156.45e6, mode: 'FM', powerW: 25 },
    { id: 'c2', frequencyHz: 156.625e6, mode: 'FM', powerW: 25 },
    { id: 'c3', frequencyHz: 156.875e6, mode: 'FM', powerW: 25 },
    { id: 'c4', frequencyHz: 156.875e6, mode: 'FM', powerW: 1, name: 'harbour, low' },
  ],
}

const whip: ChainDocument = {
  version: CHAIN_DOCUMENT_VERSION,
  name: 'MF/HF whip',
  transmitter: petrel,
  stages: [
    { id: 'patch', kind: 'line', name: 'Patch lead', lengthM: 1.2, cable: cable('pe-5') },
    { id: 'arrester', kind: 'pad', part: 'arrester', name: 'Arrester', lossDb: 0.07 },
    { id: 'wall', kind: 'line', name: 'Sea-wall run', lengthM: 18, cable: cable('pe-10') },
    {
      id: 'base',
      name: 'Base tuner',
      kind: 'tuner',
      method: 'network',
      network: 'L-low-pass',
      automatic: true,
      shuntAt: 'either',
      coilH: [0.1e-6, 100e-6],
      capacitorF: [20e-12, 6e-9],
      coilQ: 220,
      capacitorQ: 1500,
      ratedW: 150,
      tuneWindowW: [5, 25],
      note: 'In a box on the post, with a motor-driven coil.',
    },
  ],
  load: antenna(2),
  channels: [
    { id: 'c4', frequencyHz: 4.146e6, mode: 'voice-plain', powerW: 100 },
    { id: 'c4b', frequencyHz: 4.149e6, mode: 'voice-plain', powerW: 100 },
    { id: 'c2', frequencyHz: 2.065e6, mode: 'voice-plain', powerW: 100 },
    { id: 'c6', frequencyHz: 6.224e6, mode: 'voice-plain', powerW: 100 },
  ],
}

export const chains = [
  { id: 'hf-long-run', document: hfLongRun },
  { id: 'hf-amplifier', document: hfAmplified },
  { id: 'vhf-mast', document: vhfMast },
  { id: 'mf-hf-whip', document: whip },
]

/** Amplifier and tuner as the station keeps them in its gear. */
export const stagesAsGear = [
  {
    kind: 'amplifier' as const,
    id: 'bollard-500',
    document: { id: 'bollard-500', name: 'Bollard 500', ...bollard },
  },
  {
    kind: 'tuner' as const,
    id: 'capstan',
    document: { id: 'capstan', name: 'Capstan', ...capstan },
  },
]

const shared = (stageId: string) => ({
  stage: hfLongRun.stages.find(({ id }) => id === stageId)!,
  // Their stages are it already.
  places: [],
})
const usual = { state: 'in use', serial: '', note: '', movedTo: null } as const

/** What both HF chains pass through. */
export const things: (ThingBody & { id: string; places: PlaceOfThing[] })[] = [
  { id: 'thing-l1', mark: 'L1', ...usual, ...shared('patch'), where: 'desk' },
  {
    ...usual,
    ...{ id: 'thing-l2', mark: 'L2', where: 'duct to the mast' },
    ...shared('duct'),
    boughtOn: '2019-06-11',
    price: 190,
  },
  { id: 'thing-p1', mark: 'P1', ...usual, ...shared('arrester'), where: 'entry plate' },
]
