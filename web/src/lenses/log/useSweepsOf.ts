import type { LineSweep, Reading } from '@saltline/contract'
import { useQueries, useQuery, type UseQueryResult } from '@tanstack/react-query'
import { useMemo } from 'react'
import { sessionSweeps } from '../../model/lineSweeps.ts'
import { lineSweepQuery, lineSweepsQuery } from '../../platform/api/lineSweepQueries.ts'

const NONE: LineSweep[] = []

const loaded = (results: UseQueryResult<LineSweep>[]): LineSweep[] =>
  results.length === 0 ? NONE : results.flatMap(({ data }) => (data ? [data] : []))

/** Sweeps of a chain that were kept in the session of some readings, with their points. */
export function useSweepsOf(chainId: string, readings: readonly Reading[]): readonly LineSweep[] {
  const { data: kept } = useQuery(lineSweepsQuery(chainId))
  const queries = useMemo(
    () => sessionSweeps(kept ?? [], readings).map(({ id }) => lineSweepQuery(id)),
    [kept, readings],
  )
  return useQueries({ queries, combine: loaded })
}
