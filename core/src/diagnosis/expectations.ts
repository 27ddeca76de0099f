/** What readings should show under a cause, and with which errors. */
import type { SolvedWaves } from '../chain/fastWaves.ts'
import { meanToPeakOf } from '../source/modes.ts'
import type { Cause, CausedWaves } from './causes.ts'
import { type Case, type MeterVariances, type Observable, variancesOf } from './evidence.ts'
import { expectedOf } from './spread.ts'

/** Whether a cause widens the errors of readings rather than shifts what they show. */
export const widensErrors = (
  cause: Cause,
): cause is Extract<Cause, { kind: 'slip' | 'common mode' | 'other' }> =>
  cause.kind === 'slip' || cause.kind === 'common mode' || cause.kind === 'other'

/** Forward power in dB over 1 W, or |ρ|, as it is on the line. */
export const rawOf = ({ point, plane, what }: Observable, waves: readonly SolvedWaves[]): number =>
  what === 'rho'
    ? waves[point]!.rho[plane]!
    : 10 * Math.log10(Math.max(waves[point]!.forwardW[plane]!, 1e-9))

/** Variances that the meters have where they see what is expected: of each figure its own and the shared part. */
export function metersAt(
  { instruments, channels }: Case,
  observables: readonly Observable[],
  mean: readonly number[],
): MeterVariances {
  const n = observables.length
  const own = new Float64Array(n)
  const shared = new Float64Array(n)
  let forwardW = NaN
  for (let i = 0; i < n; i++) {
    const o = observables[i]!
    // Forward power comes first of a reading.
    if (o.what === 'forward') forwardW = 10 ** (mean[i]! / 10)
    else if (o.reading !== observables[i - 1]?.reading) forwardW = NaN
    const rho = o.what === 'rho' ? Math.min(1, Math.abs(mean[i]!)) : 0
    const wave = { forwardW, rho }
    ;[own[i], shared[i]] = variancesOf(o, wave, instruments[o.instrument]!, channels[o.point]!)
  }
  return { own, shared }
}

/** What every observable should show under a cause. */
export function expectations(
  kase: Case,
  waves: readonly CausedWaves[],
  observables: readonly Observable[],
  cause: Cause,
): number[] {
  // Channels that nothing is asked of are not solved.
  const under: SolvedWaves[] = []
  return observables.map((o) => {
    under[o.point] ??= waves[o.point]!.under(cause)
    return expectedOf(o, under, kase) + meterShiftDb(o, cause, kase)
  })
}

/** What a cause of the instrument adds to what it shows, dB. */
function meterShiftDb(o: Observable, cause: Cause, { channels }: Case): number {
  if (o.what !== 'forward') return 0
  if (cause.kind === 'meter' && cause.instrument === o.instrument)
    return 10 * Math.log10(cause.factor)
  if (cause.kind === 'averaging' && cause.instrument === o.instrument)
    return 10 * Math.log10(meanToPeakOf(channels[o.point]!.emission))
  return 0
}

/**
 * A slip of the pen may be anything, dB: forward power that is written down wrong takes |ρ| along. So may what a braid's
 * current does to a reflection.
 */
const SLIP_DB = 4
/** What a slip leaves of a reflection besides. */
const SLIP_RHO = 0.05
/** How far off readings are of what is none of the causes, dB and |ρ|. */
const OTHER_DB = 2.5
const OTHER_RHO = 0.2

/** Covariance under a cause that widens rather than shifts; the same array where it does not. */
export function widen(
  c: Float64Array,
  observables: readonly Observable[],
  mean: readonly number[],
  cause: Cause,
): Float64Array {
  if (!widensErrors(cause)) return c
  const n = observables.length
  const out = c.slice()
  if (cause.kind === 'common mode') {
    observables.forEach((o, i) => {
      if (o.what === 'rho') out[i * n + i]! += cause.rho ** 2
    })
    return out
  }
  if (cause.kind === 'other') {
    // Whatever it is, it does the same to all that is read of a figure at a place.
    observables.forEach((a, i) =>
      observables.forEach((b, j) => {
        if (a.what === b.what && a.point === b.point && a.plane === b.plane)
          out[i * n + j]! += (a.what === 'rho' ? OTHER_RHO : OTHER_DB) ** 2
      }),
    )
    return out
  }
  // Both figures of the reading go with one number of decibels.
  const moved = observables.map((o, i) => {
    if (o.reading !== cause.reading) return 0
    return o.what === 'forward' ? SLIP_DB : (-mean[i]! * Math.LN10 * SLIP_DB) / 20
  })
  for (let i = 0; i < n; i++)
    if (moved[i] !== 0 || observables[i]!.reading === cause.reading) {
      for (let j = 0; j < n; j++) out[i * n + j]! += moved[i]! * moved[j]!
      if (observables[i]!.what === 'rho') out[i * n + i]! += SLIP_RHO ** 2
    }
  return out
}
