/** A reading that is advised, as the form for it is to stand. */
import type { FarEnd, NextReading } from '@saltline/core'
import { type Points, setPowerOf } from './causeWords.ts'

export interface NextStep {
  plane: number
  /** Where the chain has it still. */
  channelId: string | undefined
  /** Power to set, W; null where it is the channel's own. */
  setW: number | null
  farEnd: FarEnd
}

export const stepOf = (
  next: Pick<NextReading, 'plane' | 'point' | 'share'>,
  made: Points,
): NextStep => ({
  plane: next.plane,
  channelId: made.own[next.point]?.id,
  setW: setPowerOf(next, made),
  farEnd: made.kase.channels[next.point]!.farEnd ?? 'antenna',
})
