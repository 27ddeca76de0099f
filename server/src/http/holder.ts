/** On whose behalf a request is made, where somebody was asked: what is counted for each is counted by it. */
import type { Response } from 'express'

export interface Holder {
  id: string
  /** Whether the access holds still. */
  holds: () => boolean
  /** Calls when the access ends; gives back what stops that. */
  onEnd: (hear: () => void) => () => void
}

export const setHolder = (res: Response, holder: Holder): void => {
  res.locals['holder'] = holder
}

/** Null on a machine of its own, where nobody is asked. */
export const holderOf = (res: Response): Holder | null =>
  (res.locals['holder'] as Holder | undefined) ?? null
