/** What happens when a part fails at the power that is set. */
import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import { type Fault, faultsOf, InputError, type RatedChain } from '@saltline/core'
import { operatingPoint } from '../../model/answers.ts'
import { surroundingsOf } from '../../model/headroomWords.ts'
import type { Task } from '../task.ts'

/** On one channel; null where the chain has no figure on it. */
export interface ChannelFaults {
  channelId: string
  faults: Fault[] | null
}

export const faultsTask: Task<
  { document: ChainDocument; chain: RatedChain; channel: ChannelDocument; swrLimit: number },
  ChannelFaults
> = ({ document, chain, channel, swrLimit }) => {
  const at = operatingPoint(document.transmitter, channel)
  try {
    return {
      channelId: channel.id,
      faults: faultsOf(chain, at, surroundingsOf(document, channel), swrLimit),
    }
  } catch (error) {
    if (error instanceof InputError) return { channelId: channel.id, faults: null }
    throw error
  }
}
