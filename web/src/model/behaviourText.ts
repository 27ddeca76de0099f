import type { TransmitterDocument } from '@saltline/contract'

/** How a source meets a mismatch. */
export const behaviourText: Record<TransmitterDocument['behaviour'], string> = {
  levelled: 'constant forward power',
  peaked: 'tuned output',
}
