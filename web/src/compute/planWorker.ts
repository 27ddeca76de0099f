/** Every combination that was ticked, down to those that are worth their price. */
import { plan, type Plan, type PlanRequest } from '@saltline/core'
import { serve } from './serve.ts'

export type PlanRun = Pick<Plan, 'front'> & Partial<Plan>

serve((request: PlanRequest, progress): PlanRun =>
  plan(request, (share, front) => progress(share, { front: [...front] })),
)
