import type { Database } from '../db/open.ts'
import { type Route, route } from '../http/route.ts'
import * as runs from '../store/runs.ts'

export const runRoutes = (db: Database): Route[] => [
  route('GET /chains/:chainId/runs', {
    summary: 'Runs of sheets on a chain, newest first',
    handle: ({ chainId }) => runs.listRuns(db, chainId),
  }),
  route('GET /runs/:runId', {
    summary: 'A run as it stands',
    handle: ({ runId }) => runs.readRun(db, runId),
  }),
  route('PUT /chains/:chainId/runs/:runId', {
    summary:
      'Begin a run, or keep what was done on it; 409 where another device went on with it. Sent again, it is kept once',
    handle: ({ chainId, runId }, body) => runs.keepRun(db, chainId, runId, body),
  }),
]
