import type { BandSweep, Chain } from '@saltline/core'
import { useEffect, useRef, useState } from 'react'
import type { Band } from '../reach.tsx'
import type { BandReply, BandRequest } from './bandWorker.ts'

const POINTS = 241

/**
 * The chain over a band, computed in a worker. While one sweep runs, only the newest wish waits:
 * dragging a number never builds a queue.
 */
export function useBandSweep(
  chain: Chain | null,
  band: Band,
  powerW: number,
  tunedHz: number,
): BandSweep | null {
  const [sweep, setSweep] = useState<BandSweep | null>(null)
  const worker = useRef<Worker | null>(null)
  const busy = useRef(false)
  const waiting = useRef<BandRequest | null>(null)
  const newest = useRef(0)

  useEffect(() => {
    const own = new Worker(new URL('./bandWorker.ts', import.meta.url), { type: 'module' })
    own.onmessage = ({ data }: MessageEvent<BandReply>) => {
      if (data.id === newest.current) setSweep(data.ok ? data.sweep : null)
      const next = waiting.current
      waiting.current = null
      busy.current = next !== null
      if (next) own.postMessage(next)
    }
    worker.current = own
    return () => {
      own.terminate()
      worker.current = null
      busy.current = false
      waiting.current = null
    }
  }, [])

  useEffect(() => {
    if (!chain || !worker.current) return
    const { lowHz, highHz } = band
    const id = ++newest.current
    const request = { id, chain, lowHz, highHz, points: POINTS, powerW, tunedHz }
    if (busy.current) waiting.current = request
    else {
      busy.current = true
      worker.current.postMessage(request)
    }
  }, [chain, band, powerW, tunedHz])

  return sweep
}
