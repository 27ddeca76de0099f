import type { RunPlan, RunPlanRequest } from './runPlanWorker.ts'
import { once } from './once.ts'
import { useWorker } from './useWorker.ts'

const begin = () => new Worker(new URL('./runPlanWorker.ts', import.meta.url), { type: 'module' })

/** A sheet written out for a station; the newest request replaces the one before. */
export const useRunPlan = (request: RunPlanRequest | null, restMs = 0) =>
  useWorker<RunPlanRequest, RunPlan>(begin, request, { restMs })

/** The same, asked for once. */
export const runPlanOnce = (request: RunPlanRequest): Promise<RunPlan> =>
  once<RunPlanRequest, RunPlan>(begin, request)
