/** Runs of sheets: kept on the server step by step, so that any device goes on where another was. */
import { type Run, type RunBody, runSchema } from '@saltline/contract'
import { queryOptions } from '@tanstack/react-query'
import { z } from 'zod'
import { call } from './client.ts'
import { queryClient } from './queries.ts'

/** Another device may be on the same run: an open one is looked at again so often. */
const LOOK_AGAIN_MS = 2000

export const runsQuery = (chainId: string) =>
  queryOptions({
    queryKey: ['runs', chainId],
    queryFn: () => call('GET', `/chains/${chainId}/runs`, z.array(runSchema)),
  })

export const runQuery = (runId: string) =>
  queryOptions({
    queryKey: ['run', runId],
    queryFn: () => call('GET', `/runs/${runId}`, runSchema),
    refetchInterval: LOOK_AGAIN_MS,
    staleTime: 0,
  })

const shown = (run: Run): Run => {
  queryClient.setQueryData(['run', run.id], run)
  void queryClient.invalidateQueries({ queryKey: ['runs', run.chainId] })
  return run
}

export const startRun = async (chainId: string, body: RunBody): Promise<Run> =>
  shown(await call('POST', `/chains/${chainId}/runs`, runSchema, body))

/** @throws ApiProblem 409 where another device went on with it */
export const saveRun = async ({ id, revision }: Run, run: RunBody): Promise<Run> =>
  shown(await call('PUT', `/runs/${id}`, runSchema, { baseRevision: revision, run }))
