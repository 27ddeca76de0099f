import { type Meter, asRead } from '../measure/meter.ts'
import { InputError } from '../errors.ts'
import { type Propagated, propagate } from '../statistics/propagate.ts'
import { checkPowers, type ForwardReflected } from './throughLine.ts'

export interface BothEnds {
  /** Net power at the near end over net power at the far end: what the line really took. */
  lossDb: Propagated
  /** Forward over forward: the loss of the line when flat. */
  matchedDb: Propagated
}

/**
 * Loss from a meter at each end.
 *
 * @throws InputError, under `near` or `far`, where the powers cannot be
 * @example bothEnds({ forwardW: 100, reflectedW: 1, meter }, { forwardW: 80, reflectedW: 1, meter }).matchedDb.value
 *   // 0.9691
 */
export function bothEnds(
  near: ForwardReflected & { meter: Meter },
  far: ForwardReflected & { meter: Meter },
): BothEnds {
  for (const [end, reading] of [
    ['near', near],
    ['far', far],
  ] as const)
    try {
      checkPowers(reading)
    } catch (error) {
      throw error instanceof InputError ? error.within(end) : error
    }
  const doubtful = (end: typeof near, watts: number) => asRead(end.meter, watts)
  const inputs = {
    'forward, near end': doubtful(near, near.forwardW),
    'reflected, near end': doubtful(near, near.reflectedW),
    'forward, far end': doubtful(far, far.forwardW),
    'reflected, far end': doubtful(far, far.reflectedW),
  }
  const ratio = (a: number, b: number) => (a > 0 && b > 0 ? 10 * Math.log10(a / b) : NaN)
  return {
    lossDb: propagate(inputs, (v) =>
      ratio(
        v['forward, near end'] - Math.max(0, v['reflected, near end']),
        v['forward, far end'] - Math.max(0, v['reflected, far end']),
      ),
    ),
    matchedDb: propagate(
      {
        'forward, near end': inputs['forward, near end'],
        'forward, far end': inputs['forward, far end'],
      },
      (v) => ratio(v['forward, near end'], v['forward, far end']),
    ),
  }
}
