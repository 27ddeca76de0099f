import type { BandSweep, Chain } from '@saltline/core'
import { useMemo } from 'react'
import type { Band } from '../model/reach.ts'
import type { BandRequest } from './bandWorker.ts'
import { useWorker } from './useWorker.ts'

const POINTS = 241

const begin = () => new Worker(new URL('./bandWorker.ts', import.meta.url), { type: 'module' })

/** The chain over a band. While a number is dragged, the curve before stands until the next is there. */
export function useBandSweep(
  chain: Chain | null,
  { lowHz, highHz }: Band,
  powerW: number,
  tunedHz: number,
): BandSweep | null {
  const request = useMemo<BandRequest | null>(
    () => chain && { chain, lowHz, highHz, points: POINTS, powerW, tunedHz },
    [chain, lowHz, highHz, powerW, tunedHz],
  )
  return useWorker<BandRequest, BandSweep>(begin, request, { whenBusy: 'wait' }).last
}
