import type { CompareCurves, CompareCurvesRequest } from './compareCurvesWorker.ts'
import { useWorker } from './useWorker.ts'

const begin = () =>
  new Worker(new URL('./compareCurvesWorker.ts', import.meta.url), { type: 'module' })

/** Several chains over a band. */
export const useCompareCurves = (request: CompareCurvesRequest | null) =>
  useWorker<CompareCurvesRequest, CompareCurves>(begin, request, { whenBusy: 'wait' })
