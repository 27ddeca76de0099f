import type { Compared } from '@saltline/core'

/** How a reading stands against what was expected. */
export const comparedWords: Record<Compared['is'], string> = {
  inside: 'inside the uncertainty',
  more: 'more than expected: is the power set higher, or the meter on another scale?',
  half: 'half of the expected power: is the radio in a reduced-power mode?',
  less: 'less than expected: is the power set lower, or lost on the way here?',
}
