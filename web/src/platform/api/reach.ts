/** Whether the server answers, as the last request found it. */
import { useSyncExternalStore } from 'react'

export interface Reach {
  answers: boolean
  /** When what is shown was fetched, where it comes from this browser; the oldest of it. */
  asOf: string | null
}

let reach: Reach = { answers: true, asOf: null }
const listeners = new Set<() => void>()

/** @param kept when the answer was fetched, where the browser gave one that it had kept */
export function noteReach(answers: boolean, kept: string | null = null): void {
  const asOf = answers ? null : ([reach.asOf, kept].filter((at) => at !== null).sort()[0] ?? null)
  if (answers === reach.answers && asOf === reach.asOf) return
  reach = { answers, asOf }
  for (const listener of listeners) listener()
}

export const useReach = (): Reach =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    () => reach,
  )
