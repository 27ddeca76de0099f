import { MOST_SWEEP_TEXT } from '@saltline/contract'
import type { Database } from '../db/open.ts'
import { deletion, type Route, route } from '../http/route.ts'
import * as store from '../store/lineSweeps.ts'
import { briefly } from '../work/kinds.ts'

/** A sweep of twenty thousand points, and what is said of it. */
const BODY_LIMIT = MOST_SWEEP_TEXT + 65_536

export const lineSweepRoutes = (db: Database): Route[] => [
  route('GET /chains/:chainId/line-sweeps', {
    work: briefly,
    summary: 'Sweeps along the line of a chain, newest first, without their points',
    handle: ({ chainId }) => store.listLineSweeps(db, chainId),
  }),
  route('POST /chains/:chainId/line-sweeps', {
    summary: 'Keep a sweep along the line of a chain: a Touchstone one-port file, from a program',
    status: 201,
    bodyLimit: BODY_LIMIT,
    handle: ({ chainId }, body) => store.keepLineSweep(db, chainId, body),
  }),
  route('PUT /chains/:chainId/line-sweeps/:sweepId', {
    summary: 'Keep a sweep under an identity of the sender’s; sent again, it is kept once',
    bodyLimit: BODY_LIMIT,
    handle: ({ chainId, sweepId }, body) => store.keepLineSweep(db, chainId, body, sweepId),
  }),
  route('GET /line-sweeps/:sweepId', {
    work: briefly,
    summary: 'A sweep with its points',
    handle: ({ sweepId }) => store.readLineSweep(db, sweepId),
  }),
  ...deletion('/line-sweeps/:sweepId', 'a sweep', ({ sweepId }, deleted) =>
    store.setLineSweepDeleted(db, sweepId, deleted),
  ),
]
