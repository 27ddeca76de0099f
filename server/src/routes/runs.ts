import { runSaveSchema, runSchema } from '@saltline/contract'
import { z } from 'zod'
import type { Database } from '../db/open.ts'
import { type Route, route } from '../http/route.ts'
import * as runs from '../store/runs.ts'

export const runRoutes = (db: Database): Route[] => [
  route({
    method: 'get',
    path: '/chains/:chainId/runs',
    summary: 'Runs of sheets on a chain, newest first',
    response: z.array(runSchema),
    handle: ({ chainId }) => runs.listRuns(db, chainId!),
  }),
  route({
    method: 'get',
    path: '/runs/:runId',
    summary: 'A run as it stands',
    response: runSchema,
    handle: ({ runId }) => runs.readRun(db, runId!),
  }),
  route({
    method: 'put',
    path: '/chains/:chainId/runs/:runId',
    summary:
      'Begin a run, or keep what was done on it; 409 where another device went on with it. Sent again, it is kept once',
    body: runSaveSchema,
    response: runSchema,
    handle: ({ chainId, runId }, body) => runs.keepRun(db, chainId!, runId!, body),
  }),
]
