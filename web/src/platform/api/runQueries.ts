/** Runs of sheets: kept on the server step by step, so that any device goes on where another was. */
import { queryOptions } from '@tanstack/react-query'
import { waitingRun } from '../outbox/enter.ts'
import { call } from './client.ts'

/** Another device may be on the same run: an open one is looked at again so often. */
const LOOK_AGAIN_MS = 2000

export const runsQuery = (chainId: string) =>
  queryOptions({
    queryKey: ['runs', chainId],
    queryFn: () => call('GET /chains/:chainId/runs', { params: { chainId } }),
  })

export const runQuery = (runId: string) =>
  queryOptions({
    queryKey: ['run', runId],
    queryFn: async () => waitingRun(runId) ?? call('GET /runs/:runId', { params: { runId } }),
    refetchInterval: LOOK_AGAIN_MS,
    staleTime: 0,
  })
