/** What a line may end in while it is measured, in words. */
import type { FarEnd } from '@saltline/core'

export const farEnds: readonly { value: FarEnd; label: string }[] = [
  { value: 'antenna', label: 'the antenna' },
  { value: 'load', label: 'a 50 Ω load' },
  { value: 'open', label: 'open' },
  { value: 'short', label: 'shorted' },
]

/** What to mind with something else in the antenna's place. */
export const endCaution = (farEnd: Exclude<FarEnd, 'antenna'>, power: string): string =>
  farEnd === 'load'
    ? `The load has to bear what arrives of ${power}. Connect it, and the antenna again, with the transmitter off.`
    : 'For an analyser only: a transmitter that is keyed into an open or shorted line gets all of its power back.'
