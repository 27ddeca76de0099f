/** What is near its limit, said in its place on the spine. */
import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import { type Solution, standingOf, stressesOf, tightest } from '@saltline/core'
import { kindName, surroundingsOf } from '../model/headroomWords.ts'

/** A shape and a word for every stage that is tight or over; null for the others. */
export function marksOf(
  document: ChainDocument,
  channel: ChannelDocument,
  solution: Solution,
): (string | null)[] {
  // Drive and trips of an amplifier have words of their own.
  const stresses = stressesOf(document.stages, solution, surroundingsOf(document, channel)).filter(
    ({ kind }) => kind !== 'drive' && kind !== 'reflected' && kind !== 'SWR',
  )
  return document.stages.map((_, k) => {
    const worst = tightest(stresses.filter(({ part }) => part === k))
    const standing = worst && standingOf(worst)
    if (standing === 'over') return `▲ ${kindName(worst!)}`
    return standing === 'tight' ? `◐ ${kindName(worst!)}` : null
  })
}
