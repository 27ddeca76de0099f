/** The most that may be set on every channel, in every mode of the table; parts alone, no licence. */
import type { ChainDocument } from '@saltline/contract'
import { InputError, type ModeId, type MostPower, mostPower, type RatedChain } from '@saltline/core'
import { operatingPoint } from '../../model/answers.ts'
import { inMode, isPart, mostModes, surroundingsOf } from '../../model/headroomWords.ts'
import type { Task } from '../task.ts'

/** By channel; null where the chain has no figure on it. */
export type MostByMode = Record<string, Record<ModeId, MostPower> | null>

export const mostTask: Task<{ document: ChainDocument; chain: RatedChain }, MostByMode> = ({
  document,
  chain,
}) =>
  Object.fromEntries(
    document.channels.map((channel) => {
      try {
        const most = mostModes.map((mode) => {
          const own = inMode(channel, mode)
          const at = operatingPoint(document.transmitter, own)
          return [mode, mostPower(chain, at, surroundingsOf(document, own), isPart)]
        })
        return [channel.id, Object.fromEntries(most) as Record<ModeId, MostPower>]
      } catch (error) {
        if (error instanceof InputError) return [channel.id, null]
        throw error
      }
    }),
  )
