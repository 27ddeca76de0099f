/** What the store says when it cannot do what it was asked for; `http/problem.ts` makes answers of it. */
import type { ChainState } from '@saltline/contract'

interface Facts {
  /** Path of the field at fault. */
  path?: readonly (string | number)[]
  /** On a conflict: the chain as it is now, and the revision under which the refused edit was kept. */
  theirs?: ChainState
  keptAsRevision?: number
}

export class StoreError extends Error {
  override readonly name = 'StoreError'
  constructor(
    /** Not there, changed by somebody else meanwhile, or not to be had in this form. */
    readonly reason: 'missing' | 'conflict' | 'invalid',
    readonly title: string,
    detail: string,
    readonly facts: Facts = {},
  ) {
    super(detail)
  }
}

export const missing = (what: string): StoreError =>
  new StoreError(
    'missing',
    `No such ${what}`,
    `There is no ${what} at this address; it may have been deleted.`,
  )

/** A field that cannot be kept as it is. */
export const invalid = (
  path: readonly (string | number)[],
  message: string,
  { title = 'Some fields need attention', detail = message } = {},
): StoreError => new StoreError('invalid', title, detail, { path })
