/**
 * Properties run on one seed, so that a test that passed yesterday passes today; `npm run fuzz` gives others
 * and more runs.
 */
import fc from 'fast-check'

const seed = process.env['SALTLINE_SEED']
const runs = process.env['SALTLINE_RUNS']

fc.configureGlobal({
  seed: seed === undefined ? 20_260_418 : Number(seed),
  ...(runs !== undefined && { numRuns: Number(runs) }),
})
