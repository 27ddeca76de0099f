import type { RunSheetDocument, Station } from '@saltline/contract'
import { missingFor } from '@saltline/core'
import { useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import { useTask } from '../../compute/useTask.ts'
import { chainOfDocument } from '../../model/answers.ts'
import { asSheet } from '../../model/ownSheets.ts'
import { runStationOf } from '../../model/runs.ts'
import { dangersByStep, type StepDanger } from '../../model/sheetDangers.ts'
import { chainOnPaperQuery, sweepQuery } from '../../platform/api/queries.ts'
import { useUnits } from '../../platform/preferences.ts'

/** Typing rests before a sheet is checked, ms. */
const REST_MS = 400

/**
 * What a sheet would do that must never happen on a chain of the station, by the id of the step in the sheet. Null until it
 * is worked out.
 */
export function useSheetCheck(
  sheet: RunSheetDocument,
  station: Station,
  chainId: string | undefined,
): { dangers: Record<string, StepDanger[]> | null; fits: boolean; problem: string | null } {
  const { power } = useUnits()
  const { data: state } = useQuery({
    ...chainOnPaperQuery(chainId ?? ''),
    enabled: chainId !== undefined,
  })
  const document = state?.document
  const sweepId = document?.load.kind === 'antenna' ? document.load.sweepId : undefined
  const { data: sweep } = useQuery(sweepQuery(sweepId))
  const fits = document ? missingFor(document, sheet).length === 0 : true
  const request = useMemo(() => {
    const chain = document && chainOfDocument(document, sweep)
    if (!chain || !fits) return null
    return {
      sheet: asSheet('own', sheet),
      station: runStationOf(document, chain, station),
      channelId: document.channels[0]!.id,
    }
  }, [document, sweep, fits, sheet, station])
  const { last, problem } = useTask('runPlan', request, REST_MS)
  const dangers = useMemo(
    () => (document && last && fits ? dangersByStep(sheet, last.dangers, document, power) : null),
    [document, last, fits, sheet, power],
  )
  return { dangers, fits, problem }
}
