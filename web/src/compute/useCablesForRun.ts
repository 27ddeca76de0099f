import type { CablesForRun, CablesForRunRequest } from './cablesForRunWorker.ts'
import { useWorker } from './useWorker.ts'

const begin = () =>
  new Worker(new URL('./cablesForRunWorker.ts', import.meta.url), { type: 'module' })

/** The same run in every cable. */
export const useCablesForRun = (request: CablesForRunRequest | null) =>
  useWorker<CablesForRunRequest, CablesForRun>(begin, request, { whenBusy: 'wait' })
