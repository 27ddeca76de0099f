import { predictions } from '../chain/predictions.ts'
import type { Tolerances } from '../chain/tolerances.ts'
import type { RatedChain } from '../limits/mostPower.ts'
import { type ExpectedReading, expectReading } from '../measure/expectReading.ts'
import { type Meter, shownOf } from '../measure/meter.ts'
import type { Range } from '../statistics/quantile.ts'
import type { RunChannel } from './expand.ts'
import type { RunStep } from './sheet.ts'
import { chainOfStep } from './stateOf.ts'

const DRAWS = 200

/** What the meter should show; and what a perfect one would, 5 to 95 %: what is not known of the chain alone. */
export interface ExpectedStep extends ExpectedReading {
  chainRange: Range
  chainSwr: Range
}

/**
 * What the meter should show at a step, with its range: the solver's figure for the chain in the state of the step.
 *
 * @throws InputError where the chain has no answer there
 */
export function expectStep(
  chain: RatedChain,
  step: Pick<RunStep, 'state' | 'place'>,
  channel: RunChannel,
  { tolerances, meter }: { tolerances: Tolerances; meter: Meter },
): ExpectedStep {
  const stepped = chainOfStep(chain, step, channel)
  const { powerW, ...at } = stepped.at
  const predicted = predictions(stepped.chain, at, tolerances, { draws: DRAWS, seed: 1 })
  const plane = predicted(powerW, stepped.plane)
  const emission = { mode: at.mode ?? channel.mode }
  const { forwardW, swr } = plane.ranges!
  return {
    ...expectReading(plane, meter, emission),
    chainRange: {
      low: shownOf(meter, forwardW.low, emission),
      high: shownOf(meter, forwardW.high, emission),
    },
    chainSwr: swr,
  }
}
