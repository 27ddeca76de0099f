import { InputError } from '../errors.ts'
import { asRead, type Meter, rangeFor, readingDoubtW } from '../measure/meter.ts'
import { type Propagated, propagate } from '../statistics/propagate.ts'

export interface Modulation {
  /** Depth m of amplitude modulation, 0 to 1; more is overmodulation. */
  depth: Propagated
  /** Average with a full tone at this depth, W. */
  averageW: number
  /** Of the meter's ranges, the least carrier at which m = 1 is known to a tenth, W; null where none does. */
  leastCarrierW: number | null
}

/** As well as a depth has to be known to be worth anything. */
const WANTED = 0.1

/**
 * Depth of amplitude modulation from the carrier and the peak envelope power: PEP = P_c·(1 + m)².
 *
 * @param carrierW without modulation
 * @param pepW with it, on a peak meter
 * @throws InputError where there is less power with modulation than without
 * @example modulationDepth(25, 100, meter).depth.value // 1
 */
export function modulationDepth(carrierW: number, pepW: number, meter: Meter): Modulation {
  if (!(carrierW > 0)) throw new InputError('The carrier must be more than 0 W.', ['carrierW'])
  if (!(pepW >= carrierW))
    throw new InputError(
      'Peak envelope power is never less than the carrier: is this an averaging meter, or does the carrier shift?',
      ['pepW'],
    )
  const depth = propagate(
    {
      carrier: asRead(meter, carrierW),
      PEP: asRead(meter, pepW),
    },
    (v) => (v.carrier > 0 && v.PEP > 0 ? Math.sqrt(v.PEP / v.carrier) - 1 : NaN),
  )
  return {
    depth,
    averageW: carrierW * (1 + depth.value ** 2 / 2),
    leastCarrierW: leastCarrier(meter),
  }
}

/** Errors of both readings add in squares: Δm = (1 + m)/2·√((ΔP/P)² + (ΔC/C)²), at m = 1. */
function leastCarrier(meter: Meter): number | null {
  const most = meter.rangesW.at(-1)
  if (most === undefined) return meter.accuracy * Math.SQRT2 <= WANTED ? 0 : null
  for (let carrier = most / 4000; carrier <= most / 4; carrier *= 1.05) {
    if (rangeFor(meter, 4 * carrier) === null) continue
    const shares = [carrier, 4 * carrier].map((watts) => readingDoubtW(meter, watts) / watts)
    if (Math.hypot(shares[0]!, shares[1]!) <= WANTED) return carrier
  }
  return null
}
