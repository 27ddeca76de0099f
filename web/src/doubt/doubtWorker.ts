/** Draws chains and weighs explanations, away from the page. */
import {
  type Case,
  type Chain,
  chainUncertainty,
  type ChannelUncertainty,
  type Diagnosis,
  InputError,
  type Meter,
  type NextReading,
  nextReadings,
  type OperatingPoint,
  type Tolerances,
  weigh,
} from '@saltline/core'

export type DoubtRequest =
  | { task: 'ranges'; chain: Chain; at: OperatingPoint[]; tolerances: Tolerances }
  | { task: 'diagnosis'; kase: Case; another: Meter; planes: number[] }

export type DoubtReply =
  | { progress: number }
  | { task: 'ranges'; ranges: ChannelUncertainty[] }
  | { task: 'diagnosis'; diagnosis: Diagnosis; next: NextReading[] }
  | { problem: string }

/** On which channel a place is read seldom matters: the best one stands for it. */
const samePlace = (a: NextReading, b: NextReading): boolean =>
  a.plane === b.plane && a.instrument === b.instrument

const say = (reply: DoubtReply) => self.postMessage(reply)

self.onmessage = ({ data }: MessageEvent<DoubtRequest>) => {
  const progress = (share: number) => say({ progress: share })
  try {
    if (data.task === 'ranges')
      say({
        task: 'ranges',
        ranges: chainUncertainty(data.chain, data.at, data.tolerances, { progress }),
      })
    else {
      const weighed = weigh(data.kase, progress)
      const next = nextReadings(weighed, data.another, data.planes)
        .filter((own, i, all) => i === all.findIndex((other) => samePlace(own, other)))
        .slice(0, 3)
      say({ task: 'diagnosis', diagnosis: weighed.diagnosis, next })
    }
  } catch (error) {
    if (!(error instanceof InputError)) throw error
    say({ problem: error.message })
  }
}
