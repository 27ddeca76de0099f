import type { MatchRequest, MatchSweep } from './matchWorker.ts'
import { useWorker } from './useWorker.ts'

export const POINTS = 300

/** A number that is being dragged starts nothing until it rests, ms. */
const REST_MS = 200

const begin = () => new Worker(new URL('./matchWorker.ts', import.meta.url), { type: 'module' })

/** A tuner in each place over the band; progress in frequencies. */
export const useMatchSweep = (request: MatchRequest) =>
  useWorker<MatchRequest, MatchSweep>(begin, request, { restMs: REST_MS })
