/** Find the fault: a station drawn from a seed, with one or two faults in it, and what was read of it before. */
import type { Case, MeterReading } from '../diagnosis/evidence.ts'
import {
  type HiddenStation,
  hiddenStation,
  type Shown,
  slipFactor,
  type TrueWave,
} from '../diagnosis/simulate.ts'
import { usualTolerances } from '../chain/tolerances.ts'
import { cableToday } from '../stages/line.ts'
import type { Cable } from '../line/cable.ts'
import { lineConstants, matchedLossDb } from '../line/constants.ts'
import { rangeFor } from '../measure/meter.ts'
import { pick, type Random, seeded } from '../statistics/random.ts'
import {
  drawFault,
  type Fault,
  type FaultKind,
  faultKinds,
  faultTable,
  type Finding,
  findings,
  partOf,
} from './faults.ts'
import {
  type PracticeStation,
  practiceMeters,
  practiceStations,
  VOICE_POINT,
} from './practiceStations.ts'

/** 1: expected figures with their ranges are shown; 2: none are; 3: none are, and two things are wrong. */
export const levels = [1, 2, 3] as const
export type Level = (typeof levels)[number]

export interface FindDrill {
  seed: string
  level: Level
  station: PracticeStation
  /** What a diagnosis knows: the chain as it is written down. */
  kase: Omit<Case, 'readings'>
  /** One, or two on the third level. */
  faults: readonly Fault[]
  /** What somebody read before, at the radio and at the antenna. */
  record: readonly MeterReading[]
}

/**
 * A number from a seed in words, by FNV-1a: the same everywhere.
 *
 * @example seedNumber('gull-417') === seedNumber('gull-417') // true
 */
export function seedNumber(seed: string): number {
  let hash = 0x811c9dc5
  for (const character of seed) hash = Math.imul(hash ^ character.codePointAt(0)!, 0x01000193) >>> 0
  return hash
}

/**
 * Draws a drill. The same seed and level give the same drill everywhere.
 *
 * @param kind of the first fault; drawn as well unless given
 */
export function findDrill(seed: string, level: Level, kind?: FaultKind): FindDrill {
  const number = seedNumber(seed)
  const random = seeded(number)
  const first = kind ?? pick(random, kindsOf(level))
  const { stations, on } = faultTable[first]
  const chosen = pick(random, stations)
  const station = practiceStations.find(({ id }) => id === chosen)!
  const faults = [drawFault(first, station, random)]
  if (level === 3) {
    const others = faultKinds.filter(
      (other) =>
        isSecond(other) &&
        faultTable[other].on !== on &&
        faultTable[other].stations.includes(station.id),
    )
    faults.push(drawFault(pick(random, others), station, random))
  }
  const kase = {
    chain: station.chain,
    channels: station.channels,
    instruments: practiceMeters,
    tolerances: usualTolerances,
  }
  const voice = faults.some(({ kind }) => kind === 'averaging') || random() < 0.3
  const hidden = hiddenStation(kase, causesOf(faults), number)
  const readings = seeded(number + 1)
  const record = [0, station.chain.stages.length].map((plane, i): MeterReading => {
    const site = { point: voice ? VOICE_POINT : 0, plane, instrument: 0 }
    const shown = hidden.show(site, hidden.wavesAt(site.point)[plane]!, readings)
    const slip = faults.some(({ cause }) => cause.kind === 'slip' && cause.reading === i)
    return readingOf(site, shown, slip ? slipOf(readings) : 1)
  })
  return { seed, level, station, kase, faults, record }
}

/**
 * What may be hidden on a level. Without an analyser nothing that needs one; where two things are wrong, nothing of it is
 * no fault at all, nor one of the record: that is no longer of the station once the other is put right.
 */
export const kindsOf = (level: Level): readonly FaultKind[] =>
  level === ANALYSER_FROM
    ? faultKinds
    : faultKinds.filter(
        (kind) =>
          !faultTable[kind].needsSweep && (level === 1 || (kind !== 'none' && kind !== 'misread')),
      )

/** What can be the answer on a level. */
export const findingsOn = (level: Level): readonly Finding[] => {
  const kinds = kindsOf(level)
  return findings.filter((finding) => kinds.some((kind) => faultTable[kind].finding === finding))
}

/** There is an analyser from this level on. */
export const ANALYSER_FROM: Level = 2

/** Two faults at once are of the kinds that one meter can tell apart. */
const isSecond = (kind: FaultKind): boolean =>
  ['reduced', 'wet', 'connector', 'swapped', 'drifted', 'hiding'].includes(kind)

/** A slip that is worth finding: at least 2 dB. */
function slipOf(random: Random): number {
  for (;;) {
    const factor = slipFactor(random)
    if (Math.abs(10 * Math.log10(factor)) > 2) return factor
  }
}

/** What faults do to a station. */
const causesOf = (faults: readonly Fault[]) => faults.map(({ cause }) => cause)

/** The station as it really is, with the faults that are still in it. */
export const hiddenOf = (drill: FindDrill, faults = drill.faults): HiddenStation =>
  hiddenStation(drill.kase, causesOf(faults), seedNumber(drill.seed))

/** What a meter showed at a place, as a reading to three figures. */
export function readingOf(
  site: { point: number; plane: number; instrument: number },
  { forwardW, reflectedW }: Shown,
  factor = 1,
): MeterReading {
  const meter = practiceMeters[site.instrument]!
  const figures = (watts: number) => Number(watts.toPrecision(3))
  const forward = figures(forwardW * factor)
  return {
    ...site,
    forwardW: forward,
    reflectedW: figures(Math.min(reflectedW, forward)),
    rangeW: rangeFor(meter, forward) ?? meter.rangesW.at(-1)!,
  }
}

/** What a learner says is wrong. */
export interface Answer {
  finding: Finding
  part: number | null
  /** About how much, dB; where it was said. */
  db?: number | undefined
}

/** How much power a fault takes, or an instrument hides, on the first channel, dB; null where that is no figure. */
export function sizeOfFault({ station }: FindDrill, { cause, finding }: Fault): number | null {
  const { frequencyHz } = station.channels[0]!
  const loss = (stage: number, cable?: Cable, lengthM?: number) => {
    const line = station.chain.stages[stage]!
    if (line.kind !== 'line') return 0
    const constants = lineConstants(cable ?? cableToday(line), frequencyHz)
    return matchedLossDb(constants, lengthM ?? line.lengthM)
  }
  switch (cause.kind) {
    case 'transmitter':
      return Math.abs(cause.db)
    case 'loss':
      return cause.db
    case 'aged':
      return loss(cause.stage) * (cause.factor - 1)
    case 'swapped':
      return loss(cause.stage, cause.cable) - loss(cause.stage)
    case 'piece':
      // A kink reflects, and takes next to nothing.
      return finding === 'water'
        ? loss(cause.stage, cause.cable, cause.lengthM) -
            loss(cause.stage, undefined, cause.lengthM)
        : null
    case 'meter':
      return Math.abs(10 * Math.log10(cause.factor))
    default:
      return null
  }
}

export interface Judgement {
  /** The fault that the answer is held against: the one it names, else the first that is left. */
  fault: Fault
  finding: boolean
  part: boolean
  /** Whether the size was met within a third or 0.7 dB; null where the fault has none. */
  size: boolean | null
}

/** How much cable lies in front of a stage, m. */
const metresTo = ({ chain }: PracticeStation, plane: number): number =>
  chain.stages
    .slice(0, plane)
    .reduce((sum, stage) => sum + (stage.kind === 'line' ? stage.lengthM : 0), 0)

/** Holds an answer against the faults that are left in a drill. */
export function judge(drill: FindDrill, answer: Answer, left = drill.faults): Judgement {
  const same = (fault: Fault) => fault.finding === answer.finding
  const fault = left.find(same) ?? left[0]!
  const finding = same(fault)
  const samePart =
    partOf[fault.finding] === 'joint' && answer.part !== null && fault.part !== null
      ? // Between two joints without cable between them no sweep decides.
        metresTo(drill.station, answer.part) === metresTo(drill.station, fault.part)
      : fault.part === answer.part
  const db = sizeOfFault(drill, fault)
  return {
    fault,
    finding,
    part: finding && samePart,
    size:
      db === null
        ? null
        : answer.db !== undefined && Math.abs(Math.abs(answer.db) - db) <= Math.max(0.7, db / 3),
  }
}

/** Net power at every plane of the first channel as it really is, W. */
export const trueNetW = (drill: FindDrill): number[] =>
  hiddenOf(drill)
    .wavesAt(0)
    .map(({ forwardW, rho }: TrueWave) => forwardW * (1 - rho * rho))
