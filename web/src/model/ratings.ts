/** What is known of the ratings of a chain's parts on a channel, in lines: what is past them first. */
import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import {
  checkLimits,
  InputError,
  type PowerUnit,
  type RatedChain,
  type Standing,
  standingOf,
  type Stress,
} from '@saltline/core'
import { operatingPoint } from './answers.ts'
import {
  figureOf,
  headroomText,
  isPart,
  kindName,
  partName,
  standingText,
  surroundingsOf,
} from './headroomWords.ts'

const worst: readonly Standing[] = ['over', 'tight', 'unknown', 'ok']

/** @returns one line for each part past its limit or near it, one for those that are not known, one for the rest */
export function ratingLines(
  document: ChainDocument,
  chain: RatedChain,
  channel: ChannelDocument,
  power: PowerUnit = 'W',
): string[] {
  let stresses: Stress[]
  try {
    const at = operatingPoint(document.transmitter, channel)
    stresses = checkLimits(chain, at, surroundingsOf(document, channel)).stresses.filter(isPart)
  } catch (error) {
    if (error instanceof InputError) return [error.message]
    throw error
  }
  const rank = (stress: Stress): number => worst.indexOf(standingOf(stress))
  const byPart = new Map<number, Stress>()
  for (const stress of stresses) {
    const other = byPart.get(stress.part)
    const worse =
      !other ||
      rank(stress) < rank(other) ||
      (rank(stress) === rank(other) && (stress.headroomDb ?? 0) < (other.headroomDb ?? 0))
    if (worse) byPart.set(stress.part, stress)
  }
  const parts = [...byPart.values()]
  const named = (standing: Standing) => parts.filter((stress) => standingOf(stress) === standing)
  const line = (stress: Stress): string =>
    `${standingText[standingOf(stress)]}: ${partName(document, stress.part)}, ${kindName(stress)} ` +
    `${figureOf(stress, stress.stress, power)} of ${figureOf(stress, stress.limit!, power)}` +
    (stress.headroomDb === null
      ? ''
      : ` (${headroomText(stress)}${stress.headroomDb < 0 ? '' : ' left'})`)
  const unknown = named('unknown').map(({ part }) => partName(document, part))
  const fine = named('ok').length
  return [
    ...named('over').map(line),
    ...named('tight').map(line),
    ...(unknown.length > 0 ? [`? Not known: ${unknown.join(', ')}`] : []),
    ...(fine > 0
      ? [`○ ${fine === 1 ? 'One part is' : `${fine} parts are`} well within what is known`]
      : []),
  ]
}
