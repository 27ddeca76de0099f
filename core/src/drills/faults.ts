/** The faults of the drills: what each is, where it may sit, and what is learned from it. */
import type { HiddenCause } from '../diagnosis/simulate.ts'
import type { Cable } from '../line/cable.ts'
import type { Stage } from '../stages/stage.ts'
import { pick, type Random } from '../statistics/random.ts'
import { type PracticeStation, practiceCable, practiceMeters } from './practiceStations.ts'

/** Everything a find-the-fault drill can hide. */
export const faultKinds = [
  'reduced',
  'drifted',
  'wet',
  'connector',
  'swapped',
  'kinked',
  'water',
  'gap',
  'scale',
  'averaging',
  'hiding',
  'common',
  'misread',
  'none',
] as const
export type FaultKind = (typeof faultKinds)[number]

/** What can be named as wrong: a drifted antenna is one, whether or not a tuner hides it. */
export const findings = [
  'reduced',
  'antenna',
  'wet',
  'connector',
  'swapped',
  'kinked',
  'water',
  'gap',
  'scale',
  'averaging',
  'common',
  'misread',
  'none',
] as const
export type Finding = (typeof findings)[number]

/** What the part of a finding is an index into, a joint by the stage behind it; null where it has none. */
export const partOf: Readonly<
  Record<Finding, 'stage' | 'cable' | 'joint' | 'meter' | 'reading' | null>
> = {
  reduced: null,
  antenna: null,
  wet: 'cable',
  connector: 'stage',
  swapped: 'cable',
  kinked: 'cable',
  water: 'cable',
  gap: 'joint',
  scale: 'meter',
  averaging: 'meter',
  common: null,
  misread: 'reading',
  none: null,
}

/** A fault as it is hidden. */
export interface Fault {
  kind: FaultKind
  finding: Finding
  /** Index of the part by `partOf`; null where it has none. */
  part: number | null
  cause: HiddenCause
}

interface Kind {
  finding: Finding
  /** Practice stations that it may be hidden in. */
  stations: readonly string[]
  /** Readings that the best strategy needs, looks at parts included: the median of the benchmark. */
  par: number
  /** What it acts on: two faults of one drill act on different things. */
  on: 'source' | 'path' | 'load' | 'reading' | 'nothing'
  /** Meters alone do not tell it from others: it is hidden where there is an analyser. */
  needsSweep?: true
  draw: (station: PracticeStation, random: Random) => Pick<Fault, 'part' | 'cause'>
}

const between = (random: Random, low: number, high: number) => low + (high - low) * random()
const anywhere = ['dipole', 'mast', 'tuned']
const noTuner = ['dipole', 'mast']

/** Sections long enough to age by more than a meter's error. */
const longRuns = ({ chain }: PracticeStation): number[] =>
  chain.stages.flatMap((stage, k) => (stage.kind === 'line' && stage.lengthM > 10 ? [k] : []))

/** Where a connector may go bad: at short leads and small parts. */
const joints = ({ chain }: PracticeStation): number[] =>
  chain.stages.flatMap((stage, k) =>
    stage.kind === 'pad' || (stage.kind === 'line' && stage.lengthM <= 10) ? [k] : [],
  )

const lineAt = ({ chain }: PracticeStation, part: number) =>
  chain.stages[part] as Extract<Stage, { kind: 'line' }>

/** A piece of a run that became another cable, not too near to an end of it. */
function pieceAt(
  station: PracticeStation,
  stage: number,
  random: Random,
  lengthM: number,
  cable: Cable,
): HiddenCause {
  const room = lineAt(station, stage).lengthM - lengthM
  return { kind: 'piece', stage, fromM: between(random, 0.12, 0.88) * room, lengthM, cable }
}

/** Thinner cable that is taken for another by mistake. */
const wrongCables = ['pe-2.8', 'foam-2.8', 'pe-5']

const antenna = (_: PracticeStation, random: Random, least: number, most: number) => ({
  part: null,
  cause: {
    kind: 'antenna' as const,
    point: null,
    change: {
      kind: 'moved' as const,
      share: between(random, least, most) * (random() < 0.5 ? -1 : 1),
    },
  },
})

export const faultTable: Readonly<Record<FaultKind, Kind>> = {
  reduced: {
    finding: 'reduced',
    stations: anywhere,
    par: 3,
    on: 'source',
    draw: (_, random) => ({
      part: null,
      cause: { kind: 'transmitter', db: -between(random, 2.8, 7), point: null },
    }),
  },
  drifted: {
    finding: 'antenna',
    stations: noTuner,
    par: 3,
    on: 'load',
    draw: (station, random) => antenna(station, random, 0.06, 0.11),
  },
  wet: {
    finding: 'wet',
    stations: anywhere,
    par: 4,
    on: 'path',
    draw: (station, random) => {
      const part = pick(random, longRuns(station))
      return { part, cause: { kind: 'aged', stage: part, factor: between(random, 2.2, 3.6) } }
    },
  },
  connector: {
    finding: 'connector',
    stations: anywhere,
    par: 4,
    on: 'path',
    draw: (station, random) => {
      const part = pick(random, joints(station))
      return { part, cause: { kind: 'loss', from: part, to: part, db: between(random, 1.6, 5) } }
    },
  },
  swapped: {
    finding: 'swapped',
    stations: anywhere,
    par: 4,
    on: 'path',
    draw: (station, random) => {
      const part = pick(random, longRuns(station))
      return {
        part,
        cause: { kind: 'swapped', stage: part, cable: practiceCable(pick(random, wrongCables)) },
      }
    },
  },
  kinked: {
    finding: 'kinked',
    stations: anywhere,
    par: 4,
    on: 'path',
    needsSweep: true,
    draw: (station, random) => {
      const part = pick(random, longRuns(station))
      const { cable } = lineAt(station, part)
      const squeezed = { ...cable, z0Ohm: cable.z0Ohm * between(random, 0.4, 0.65) }
      return {
        part,
        cause: pieceAt(station, part, random, between(random, 0.3, 0.8), squeezed),
      }
    },
  },
  water: {
    finding: 'water',
    stations: anywhere,
    par: 5,
    on: 'path',
    needsSweep: true,
    draw: (station, random) => {
      const part = pick(random, longRuns(station))
      const { cable } = lineAt(station, part)
      const lengthM = between(random, 0.6, 2)
      // Water between the conductors: slower, of less impedance, and it takes decibels in a metre.
      const share = between(random, 0.65, 0.8)
      const db = between(random, 1.2, 3)
      const mhz = station.channels[0]!.frequencyHz / 1e6
      const wet = {
        ...cable,
        z0Ohm: cable.z0Ohm * share,
        velocityFactor: cable.velocityFactor * share,
        k2DbPer100m: cable.k2DbPer100m + (100 * db) / lengthM / mhz,
      }
      return { part, cause: pieceAt(station, part, random, lengthM, wet) }
    },
  },
  gap: {
    finding: 'gap',
    // On HF nothing would pass.
    stations: ['mast'],
    par: 4,
    on: 'path',
    needsSweep: true,
    draw: ({ chain }, random) => {
      const part = 1 + Math.floor(random() * (chain.stages.length - 1))
      return { part, cause: { kind: 'gap', plane: part, farad: between(random, 8e-12, 25e-12) } }
    },
  },
  scale: {
    finding: 'scale',
    stations: noTuner,
    par: 3,
    on: 'reading',
    draw: (_, random) => ({
      part: 0,
      cause: {
        kind: 'meter',
        instrument: 0,
        why: 'scale',
        factor: pick(random, scaleSlips),
      },
    }),
  },
  averaging: {
    finding: 'averaging',
    stations: noTuner,
    par: 3,
    on: 'reading',
    draw: () => ({ part: 0, cause: { kind: 'averaging', instrument: 0 } }),
  },
  hiding: {
    finding: 'antenna',
    stations: ['tuned'],
    par: 3,
    on: 'load',
    draw: (station, random) => antenna(station, random, 0.07, 0.12),
  },
  common: {
    finding: 'common',
    stations: noTuner,
    par: 5,
    on: 'reading',
    draw: (_, random) => ({
      part: null,
      cause: { kind: 'common mode', rho: between(random, 0.26, 0.34) },
    }),
  },
  misread: {
    finding: 'misread',
    stations: anywhere,
    par: 3,
    on: 'reading',
    draw: (_, random) => {
      const part = random() < 0.5 ? 0 : 1
      return { part, cause: { kind: 'slip', reading: part } }
    },
  },
  none: {
    finding: 'none',
    stations: anywhere,
    par: 5,
    on: 'nothing',
    draw: () => ({ part: null, cause: { kind: 'none' } }),
  },
}

/** What the station's own meter shows for one watt when its face is read on another range than it stands on. */
const scaleSlips = [
  ...new Set(
    practiceMeters[0]!.rangesW.flatMap((read, i, all) =>
      i > 0 ? [Number((all[i - 1]! / read).toPrecision(3))] : [],
    ),
  ),
]

/** A fault of a kind, where and how large chance has it. */
export const drawFault = (kind: FaultKind, station: PracticeStation, random: Random): Fault => ({
  kind,
  finding: faultTable[kind].finding,
  ...faultTable[kind].draw(station, random),
})

/** Readings that a drill needs: with two faults every plane is read before the first is named. */
export const parOf = (faults: readonly Fault[]): number =>
  faults.reduce((sum, { kind }) => sum + faultTable[kind].par, faults.length > 1 ? 4 : 0)
