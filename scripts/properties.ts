/**
 * Properties run on one seed, so that a test that passed yesterday passes today; `npm run fuzz` gives others
 * and more runs.
 */
import fc from 'fast-check'
import { vi } from 'vitest'

// Files share their globals: what one has put in the place of timers or globals ends with it.
vi.useRealTimers()
vi.unstubAllGlobals()

const seed = process.env['SALTLINE_SEED']
const runs = process.env['SALTLINE_RUNS']

fc.configureGlobal({
  seed: seed === undefined ? 20_260_418 : Number(seed),
  ...(runs !== undefined && { numRuns: Number(runs) }),
})
