import type { UncertaintyRequest, UncertaintyResult } from './uncertaintyWorker.ts'
import { useWorker } from './useWorker.ts'

export interface UncertaintyRun {
  /** The result of this very request; null until it is there. */
  result: UncertaintyResult | { problem: string } | null
  /** Share that is done, 0 … 1; null while nothing runs. */
  progress: number | null
  stop: () => void
}

/** How long a chain must stand still before it is computed: typing does not start a thousand samples. */
const REST_MS = 350

const begin = () =>
  new Worker(new URL('./uncertaintyWorker.ts', import.meta.url), { type: 'module' })

/** Ranges of a chain, or what explains its readings; null computes nothing. */
export function useUncertainty(request: UncertaintyRequest | null): UncertaintyRun {
  const { run, stop } = useWorker<UncertaintyRequest, UncertaintyResult>(begin, request, {
    restMs: REST_MS,
  })
  return {
    result:
      run?.state === 'done'
        ? run.value
        : run?.state === 'problem'
          ? { problem: run.message }
          : null,
    progress: run?.state === 'running' ? run.done : null,
    stop,
  }
}
