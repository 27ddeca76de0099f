import { type Case, usualMeter } from '@saltline/core'
import { useMemo } from 'react'
import { useTask } from './useTask.ts'

/** To think of where a reading with another instrument might tell more. */
const another = { ...usualMeter, accuracyOf: 'reading' as const, directivityDb: 30 }

/**
 * What explains readings, ranked, and which one to take next.
 *
 * @param given the readings; null computes nothing
 * @param planes where a meter can be put next; none where that is not asked
 */
export function useDiagnosis(given: Case | null, planes: number) {
  const request = useMemo(
    () =>
      given && {
        kase: given,
        another,
        planes: Array.from({ length: planes }, (_, plane) => plane),
      },
    [given, planes],
  )
  return useTask('diagnosis', request)
}
