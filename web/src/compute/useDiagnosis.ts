import { type Case, usualMeter } from '@saltline/core'
import { useMemo } from 'react'
import { useUncertainty } from './useUncertainty.ts'

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
        task: 'diagnosis' as const,
        kase: given,
        another,
        planes: Array.from({ length: planes }, (_, plane) => plane),
      },
    [given, planes],
  )
  const { result, progress, stop } = useUncertainty(request)
  return {
    done: result && 'diagnosis' in result ? result : null,
    problem: result && 'problem' in result ? result.problem : null,
    progress,
    stop,
  }
}
