/** Which reading would tell the explanations apart best, for what it costs to take. */
import { type Meter, shownOf } from '../measure/meter.ts'
import { cholesky, normalQuantile, whiten } from '../statistics/gaussian.ts'
import type { Weighed, WeighedSize } from './diagnose.ts'
import { expectations, widen } from './likelihood.ts'
import { covarianceOf, type Observable, observablesOf } from './evidence.ts'
import type { Cause } from './causes.ts'

export interface NextReading {
  point: number
  plane: number
  /** Index into the instruments; null for another meter than those that were used. */
  instrument: number | null
  /** Share of the present doubt between the explanations that it is expected to settle, 0 … 1. */
  settles: number
  /** What it costs to take, 1 for one at the desk. */
  cost: number
  /** The two explanations that it tells apart most. */
  between: [Cause, Cause]
  /** Forward power that each of the two expects there, as the meter would show it, W. */
  expectsW: [number, number]
}

/** What it costs to read at a plane, in readings at the desk; infinite where it cannot be done today. */
export type ReadingCost = (plane: number) => number

/** Sizes of causes that are weighed against each other. */
const MOST = 160
/** What is thought of as being read, at each place: enough to rank places by. */
const OUTCOMES = 48
/** Steps of a sequence that fills a plane evenly: powers of the inverse plastic number (Roberts 2018). */
const EVENLY = [0.7548776662466927, 0.5698402909980532]
/** Where in what may be the case an outcome lies, and how far its figures are off, in deviations: the same for every place. */
const outcomes = Array.from({ length: OUTCOMES }, (_, k) => ({
  share: (k + 0.5) / OUTCOMES,
  off: EVENLY.map((step) => normalQuantile((0.5 + (k + 1) * step) % 1)),
}))

/**
 * Thinks of a reading at every plane on every channel, with an instrument that was used and with another one: what it may
 * show under each explanation in each of its sizes, given what was read already, and how much doubt between the
 * explanations is left then (expected information; Lindley 1956). Best first, by what is settled for its cost.
 *
 * @param another the meter to think of as the other one
 * @param planes where a meter can be put
 */
export function nextReadings(
  { kase, spread, waves, observables, sizes }: Weighed,
  another: Meter,
  planes: readonly number[],
  cost: ReadingCost = () => 1,
): NextReading[] {
  const leaders = leadersOf(sizes)
  const groups = new Set(leaders.map(({ group }) => group)).size
  if (groups < 2) return []
  const instruments = [...kase.instruments, another]
  const thought = { ...kase, instruments }
  const used = mostUsed(kase.readings.map(({ instrument }) => instrument))
  const n = observables.length
  const plain = covarianceOf(observables, spread)
  /** Residuals of each leader, and the triangle of the covariance under it: most share one. */
  const triangles = new Map<string, Float64Array>()
  const under = leaders.map(({ cause }) => {
    const mean = expectations(thought, waves, observables, cause)
    const key = wideningOf(cause)
    const l = triangles.get(key) ?? cholesky(widen(plain, observables, mean, cause), n)
    triangles.set(key, l)
    return {
      key,
      off: whiten(
        l,
        observables.map(({ value }, i) => value - mean[i]!),
      ),
    }
  })
  const found: NextReading[] = []
  for (const instrument of [used, instruments.length - 1])
    for (const point of kase.channels.keys())
      for (const plane of planes) {
        const price = cost(plane)
        if (!Number.isFinite(price)) continue
        const fresh = imagine(thought, point, plane, instrument, waves[point]!.nominal)
        if (fresh.length === 0) continue
        const all = [...observables, ...fresh]
        const whole = covarianceOf(all, spread)
        const size = all.length
        const crosses = new Map<string, { cross: Float64Array[]; variance: number[] }>()
        const predicted = leaders.map(({ cause, weight, group }, p): Predicted => {
          const { key, off } = under[p]!
          let known = crosses.get(key)
          if (!known) {
            const l = triangles.get(key)!
            const cross = fresh.map((_, f) =>
              whiten(l, whole.subarray((n + f) * size, (n + f) * size + n)),
            )
            const extra = cause.kind === 'common mode' ? cause.rho ** 2 : 0
            known = {
              cross,
              variance: fresh.map((o, f) => {
                const explained = cross[f]!.reduce((sum, v) => sum + v * v, 0)
                const own = whole[(n + f) * size + n + f]! - explained
                return Math.max(own, o.ownVariance) + (o.what === 'rho' ? extra : 0)
              }),
            }
            crosses.set(key, known)
          }
          const raw = expectations(thought, waves, fresh, cause)
          const mean = raw.map((value, f) => {
            let shift = 0
            for (let i = 0; i < n; i++) shift += known.cross[f]![i]! * off[i]!
            return value + shift
          })
          return { group, weight, mean, variance: known.variance }
        })
        const settles = settledBy(predicted)
        const [a, b] = toldApart(predicted)
        const watts = (p: number) => 10 ** (predicted[p]!.mean[0]! / 10)
        found.push({
          point,
          plane,
          instrument: instrument === used ? used : null,
          settles,
          cost: price,
          between: [leaders[a]!.cause, leaders[b]!.cause],
          expectsW: [watts(a), watts(b)],
        })
      }
  return found.sort((a, b) => b.settles / b.cost - a.settles / a.cost)
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

/** Causes that widen the errors of readings alike share a covariance. */
const wideningOf = (cause: Cause): string =>
  cause.kind === 'slip'
    ? `slip ${cause.reading}`
    : cause.kind === 'common mode'
      ? `common ${cause.rho}`
      : cause.kind === 'other'
        ? 'other'
        : ''

export interface Predicted {
  group: string
  weight: number
  mean: number[]
  variance: number[]
}

/** Share of the doubt between groups that a reading is expected to settle, over what it may show. */
export function settledBy(predicted: readonly Predicted[]): number {
  const before = new Map<string, number>()
  for (const { group, weight } of predicted) before.set(group, (before.get(group) ?? 0) + weight)
  const doubt = entropyOf(before)
  if (!(doubt > 1e-9)) return 0
  let left = 0
  for (const { share, off } of outcomes) {
    // One outcome of each equal share of what may be the case.
    const drawn = drawnFrom(predicted, share)
    const shown = drawn.mean.map((mean, f) => mean + off[f]! * Math.sqrt(drawn.variance[f]!))
    const after = new Map<string, number>()
    let total = 0
    for (const { group, weight, mean, variance } of predicted) {
      let log = 0
      for (let f = 0; f < shown.length; f++)
        log -= (shown[f]! - mean[f]!) ** 2 / (2 * variance[f]!) + 0.5 * Math.log(variance[f]!)
      const likely = weight * Math.exp(log)
      after.set(group, (after.get(group) ?? 0) + likely)
      total += likely
    }
    for (const [group, likely] of after) after.set(group, likely / total)
    left += entropyOf(after) / OUTCOMES
  }
  return Math.min(1, Math.max(0, 1 - left / doubt))
}

function entropyOf(shares: ReadonlyMap<string, number>): number {
  let sum = 0
  for (const share of shares.values()) if (share > 0) sum -= share * Math.log(share)
  return sum
}

function drawnFrom(predicted: readonly Predicted[], share: number): Predicted {
  let left = share
  for (const each of predicted) if ((left -= each.weight) < 0) return each
  return predicted.at(-1)!
}

/** The two of different groups, each in its likeliest size, that the reading tells apart most; by index. */
function toldApart(predicted: readonly Predicted[]): [number, number] {
  const best = new Map<string, number>()
  predicted.forEach(({ group, weight }, p) => {
    if (weight > (predicted[best.get(group) ?? -1]?.weight ?? -1)) best.set(group, p)
  })
  const heads = [...best.values()]
    .sort((a, b) => predicted[b]!.weight - predicted[a]!.weight)
    .slice(0, 8)
  let pair: [number, number] = [heads[0]!, heads[1]!]
  let most = -1
  heads.forEach((a, i) => {
    for (const b of heads.slice(i + 1)) {
      const [x, y] = [predicted[a]!, predicted[b]!]
      const apart = x.weight * y.weight * (1 - overlapOf(x, y))
      if (apart > most) {
        most = apart
        pair = [a, b]
      }
    }
  })
  return pair
}

function mostUsed(instruments: readonly number[]): number {
  const counts = new Map<number, number>()
  for (const i of instruments) counts.set(i, (counts.get(i) ?? 0) + 1)
  return [...counts].reduce((a, b) => (b[1] > a[1] ? b : a))[0]
}

/** What a meter would show of a wave, as observables without values. */
export function imagine(
  { instruments, channels }: Weighed['kase'],
  point: number,
  plane: number,
  instrument: number,
  { forwardW, rho }: { forwardW: Float64Array; rho: Float64Array },
): Observable[] {
  const meter = instruments[instrument]!
  const shown = shownOf(meter, forwardW[plane]!, channels[point]!.emission)
  const reading = {
    point,
    plane,
    instrument,
    forwardW: shown,
    reflectedW: shown * rho[plane]! ** 2,
  }
  return observablesOf(reading, -1, meter, channels[point]!).map((o) => ({ ...o, value: NaN }))
}

/** Bhattacharyya coefficient of two normal predictions, figure by figure. */
function overlapOf(a: Predicted, b: Predicted): number {
  let distance = 0
  a.mean.forEach((mean, i) => {
    const va = a.variance[i]!
    const vb = b.variance[i]!
    distance +=
      (mean - b.mean[i]!) ** 2 / (4 * (va + vb)) +
      0.5 * Math.log((va + vb) / (2 * Math.sqrt(va * vb)))
  })
  return Math.exp(-distance)
}
