import type { Database } from '../db/open.ts'
import { type Route, route } from '../http/route.ts'
import * as attempts from '../store/attempts.ts'

export const attemptRoutes = (db: Database): Route[] => [
  route('GET /stations/:stationId/attempts', {
    summary: 'Attempts at drills that were kept under a name, newest first',
    handle: ({ stationId }) => attempts.listAttempts(db, stationId),
  }),
  route('PUT /stations/:stationId/attempts/:attemptId', {
    summary: 'Keep an attempt; sent again, it is kept once',
    handle: ({ stationId, attemptId }, body) =>
      attempts.keepAttempt(db, stationId, attemptId, body),
  }),
]
