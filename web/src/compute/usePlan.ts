import type { PlanRequest } from '@saltline/core'
import type { PlanRun } from './planWorker.ts'
import { useWorker } from './useWorker.ts'

const begin = () => new Worker(new URL('./planWorker.ts', import.meta.url), { type: 'module' })

/** A plan, with the best so far while it runs and after it was stopped. */
export const usePlan = (request: PlanRequest | null) =>
  useWorker<PlanRequest, PlanRun>(begin, request)
