import type { BandSweep, Chain } from '@saltline/core'
import { useMemo } from 'react'
import type { Band } from '../model/reach.ts'
import { useTask } from './useTask.ts'

const POINTS = 241

/** The chain over a band. While a number is dragged, the curve before stands until the next is there. */
export function useBandSweep(
  chain: Chain | null,
  { lowHz, highHz }: Band,
  powerW: number,
  tunedHz: number,
): BandSweep | null {
  const request = useMemo(
    () => chain && { chain, lowHz, highHz, points: POINTS, powerW, tunedHz },
    [chain, lowHz, highHz, powerW, tunedHz],
  )
  return useTask('band', request).last
}
