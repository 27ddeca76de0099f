import type { AllStepFigures, StepFiguresRequest } from './stepFiguresWorker.ts'
import { useWorker } from './useWorker.ts'

const begin = () =>
  new Worker(new URL('./stepFiguresWorker.ts', import.meta.url), { type: 'module' })

/** Expected figures of steps; a chain that changes meanwhile is computed anew. */
export const useStepFigures = (request: StepFiguresRequest | null) =>
  useWorker<StepFiguresRequest, AllStepFigures>(begin, request)
