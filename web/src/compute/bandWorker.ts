/** Sweeps a chain over a band. */
import { type BandSweep, type Chain, frequencyGrid, sweepBand } from '@saltline/core'
import { serve } from './serve.ts'

export interface BandRequest {
  chain: Chain
  lowHz: number
  highHz: number
  points: number
  powerW: number
  /** Where tuners with knobs are set. */
  tunedHz: number
}

serve(({ chain, lowHz, highHz, points, powerW, tunedHz }: BandRequest): BandSweep =>
  sweepBand(chain, frequencyGrid(lowHz, highHz, points), powerW, tunedHz),
)
