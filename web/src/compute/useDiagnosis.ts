import { type Case, type Explanation, type NextSweep, usualMeter } from '@saltline/core'
import { useMemo } from 'react'
import { SETTLED } from '../model/readingCosts.ts'
import { usePartial, useTask } from './useTask.ts'

/** To think of where a reading with another instrument might tell more. */
const another = { ...usualMeter, accuracyOf: 'reading' as const, directivityDb: 30 }

/** A sweep that would tell the first two explanations apart, where they are open and there is none yet. */
export function useNextSweep(
  given: Case | null,
  explanations: readonly Explanation[] | undefined,
  costs: readonly (number | null)[],
): NextSweep | null {
  const request = useMemo(() => {
    const [first, second] = explanations ?? []
    if (!given || !first || !second || first.probability >= SETTLED || given.sweeps?.length)
      return null
    return { kase: given, between: [first.cause, second.cause] as const, costs: [...costs] }
  }, [given, explanations, costs])
  return useTask('nextSweep', request).result
}

/**
 * What explains readings, ranked, and which one to take next. The ranking comes first: `soFar` has it, and what is still on
 * its way is empty there.
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
  const task = useTask('diagnosis', request)
  const soFar = usePartial(task.progress, request)
  return { ...task, soFar: task.result ?? soFar ?? null }
}
