/** Every combination that was ticked, down to those that are worth their price. */
import { plan, type Plan, type PlanRequest } from '@saltline/core'
import type { Task } from '../task.ts'

export type PlanRun = Pick<Plan, 'front'> & Partial<Plan>

export const planTask: Task<PlanRequest, PlanRun> = (request, progress) =>
  plan(request, (share, front) => progress(share, { front: [...front] }))
