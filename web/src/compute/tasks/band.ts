/** Sweeps a chain over a band. */
import { type BandSweep, type Chain, frequencyGrid, sweepBand } from '@saltline/core'
import type { Task } from '../task.ts'

export interface BandRequest {
  chain: Chain
  lowHz: number
  highHz: number
  points: number
  powerW: number
  /** Where tuners with knobs are set. */
  tunedHz: number
}

export const bandTask: Task<BandRequest, BandSweep> = ({
  chain,
  lowHz,
  highHz,
  points,
  powerW,
  tunedHz,
}): BandSweep => sweepBand(chain, frequencyGrid(lowHz, highHz, points), powerW, tunedHz)
