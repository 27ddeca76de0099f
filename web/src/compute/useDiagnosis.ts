import { type Case, usualMeter } from '@saltline/core'
import { useMemo } from 'react'
import { useTask } from './useTask.ts'

/** To think of where a reading with another instrument might tell more. */
const another = { ...usualMeter, accuracyOf: 'reading' as const, directivityDb: 30 }

/**
 * What explains readings, ranked, and which one to take next.
 *
 * @param given the readings; null computes nothing
 * @param costs of reading at each plane, in readings at the desk; null where it cannot be done today
 */
export function useDiagnosis(given: Case | null, costs: readonly (number | null)[]) {
  const request = useMemo(
    () =>
      given && {
        kase: given,
        another,
        costs: [...costs],
      },
    [given, costs],
  )
  return useTask('diagnosis', request)
}
