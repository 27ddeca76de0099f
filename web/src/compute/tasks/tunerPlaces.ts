/** What a tuner is worth in each place, channel by channel. */
import {
  type Chain,
  InputError,
  type OperatingPoint,
  type PlaceAnswer,
  type TunerStage,
  worthOfTuner,
} from '@saltline/core'
import type { Task } from '../task.ts'

export interface TunerPlacesRequest {
  chain: Chain
  tuner: TunerStage
  channels: { id: string; at: OperatingPoint }[]
}

/** By channel; null where the chain has no figure on it. */
export type TunerPlaces = Record<string, PlaceAnswer[] | null>

export const tunerPlacesTask: Task<TunerPlacesRequest, TunerPlaces> = ({
  chain,
  tuner,
  channels,
}): TunerPlaces => {
  const answerAt = (at: OperatingPoint) => {
    try {
      return worthOfTuner(chain, tuner, at)
    } catch (error) {
      if (error instanceof InputError) return null
      throw error
    }
  }
  return Object.fromEntries(channels.map(({ id, at }) => [id, answerAt(at)]))
}
