/** Sweeps along a line, kept with the log. */
import { queryOptions } from '@tanstack/react-query'
import { call } from './client.ts'
import { queryClient } from './queries.ts'

export const lineSweepsQuery = (chainId: string) =>
  queryOptions({
    queryKey: ['log', 'line sweeps', chainId],
    queryFn: () => call('GET /chains/:chainId/line-sweeps', { params: { chainId } }),
  })

/** With its points, which never change. */
export const lineSweepQuery = (sweepId: string | null) =>
  queryOptions({
    queryKey: ['line sweep', sweepId],
    queryFn: () => call('GET /line-sweeps/:sweepId', { params: { sweepId: sweepId! } }),
    enabled: sweepId !== null,
    staleTime: Infinity,
  })

async function afterSweepsChange(): Promise<void> {
  await queryClient.invalidateQueries({ queryKey: ['log'] })
  await queryClient.invalidateQueries({ queryKey: ['bin'] })
}

export async function deleteLineSweep(sweepId: string): Promise<void> {
  await call('DELETE /line-sweeps/:sweepId', { params: { sweepId } })
  await afterSweepsChange()
}

export async function restoreLineSweep(sweepId: string): Promise<void> {
  await call('POST /line-sweeps/:sweepId/restore', { params: { sweepId } })
  await afterSweepsChange()
}
