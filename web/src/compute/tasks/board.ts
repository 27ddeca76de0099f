/** The part of each chain that is nearest to its limit, on whichever channel. */
import type { ChainDocument } from '@saltline/contract'
import { checkLimits, InputError, type RatedChain, type Stress } from '@saltline/core'
import { operatingPoint } from '../../model/answers.ts'
import { isPart, surroundingsOf } from '../../model/headroomWords.ts'
import type { Task } from '../task.ts'

export interface BoardRequest {
  chains: { id: string; document: ChainDocument; chain: RatedChain }[]
}

export interface Nearest {
  channelId: string
  stress: Stress
}

/** Of each chain; null where no limit is known. */
export type BoardResult = Record<string, Nearest | null>

export const boardTask: Task<BoardRequest, BoardResult> = ({ chains }, progress): BoardResult => {
  const result: BoardResult = {}
  chains.forEach(({ id, document, chain }, k) => {
    let nearest: Nearest | null = null
    for (const channel of document.channels)
      for (const stress of stressesOn(document, chain, channel))
        if (
          stress.headroomDb !== null &&
          (!nearest || stress.headroomDb < nearest.stress.headroomDb!)
        )
          nearest = { channelId: channel.id, stress }
    result[id] = nearest
    progress((k + 1) / chains.length)
  })
  return result
}

function stressesOn(
  document: ChainDocument,
  chain: RatedChain,
  channel: ChainDocument['channels'][number],
): Stress[] {
  try {
    const around = surroundingsOf(document, channel)
    return checkLimits(
      chain,
      operatingPoint(document.transmitter, channel),
      around,
    ).stresses.filter(isPart)
  } catch (error) {
    // A channel without a figure says so in its own row.
    if (error instanceof InputError) return []
    throw error
  }
}
