import { healthSchema, solveRequestSchema, solveResponseSchema } from '@saltline/contract'
import { answerChain } from '@saltline/core'
import type { Database } from '../db/open.ts'
import { type Route, route } from '../http/route.ts'
import { chainOfDocument } from '../store/antennas.ts'
import { solving } from '../work/kinds.ts'

export const solveRoutes = (db: Database, version: string): Route[] => [
  route({
    method: 'post',
    path: '/solve',
    work: solving,
    summary: 'Solve a chain document at a frequency and a set power',
    body: solveRequestSchema,
    response: solveResponseSchema,
    handle: async (_, { document, ...at }) => answerChain(await chainOfDocument(db, document), at),
  }),
  route({
    method: 'get',
    path: '/health',
    summary: 'Whether the server answers, and its version',
    response: healthSchema,
    handle: async () => ({ ok: true as const, version }),
  }),
]
