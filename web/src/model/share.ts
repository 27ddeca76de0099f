import { formatPercent } from '@saltline/core'

/** A probability in words: nothing is ever quite certain. */
export const shareText = (share: number): string =>
  share > 0.99 ? 'over 99\u00a0%' : formatPercent(share)
