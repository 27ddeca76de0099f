/** Readings that are only thought of: what each explanation makes them show, and how much doubt they would leave. */
import { shownOf } from '../measure/meter.ts'
import { logPeak, normalQuantile, whiten } from '../statistics/gaussian.ts'
import type { Cause } from './causes.ts'
import type { Weighed, WeighedSize } from './diagnose.ts'
import { type Observable, observablesOf, type Site } from './evidence.ts'

/** Sizes of causes that are weighed against each other. */
const MOST = 160

/** What an explanation in one size makes of figures that are thought of. */
export interface Predicted {
  group: string
  weight: number
  mean: readonly number[]
  /** Lower triangle of their covariance, row by row. */
  triangle: Float64Array
}

/** The likeliest sizes of causes; a loss in one of several stages is one cause for each of them. Weights make 1. */
export function leadersOf(
  sizes: readonly WeighedSize[],
): { cause: Cause; weight: number; group: string }[] {
  const leaders = sizes
    .toSorted((a, b) => b.probability - a.probability)
    .slice(0, MOST)
    .flatMap(({ cause, probability, candidate }) => {
      if (cause.kind !== 'loss' || cause.from === cause.to)
        return [{ cause, weight: probability, group: `${candidate}` }]
      const stages = cause.to - cause.from + 1
      return Array.from({ length: stages }, (_, i) => ({
        cause: { ...cause, from: cause.from + i, to: cause.from + i },
        weight: probability / stages,
        group: `${candidate} ${i}`,
      }))
    })
    .filter(({ weight }) => weight > 1e-4)
  const total = leaders.reduce((sum, { weight }) => sum + weight, 0)
  return leaders.map((leader) => ({ ...leader, weight: leader.weight / total }))
}

/** Most figures that are thought of at once: two readings of two. */
const MOST_FIGURES = 4

/**
 * Steps of a sequence that fills a space of so many dimensions evenly (Roberts 2018): powers of the inverse of the root above
 * one of x^(d + 1) = x + 1.
 */
const EVENLY = (() => {
  let root = 2
  for (let i = 0; i < 60; i++) root = (1 + root) ** (1 / (MOST_FIGURES + 1))
  return Array.from({ length: MOST_FIGURES }, (_, d) => root ** -(d + 1))
})()

/** Where in what may be the case an outcome lies, and how far its figures are off, in deviations. */
interface Outcome {
  share: number
  off: readonly number[]
}

/** Outcomes spread evenly, the same for every place. */
export const outcomesOf = (count: number): Outcome[] =>
  Array.from({ length: count }, (_, k) => ({
    share: (k + 0.5) / count,
    off: EVENLY.map((step) => normalQuantile((0.5 + (k + 1) * step) % 1)),
  }))

/**
 * Share of the doubt between groups that figures are expected to settle, over what they may show (expected information;
 * Lindley 1956).
 */
export function settledBy(predicted: readonly Predicted[], outcomes: readonly Outcome[]): number {
  const groups = [...new Set(predicted.map(({ group }) => group))]
  const groupOf = predicted.map(({ group }) => groups.indexOf(group))
  const before = new Float64Array(groups.length)
  predicted.forEach(({ weight }, p) => (before[groupOf[p]!]! += weight))
  const doubt = entropyOf(before)
  if (!(doubt > 1e-9)) return 0
  const n = predicted[0]!.mean.length
  const alike = byTriangle(predicted, n)
  const shown = new Float64Array(n)
  const after = new Float64Array(groups.length)
  let left = 0
  for (const { share, off } of outcomes) {
    // One outcome of each equal share of what may be the case.
    const { mean, triangle } = drawnFrom(predicted, share)
    for (let f = 0; f < n; f++) {
      shown[f] = mean[f]!
      for (let d = 0; d <= f; d++) shown[f]! += triangle[f * n + d]! * off[d]!
    }
    after.fill(0)
    for (const { l, members, peaks, white } of alike) {
      const seen = whiten(l, shown)
      for (let i = 0; i < members.length; i++) {
        let square = 0
        for (let f = 0; f < n; f++) square += (seen[f]! - white[i * n + f]!) ** 2
        after[groupOf[members[i]!]!]! += Math.exp(peaks[i]! - square / 2)
      }
    }
    let total = 0
    for (let g = 0; g < after.length; g++) total += after[g]!
    for (let g = 0; g < after.length; g++) after[g]! /= total
    left += entropyOf(after) / outcomes.length
  }
  return Math.min(1, Math.max(0, 1 - left / doubt))
}

/** Predictions of one covariance, most share one: in its deviations the distance between two is a sum of squares. */
function byTriangle(predicted: readonly Predicted[], n: number) {
  const members = new Map<Float64Array, number[]>()
  predicted.forEach(({ triangle }, p) => {
    const known = members.get(triangle)
    if (known) known.push(p)
    else members.set(triangle, [p])
  })
  return Array.from(members, ([l, own]) => {
    const peak = logPeak(l, n)
    const white = new Float64Array(own.length * n)
    own.forEach((p, i) => white.set(whiten(l, predicted[p]!.mean), i * n))
    return {
      ...{ l, members: own, white },
      peaks: own.map((p) => Math.log(predicted[p]!.weight) + peak),
    }
  })
}

function entropyOf(shares: Float64Array): number {
  let sum = 0
  for (const share of shares) if (share > 0) sum -= share * Math.log(share)
  return sum
}

function drawnFrom(predicted: readonly Predicted[], share: number): Predicted {
  let left = share
  for (const each of predicted) if ((left -= each.weight) < 0) return each
  return predicted.at(-1)!
}

/**
 * What a meter would show of a wave, as observables without values.
 *
 * @param share of the channel's power that is sent
 */
export function imagine(
  { instruments, channels }: Weighed['kase'],
  { point, plane, instrument }: Site,
  { forwardW, rho }: { forwardW: Float64Array; rho: Float64Array },
  share = 1,
): Observable[] {
  const meter = instruments[instrument]!
  const shown = shownOf(meter, forwardW[plane]! * share, channels[point]!.emission)
  const reading = {
    ...{ point, plane, instrument },
    forwardW: shown,
    reflectedW: shown * rho[plane]! ** 2,
  }
  return observablesOf(reading, -1, meter, channels[point]!).map((o) => ({ ...o, value: NaN }))
}
