/** What stands at the end of a line while something is measured on it. */
import type { Load } from '../load/load.ts'
import { type Chain, type OperatingPoint, referenceOf } from './chain.ts'

export type FarEnd = 'antenna' | 'open' | 'short' | 'load'

/** An operating point, and what the chain ended in while it was read there: its antenna unless given. */
export interface ReadPoint extends OperatingPoint {
  farEnd?: FarEnd | undefined
}

/** Nothing returns all there is: so much is left of an open and of a shorted end, Ω, and their SWR stays a number. */
const OPEN_OHM = 1e8
const SHORT_OHM = 1e-5

/** The chain with this in its antenna's place; a load is as good as the reference. */
export function withEnd(chain: Chain, farEnd: FarEnd = 'antenna'): Chain {
  if (farEnd === 'antenna') return chain
  const rOhm = { open: OPEN_OHM, short: SHORT_OHM, load: referenceOf(chain) }[farEnd]
  const load: Load = { kind: 'fixed', rOhm, xOhm: 0 }
  return { ...chain, load }
}

/** Whether two points are the same setting of the same transmitter, whatever the chain ends in. */
export const sameSetting = (
  a: Pick<OperatingPoint, 'frequencyHz' | 'powerW'>,
  b: Pick<OperatingPoint, 'frequencyHz' | 'powerW'>,
): boolean => a.frequencyHz === b.frequencyHz && a.powerW === b.powerW
