import { useWorker } from './useWorker.ts'
import type { DrillFigures, DrillRequest } from './drillWorker.ts'

const begin = () => new Worker(new URL('./drillWorker.ts', import.meta.url), { type: 'module' })

/** What a drill needs time for; null asks for nothing. */
export function useDrill(request: DrillRequest | null): DrillFigures | null {
  const { run } = useWorker<DrillRequest, DrillFigures>(begin, request)
  return run?.state === 'done' ? run.value : null
}
