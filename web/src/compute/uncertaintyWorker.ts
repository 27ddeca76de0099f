/** Monte Carlo of a chain, of its limits, of what a tuner is worth to it; and the weighing of explanations. */
import {
  type Case,
  type Chain,
  chainUncertainty,
  type ChannelUncertainty,
  type Diagnosis,
  InputError,
  limitsUncertainty,
  type LimitsUncertainty,
  type Meter,
  type NextReading,
  nextReadings,
  type OperatingPoint,
  type PlaceRanges,
  type RatedChain,
  type Tolerances,
  type TunerStage,
  type Use,
  weigh,
  worthUncertainty,
} from '@saltline/core'
import { isPart } from '../model/headroomWords.ts'
import { serve } from './serve.ts'

export type UncertaintyRequest =
  | { task: 'ranges'; chain: Chain; at: OperatingPoint[]; tolerances: Tolerances }
  | {
      task: 'limits'
      chain: RatedChain
      channels: { at: OperatingPoint; uses: Use[] }[]
      tolerances: Tolerances
    }
  | {
      task: 'worth'
      chain: Chain
      tuner: TunerStage
      at: OperatingPoint[]
      tolerances: Tolerances
    }
  | { task: 'diagnosis'; kase: Case; another: Meter; planes: number[] }

/** Limits and worth are by channel; null where the chain has no figure on it. */
export type UncertaintyResult =
  | { task: 'ranges'; ranges: ChannelUncertainty[] }
  | { task: 'limits'; limits: (LimitsUncertainty[] | null)[] }
  | { task: 'worth'; worth: (PlaceRanges[] | null)[] }
  | { task: 'diagnosis'; diagnosis: Diagnosis; next: NextReading[] }

/** On which channel a place is read seldom matters: the best one stands for it. */
const samePlace = (a: NextReading, b: NextReading): boolean =>
  a.plane === b.plane && a.instrument === b.instrument

/** What each channel comes to, one after the other; null where it comes to nothing. */
function byChannel<C, R>(
  channels: readonly C[],
  progress: (share: number) => void,
  draw: (channel: C, progress: (share: number) => void) => R,
): (R | null)[] {
  return channels.map((channel, c) => {
    try {
      return draw(channel, (share) => progress((c + share) / channels.length))
    } catch (error) {
      if (error instanceof InputError) return null
      throw error
    }
  })
}

serve((request: UncertaintyRequest, progress): UncertaintyResult => {
  switch (request.task) {
    case 'ranges': {
      const { chain, at, tolerances } = request
      return { task: 'ranges', ranges: chainUncertainty(chain, at, tolerances, { progress }) }
    }
    case 'limits': {
      const { chain, tolerances } = request
      const limits = byChannel(request.channels, progress, ({ at, uses }, share) =>
        limitsUncertainty(chain, at, uses, tolerances, { counts: isPart, progress: share }),
      )
      return { task: 'limits', limits }
    }
    case 'worth': {
      const { chain, tuner, tolerances } = request
      const worth = byChannel(
        request.at,
        progress,
        (at, share) => worthUncertainty(chain, tuner, [at], tolerances, { progress: share })[0]!,
      )
      return { task: 'worth', worth }
    }
    case 'diagnosis': {
      const weighed = weigh(request.kase, progress)
      const next = nextReadings(weighed, request.another, request.planes)
        .filter((own, i, all) => i === all.findIndex((other) => samePlace(own, other)))
        .slice(0, 3)
      return { task: 'diagnosis', diagnosis: weighed.diagnosis, next }
    }
  }
})
