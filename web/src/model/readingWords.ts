import type { ReadingBody } from '@saltline/contract'
import { formatPower, formatSwr, type PowerUnit } from '@saltline/core'

/** A reading in words: “forward 44 W, reflected 1.5 W, at the radio”. */
export const readingWords = (
  { forwardW, reflectedW, swr }: Pick<ReadingBody, 'forwardW' | 'reflectedW' | 'swr'>,
  place: string,
  power: PowerUnit,
): string =>
  [
    ...(forwardW === undefined ? [] : [`forward ${formatPower(forwardW, power)}`]),
    ...(reflectedW === undefined ? [] : [`reflected ${formatPower(reflectedW, power)}`]),
    ...(swr === undefined ? [] : [`SWR ${formatSwr(swr)}`]),
    place,
  ].join(', ')
