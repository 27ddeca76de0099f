/** Sweeps a chain with a tuner in each place, off the page's own thread. */
import {
  type Chain,
  frequencyGrid,
  type OperatingPoint,
  type TunerStage,
  worthOverBand,
  type WorthSweep,
} from '@saltline/core'

export interface MatchRequest {
  chain: Chain
  tuner: TunerStage
  lowHz: number
  highHz: number
  points: number
  at: Omit<OperatingPoint, 'frequencyHz'>
}

export type MatchReply =
  | { kind: 'progress'; done: number }
  | { kind: 'done'; frequencyHz: Float64Array; sweep: WorthSweep }
  | { kind: 'problem'; message: string }

const EVERY = 10

self.onmessage = ({ data }: MessageEvent<MatchRequest>) => {
  const reply = (message: MatchReply) => self.postMessage(message)
  try {
    const frequencyHz = frequencyGrid(data.lowHz, data.highHz, data.points)
    const sweep = worthOverBand(data.chain, data.tuner, frequencyHz, data.at, (done) => {
      if (done % EVERY === 0) reply({ kind: 'progress', done })
    })
    reply({ kind: 'done', frequencyHz, sweep })
  } catch (error) {
    reply({ kind: 'problem', message: error instanceof Error ? error.message : String(error) })
  }
}
