/** Edits of a chain document: plain functions from one document to the next. */
import {
  type AmplifierDocument,
  type CableDocument,
  type ChainDocument,
  type ChannelDocument,
  limits,
  newId,
  type PadPart,
  type StageDocument,
  type TransmitterDocument,
  type TunerDocument,
} from '@saltline/contract'
import {
  type CableClass,
  cableClasses,
  padLossDb,
  type PartClass,
  partClasses,
} from '@saltline/core'

export type Edit = (document: ChainDocument) => ChainDocument

const withStages = (document: ChainDocument, stages: StageDocument[]): ChainDocument => ({
  ...document,
  stages,
})

export const changeStage =
  (id: string, change: (stage: StageDocument) => StageDocument): Edit =>
  (document) =>
    withStages(
      document,
      document.stages.map((stage) => (stage.id === id ? change(stage) : stage)),
    )

export const insertStage =
  (index: number, stage: StageDocument): Edit =>
  (document) =>
    withStages(document, document.stages.toSpliced(index, 0, stage))

export const removeStage =
  (id: string): Edit =>
  (document) =>
    withStages(
      document,
      document.stages.filter((stage) => stage.id !== id),
    )

/** Moves a stage to another place, counted without it; places past an end mean the end. */
export const moveStage =
  (id: string, to: number): Edit =>
  (document) => {
    const stage = document.stages.find((s) => s.id === id)
    if (!stage) return document
    const rest = document.stages.filter((s) => s.id !== id)
    return withStages(document, rest.toSpliced(Math.max(0, to), 0, stage))
  }

export const toggleBypass = (id: string): Edit =>
  changeStage(id, ({ bypassed, ...stage }) => (bypassed ? stage : { ...stage, bypassed: true }))

/** A copy right behind the stage it was taken from. */
export const duplicateStage =
  (id: string, copyId: string): Edit =>
  (document) => {
    const index = document.stages.findIndex((stage) => stage.id === id)
    const stage = document.stages[index]
    if (!stage) return document
    const name = freeName(document, stage.name)
    return insertStage(index + 1, { ...stage, id: copyId, name })(document)
  }

function freeName(document: ChainDocument, name: string): string {
  const taken = new Set(document.stages.map((stage) => stage.name))
  const stem = name.replace(/ \d+$/, '')
  for (let n = 2; ; n++) if (!taken.has(`${stem} ${n}`)) return `${stem} ${n}`
}

export type StageChoice = 'line' | PadPart | 'series' | 'shunt' | 'tuner' | 'amplifier'

export const stageChoices: readonly { choice: StageChoice; label: string; hint: string }[] = [
  { choice: 'line', label: 'Cable', hint: 'a length of coax' },
  { choice: 'connector', label: 'Connector', hint: 'a joint or adapter' },
  { choice: 'meter', label: 'Meter', hint: 'a through-line wattmeter' },
  { choice: 'switch', label: 'Switch', hint: 'an antenna switch' },
  { choice: 'arrester', label: 'Arrester', hint: 'at the bulkhead' },
  { choice: 'filter', label: 'Filter', hint: 'low-pass or cavity' },
  { choice: 'choke', label: 'Choke', hint: 'against current on the braid' },
  { choice: 'attenuator', label: 'Pad', hint: 'a matched attenuator' },
  { choice: 'tuner', label: 'Tuner', hint: 'matches what lies behind it' },
  { choice: 'amplifier', label: 'Amplifier', hint: 'adds power, driven by what is before it' },
  { choice: 'series', label: 'Series part', hint: 'a coil or capacitor in line' },
  { choice: 'shunt', label: 'Shunt part', hint: 'a part across the line' },
]

/** The class that a new part of a kind is taken from. */
const usualPart: Record<Exclude<PadPart, 'attenuator'>, string> = {
  connector: 'n',
  switch: 'switch-2',
  arrester: 'gas-230',
  meter: 'meter-line',
  filter: 'lpf-hf',
  choke: 'choke-ring',
}

/** A chain takes its own copy of a class of part; the loss on one frequency stands beside its table. */
export function copyOfPart(of: PartClass, hz: number) {
  const points = of.pointsDb
    .map(([mhz, db]): [number, number] => [mhz * 1e6, db])
    .filter(([at]) => at <= limits.frequencyHz[1])
  const lossDb = padLossDb({ kind: 'pad', lossDb: 0, points }, hz)
  return { gearId: of.id, points, lossDb, atHz: undefined }
}

/** A chain takes its own copy of a catalogue class. */
export function copyOfClass(of: CableClass): CableDocument {
  const { id: gearId, name, z0Ohm, velocityFactor, k1DbPer100m, k2DbPer100m, maxHz } = of
  return { gearId, name, z0Ohm, velocityFactor, k1DbPer100m, k2DbPer100m, maxHz }
}

type Bare<T> = T extends unknown ? Omit<T, 'id' | 'name'> : never

/** Typical tuners, each known in another way. */
export const tunerKinds = {
  hand: {
    kind: 'tuner',
    method: 'network',
    network: 'T',
    shuntAt: 'either',
    coilH: [0.1e-6, 28e-6],
    capacitorF: [15e-12, 250e-12],
    coilQ: 200,
    capacitorQ: 1000,
  },
  relays: {
    kind: 'tuner',
    method: 'stepped',
    coilBits: 7,
    coilStepH: 0.08e-6,
    capacitorBits: 7,
    capacitorStepF: 10e-12,
    coilQ: 150,
    capacitorQ: 800,
    contentSwr: 1.5,
  },
  given: { kind: 'tuner', method: 'given', lossDb: 0.3, residualSwr: 1.1, reachSwr: 10 },
} as const satisfies Record<string, Bare<TunerDocument>>

const usualAmplifier = {
  kind: 'amplifier',
  gainDb: 12,
  driveW: 40,
  fullW: 500,
  ceilings: { data: 300, FM: 300, 'key-down': 300 },
  behaviour: 'levelled',
  foldback: [],
  tripSwr: 3,
  inputOhm: { rOhm: 50, xOhm: 0 },
} as const satisfies Bare<AmplifierDocument>

/** The tuner a transmitter has inside, as a stage right behind it. */
export const builtInTuner = (
  name: string,
  { reachSwr, lossDb }: NonNullable<TransmitterDocument['builtInTuner']>,
): StageDocument => ({
  id: newId(),
  name,
  kind: 'tuner',
  method: 'given',
  lossDb,
  residualSwr: 1.1,
  reachSwr,
})

/** A new stage with figures that are typical of its kind. */
export function newStage(choice: StageChoice, document: ChainDocument): StageDocument {
  const base = { id: newId(), name: unusedName(document, choice) }
  if (choice === 'series') return { ...base, kind: 'series', rOhm: 0, xOhm: 0 }
  if (choice === 'tuner') return { ...base, ...tunerKinds.hand }
  if (choice === 'amplifier') return { ...base, ...usualAmplifier }
  if (choice === 'shunt') return { ...base, kind: 'shunt', rOhm: 1000, xOhm: 0 }
  if (choice === 'line') {
    const cable = copyOfClass(cableClasses.find(({ id }) => id === 'pe-5')!)
    return { ...base, kind: 'line', lengthM: 1, cable }
  }
  // A pad is chosen by its loss, not by its class.
  if (choice === 'attenuator') return { ...base, kind: 'pad', part: choice, lossDb: 3 }
  const part = partClasses.find(({ id }) => id === usualPart[choice])!
  return {
    ...base,
    kind: 'pad',
    part: choice,
    ...copyOfPart(part, document.channels[0]!.frequencyHz),
  }
}

function unusedName(document: ChainDocument, choice: StageChoice): string {
  const label = stageChoices.find((entry) => entry.choice === choice)!.label
  return document.stages.some((stage) => stage.name === label) ? freeName(document, label) : label
}

export const changeChannel =
  (id: string, change: Partial<ChannelDocument>): Edit =>
  (document) => ({
    ...document,
    channels: document.channels.map((channel) =>
      channel.id === id ? { ...channel, ...change } : channel,
    ),
  })

export const addChannel =
  (channel: ChannelDocument): Edit =>
  (document) => ({ ...document, channels: [...document.channels, channel] })

export const removeChannel =
  (id: string): Edit =>
  (document) => ({ ...document, channels: document.channels.filter((c) => c.id !== id) })
