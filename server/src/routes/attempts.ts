import { attemptBodySchema, attemptSchema } from '@saltline/contract'
import { z } from 'zod'
import type { Database } from '../db/open.ts'
import { type Route, route } from '../http/route.ts'
import * as attempts from '../store/attempts.ts'

export const attemptRoutes = (db: Database): Route[] => [
  route({
    method: 'get',
    path: '/stations/:stationId/attempts',
    summary: 'Attempts at drills that were kept under a name, newest first',
    response: z.array(attemptSchema),
    handle: ({ stationId }) => attempts.listAttempts(db, stationId!),
  }),
  route({
    method: 'put',
    path: '/stations/:stationId/attempts/:attemptId',
    summary: 'Keep an attempt; sent again, it is kept once',
    body: attemptBodySchema,
    response: attemptSchema,
    handle: ({ stationId, attemptId }, body) =>
      attempts.keepAttempt(db, stationId!, attemptId!, body),
  }),
]
