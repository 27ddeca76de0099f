/** The analyser of a practice station. */
import {
  type DrillFault,
  type FarEnd,
  type FindDrill,
  frequencyGrid,
  hiddenOf,
  type Level,
  type Reflections,
  seeded,
  seedNumber,
} from '@saltline/core'
import type { SweepPlan } from './alongLine.ts'

/** There is one from this level on. */
export const ANALYSER_FROM: Level = 2
/** What it adds to what is there. */
const ERRORS = { noise: 0.001, directivityDb: 40 }

export const USUAL_PLAN: SweepPlan = { lowHz: 10e6, highHz: 400e6, points: 401 }

/** A sweep that was taken, where, and what the far end was. */
export interface TakenSweep {
  sweep: Reflections
  plane: number
  farEnd: FarEnd
}

/** Where it can be connected: behind the last tuner or amplifier, with cable on the way to the antenna. */
export function analyserPlanes({ stages }: FindDrill['station']['chain']): number[] {
  const behind = stages.findLastIndex(({ kind }) => kind === 'tuner' || kind === 'amplifier')
  const line = stages.findLastIndex(({ kind }) => kind === 'line')
  return Array.from({ length: Math.max(0, line - behind) }, (_, i) => behind + 1 + i)
}

/** @param count looks so far: another sweep of the same place has other noise */
export function practiceSweep(
  drill: FindDrill,
  left: readonly DrillFault[],
  { plane, farEnd }: Pick<TakenSweep, 'plane' | 'farEnd'>,
  { lowHz, highHz, points }: SweepPlan,
  count: number,
): TakenSweep {
  const hz = frequencyGrid(lowHz, highHz, points)
  const random = seeded(seedNumber(drill.seed) + 101 + count)
  return { sweep: hiddenOf(drill, left).sweep(plane, hz, farEnd, ERRORS, random), plane, farEnd }
}

/** Names of what lies behind a plane, the antenna last. */
export const namesBehind = ({ station }: FindDrill, plane: number): string[] => [
  ...station.stageNames.slice(plane),
  'antenna',
]
