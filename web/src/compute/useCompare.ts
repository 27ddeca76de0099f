import type { CompareRequest, CompareResult } from './compareWorker.ts'
import { useWorker } from './useWorker.ts'

const begin = () => new Worker(new URL('./compareWorker.ts', import.meta.url), { type: 'module' })

/** Alternatives beside the chain; what was found last stays until the next is there. */
export const useCompare = (request: CompareRequest | null) =>
  useWorker<CompareRequest, CompareResult>(begin, request, { whenBusy: 'wait' })
