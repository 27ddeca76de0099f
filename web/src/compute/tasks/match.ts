/** Sweeps a chain with a tuner in each place. */
import {
  type Chain,
  frequencyGrid,
  type OperatingPoint,
  type TunerStage,
  worthOverBand,
  type WorthSweep,
} from '@saltline/core'
import type { Task } from '../task.ts'

export interface MatchRequest {
  chain: Chain
  tuner: TunerStage
  lowHz: number
  highHz: number
  points: number
  at: Omit<OperatingPoint, 'frequencyHz'>
}

export interface MatchSweep {
  frequencyHz: Float64Array
  sweep: WorthSweep
}

const EVERY = 10

export const matchTask: Task<MatchRequest, MatchSweep> = (
  { chain, tuner, lowHz, highHz, points, at },
  progress,
): MatchSweep => {
  const frequencyHz = frequencyGrid(lowHz, highHz, points)
  const sweep = worthOverBand(chain, tuner, frequencyHz, at, (done) => {
    if (done % EVERY === 0) progress(done)
  })
  return { frequencyHz, sweep }
}
