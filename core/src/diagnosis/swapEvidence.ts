/** What swapping a lead for a good one told: evidence beside readings and sweeps. */
import type { Cause } from './causes.ts'

/** A lead was swapped for one that is known to be good, and the same reading was taken again. */
export interface TriedSwap {
  /** The lead, by its stage. */
  stage: number
  /** Whether the reading then showed what was expected; false where it showed what it had shown before. */
  cameRight: boolean
}

/** So often a swap says what the lead was; now and then it is a joint that is put right on the way. A rule of practice. */
const SURE = 0.97

/** Whether a cause goes with the stage that is taken out. */
export const goesWith = (cause: Cause, stage: number): boolean =>
  (cause.kind === 'loss' && cause.from === stage && cause.to === stage) ||
  (cause.kind === 'aged' && cause.stage === stage)

/** Of these nobody knows what a swap makes: a reading that was written down wrong comes right when it is taken again. */
const mayBeEither = ({ kind }: Cause): boolean => kind === 'slip' || kind === 'other'

/** ln of how likely swaps are to end as they did under causes, all of which are there. */
export const swapLog = (swaps: readonly TriedSwap[], causes: readonly Cause[]): number =>
  swaps.reduce((sum, { stage, cameRight }) => {
    if (causes.some(mayBeEither)) return sum + Math.log(0.5)
    const inIt = causes.some((cause) => goesWith(cause, stage))
    return sum + Math.log(inIt === cameRight ? SURE : 1 - SURE)
  }, 0)
