/** The analyser of a find-the-fault drill: where it can be connected, and what it shows. */
import { usualSeeing } from '../diagnosis/simulate.ts'
import { seeded } from '../statistics/random.ts'
import { alongLine } from '../sweep/alongLine.ts'
import type { FarEnd } from '../chain/farEnd.ts'
import type { Reflections } from '../sweep/evenSweep.ts'
import { frequencyGrid } from '../chain/bandSweep.ts'
import type { Stage } from '../stages/stage.ts'
import type { Fault, Finding } from './faults.ts'
import { type Answer, type FindDrill, hiddenOf, seedNumber } from './findDrill.ts'

/** A span of frequencies, Hz, and how many of them. */
export interface SweepSpan {
  lowHz: number
  highHz: number
  points: number
}

/** Wide enough to tell joints of short leads apart on every practice station. */
export const usualSpan: SweepSpan = { lowHz: 10e6, highHz: 400e6, points: 401 }

/** A sweep that was taken, at which plane, and what the far end was. */
export interface TakenSweep {
  sweep: Reflections
  plane: number
  farEnd: FarEnd
}

/** Planes where it can be connected: behind the last tuner or amplifier, with cable on the way to the antenna. */
export function analyserPlanes({ stages }: FindDrill['station']['chain']): number[] {
  const behind = stages.findLastIndex(({ kind }) => kind === 'tuner' || kind === 'amplifier')
  const line = stages.findLastIndex(({ kind }) => kind === 'line')
  return Array.from({ length: Math.max(0, line - behind) }, (_, i) => behind + 1 + i)
}

/**
 * Sweeps a practice station.
 *
 * @param left faults that are still in the station
 * @param count looks so far: another sweep of the same place has other noise
 */
export function practiceSweep(
  drill: FindDrill,
  left: readonly Fault[],
  { plane, farEnd }: Pick<TakenSweep, 'plane' | 'farEnd'>,
  { lowHz, highHz, points }: SweepSpan,
  count: number,
): TakenSweep {
  const hz = frequencyGrid(lowHz, highHz, points)
  const random = seeded(seedNumber(drill.seed) + 101 + count)
  return {
    sweep: hiddenOf(drill, left).sweep(plane, hz, farEnd, usualSeeing, random),
    plane,
    farEnd,
  }
}

/** What readings find that may really be one place of the line. */
export const mayBeOnePlace: readonly Finding[] = ['none', 'wet', 'connector', 'antenna', 'common']
/** Nobody looks for a place in a lead of this length. */
const SHORT_M = 10
/** A joint that reflects so much does not conduct. */
const OPEN_JOINT = 0.1

/**
 * What a sweep makes of an answer that readings gave: the place that reflects most, where one stands out.
 *
 * @param farEnd a load in the antenna's place shows what lies near the antenna
 * @returns null where it can be connected nowhere, or nothing stands out
 */
export function answerOfSweep(
  drill: FindDrill,
  left: readonly Fault[],
  answer: Answer,
  farEnd: FarEnd,
): Answer | null {
  const { chain } = drill.station
  const plane = analyserPlanes(chain)[0]
  if (plane === undefined) return null
  const { sweep } = practiceSweep(drill, left, { plane, farEnd }, usualSpan, 0)
  const { findings } = alongLine(chain, plane, sweep, farEnd)
  const [most] = findings.toSorted((a, b) => b.measured - a.measured)
  if (!most) return null
  const stage = plane + most.stage
  // Lengths are known to some per cent: what seems to lie in a short lead is the joint in front of it.
  const { kind, lengthM = 0 } = chain.stages[stage] as Stage & { lengthM?: number }
  const short = kind !== 'line' || lengthM <= SHORT_M
  if (most.atJoint || short)
    return most.measured > OPEN_JOINT ? { finding: 'gap', part: stage } : null
  // Something that takes watts where the cable reflects is water; what only reflects is a kink.
  return answer.finding === 'wet' && answer.part === stage
    ? { ...answer, finding: 'water' }
    : { finding: 'kinked', part: stage }
}
