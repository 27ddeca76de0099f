/** Watts at the antenna over a band, for several chains. */
import {
  type Chain,
  frequencyGrid,
  InputError,
  type OperatingPoint,
  sweepBand,
} from '@saltline/core'
import type { Task } from '../task.ts'

export interface CompareCurvesRequest {
  chains: { chain: Chain; at: OperatingPoint }[]
  lowHz: number
  highHz: number
  points: number
}

export interface CompareCurves {
  frequencyHz: Float64Array
  /** Watts; null for a chain that has none. */
  antennaW: (Float64Array | null)[]
}

export const compareCurvesTask: Task<CompareCurvesRequest, CompareCurves> = (
  { chains, lowHz, highHz, points },
  progress,
): CompareCurves => {
  const frequencyHz = frequencyGrid(lowHz, highHz, points)
  const antennaW = chains.map(({ chain, at }, k) => {
    try {
      return sweepBand(chain, frequencyHz, at.powerW, at.frequencyHz).antennaW
    } catch (error) {
      if (error instanceof InputError) return null
      throw error
    } finally {
      progress((k + 1) / chains.length)
    }
  })
  return { frequencyHz, antennaW }
}
