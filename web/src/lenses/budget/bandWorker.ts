/** Sweeps a chain over a band off the page's own thread. */
import { type BandSweep, type Chain, frequencyGrid, sweepBand } from '@saltline/core'

export interface BandRequest {
  id: number
  chain: Chain
  lowHz: number
  highHz: number
  points: number
  powerW: number
  /** Where tuners with knobs are set. */
  tunedHz: number
}

export type BandReply = { id: number } & (
  { ok: true; sweep: BandSweep } | { ok: false; message: string }
)

self.onmessage = ({ data }: MessageEvent<BandRequest>) => {
  const reply = (message: BandReply) => self.postMessage(message)
  try {
    const grid = frequencyGrid(data.lowHz, data.highHz, data.points)
    reply({ id: data.id, ok: true, sweep: sweepBand(data.chain, grid, data.powerW, data.tunedHz) })
  } catch (error) {
    reply({
      id: data.id,
      ok: false,
      message: error instanceof Error ? error.message : String(error),
    })
  }
}
