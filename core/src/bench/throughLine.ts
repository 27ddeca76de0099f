import { InputError } from '../errors.ts'
import { mismatchLossDb, returnLossDb, swrOf } from '../load/reflection.ts'
import { asRead, leakOf, type Meter } from '../measure/meter.ts'
import { type Propagated, propagate } from '../statistics/propagate.ts'
import type { Range } from '../statistics/quantile.ts'

/** Forward and reflected power read at one place, as W of the same kind (both mean or both peak). */
export interface ForwardReflected {
  forwardW: number
  reflectedW: number
}

export interface ThroughLine {
  rho: number
  swr: Propagated
  returnLossDb: number
  mismatchLossDb: number
  /** Reflected over forward, 0 … 1. */
  returned: number
  net: Propagated
  /** What directivity alone leaves open; the top is infinite where it may all come back. */
  swrRange: Range
  /** SWR that a perfect load would seem to have. */
  bestSwrSeen: number
}

/**
 * Everything that follows from forward and reflected power.
 *
 * |ρ| = √(P_r/P_f). A coupler of directivity D dB adds up to d = 10^(−D/20) to the |ρ| it sees, or takes
 * it away (first order); the accuracy of the watts comes on top.
 *
 * @throws InputError where the powers cannot be
 * @example throughLine({ forwardW: 100, reflectedW: 4 }, meter).swr.value // 1.5
 */
export function throughLine(
  { forwardW, reflectedW }: ForwardReflected,
  meter: Meter,
  ranges: { forwardW?: number | null; reflectedW?: number | null } = {},
): ThroughLine {
  checkPowers({ forwardW, reflectedW })
  const leak = leakOf(meter)
  const rho = Math.sqrt(reflectedW / forwardW)
  const inputs = {
    forward: asRead(meter, forwardW, ranges.forwardW),
    reflected: asRead(meter, reflectedW, ranges.reflectedW),
    // The phase between leak and reflection is unknown.
    directivity: { value: 0, doubt: leak, shape: 'phase' as const },
  }
  const seen = (f: number, r: number, d: number) =>
    f > 0 ? Math.abs(Math.sqrt(Math.max(0, r) / f) - d) : NaN
  return {
    rho,
    swr: propagate(inputs, (v) => swrOf(seen(v.forward, v.reflected, v.directivity))),
    returnLossDb: returnLossDb(rho),
    mismatchLossDb: mismatchLossDb(rho),
    returned: reflectedW / forwardW,
    net: propagate(
      { forward: inputs.forward, reflected: inputs.reflected },
      (v) => v.forward - Math.max(0, v.reflected),
    ),
    swrRange: { low: swrOf(Math.max(0, rho - leak)), high: swrOf(rho + leak) },
    bestSwrSeen: swrOf(leak),
  }
}

/**
 * Refuses a pair of readings that no passive load gives.
 *
 * @throws InputError forward power 0 W or less (path `forwardW`), more reflected than forward power (path `reflectedW`)
 */
export function checkPowers({ forwardW, reflectedW }: ForwardReflected): void {
  if (!(forwardW > 0))
    throw new InputError('Forward power must be more than 0 W: is the transmitter keyed?', [
      'forwardW',
    ])
  if (!(reflectedW >= 0))
    throw new InputError('Reflected power must be 0 W or more.', ['reflectedW'])
  if (reflectedW >= forwardW)
    throw new InputError(
      'As much comes back as goes out, or more. Either the meter is turned round, or the two were read on different ranges, or the line is open.',
      ['reflectedW'],
    )
}
