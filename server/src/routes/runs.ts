import { runBodySchema, runSaveSchema, runSchema } from '@saltline/contract'
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
    method: 'post',
    path: '/chains/:chainId/runs',
    summary: 'Begin a run',
    body: runBodySchema,
    response: runSchema,
    status: 201,
    handle: ({ chainId }, body) => runs.startRun(db, chainId!, body),
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
    path: '/runs/:runId',
    summary: 'Keep what was done on a run; 409 where another device went on with it',
    body: runSaveSchema,
    response: runSchema,
    handle: ({ runId }, body) => runs.saveRun(db, runId!, body),
  }),
]
