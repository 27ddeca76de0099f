import { rhoOfSwr } from '../load/reflection.ts'
import type { Range } from '../statistics/quantile.ts'
import { type ExpectedReading, swrRead } from './expectReading.ts'

/** From 5 and 95 % to 1.25 and 98.75 % of a normal spread: of forward and SWR together one sound reading in twenty is outside. */
const WIDER = 2.241 / 1.645

/** A range drawn wider around its middle. */
const wider = (middle: number, { low, high }: Range): Range => ({
  low: middle - WIDER * (middle - low),
  high: middle + WIDER * (high - middle),
})

/**
 * What of a live figure is outside of what its meter should show: forward power, then the SWR. A live meter is judged
 * every second: the ranges of single readings, nine in ten, would raise too many false alarms.
 *
 * @returns null where both are inside
 */
export function outsideLive(
  read: { forwardW: number; reflectedW?: number | undefined; swr?: number | undefined },
  expected: Pick<ExpectedReading, 'watts' | 'wattsRange' | 'swr' | 'swrRange'>,
): 'forward' | 'SWR' | null {
  const db = (watts: number) => 10 * Math.log10(Math.max(watts, 1e-12))
  const { watts, wattsRange } = expected
  const forward = wider(db(watts), { low: db(wattsRange.low), high: db(wattsRange.high) })
  if (db(read.forwardW) < forward.low || db(read.forwardW) > forward.high) return 'forward'
  const swr = swrRead(read)
  if (swr === null) return null
  const rho = wider(rhoOfSwr(expected.swr), {
    low: rhoOfSwr(expected.swrRange.low),
    high: rhoOfSwr(expected.swrRange.high),
  })
  const seen = rhoOfSwr(swr)
  return seen < rho.low || seen > rho.high ? 'SWR' : null
}
