/** Which reading would tell the explanations apart best. */
import { type Meter, shownOf } from '../measure/meter.ts'
import { cholesky, whiten } from '../statistics/gaussian.ts'
import { expectations, type Explanation, type Weighed, widen } from './diagnose.ts'
import { covarianceOf, type Observable, observablesOf } from './evidence.ts'
import type { Cause } from './causes.ts'

export interface NextReading {
  point: number
  plane: number
  /** Index into the instruments; null for another meter than those that were used. */
  instrument: number | null
  /** Share of the present doubt between the explanations that it is expected to settle, 0 … 1. */
  settles: number
  /** The two explanations that it tells apart most. */
  between: [Cause, Cause]
}

/** Explanations that are weighed against each other. */
const MOST = 6
const LEAST_PROBABILITY = 0.01

/**
 * Tries a reading at every plane on every channel, with an instrument that was used and with another one,
 * and takes those where the leading explanations expect the most different figures: 1 less the
 * Bhattacharyya overlap of each pair, weighted with how likely the pair is.
 *
 * @param another the meter to think of as the other one
 * @param planes where a meter can be put
 */
export function nextReadings(
  { kase, spread, waves, observables, diagnosis }: Weighed,
  another: Meter,
  planes: readonly number[],
): NextReading[] {
  const rivals = splitGroups(diagnosis.explanations)
  if (rivals.length < 2) return []
  const instruments = [...kase.instruments, another]
  const thought = { ...kase, instruments }
  const used = mostUsed(kase.readings.map(({ instrument }) => instrument))
  const found: NextReading[] = []
  for (const instrument of [used, instruments.length - 1])
    for (const point of kase.channels.keys())
      for (const plane of planes) {
        const fresh = imagine(thought, point, plane, instrument, waves[point]!.nominal)
        const all = [...observables, ...fresh]
        const base = covarianceOf(all, spread)
        const predicted = rivals.map(({ cause }) => {
          const mean = expectations(thought, waves, all, cause)
          return predict(widen(base, all, mean, cause), all, mean, observables.length)
        })
        let doubt = 0
        let left = 0
        let most = 0
        let between: [Cause, Cause] = [rivals[0]!.cause, rivals[1]!.cause]
        for (let i = 0; i < rivals.length; i++)
          for (let j = 0; j < i; j++) {
            const weight = rivals[i]!.probability * rivals[j]!.probability
            const overlap = overlapOf(predicted[i]!, predicted[j]!)
            doubt += weight
            left += weight * overlap
            if (weight * (1 - overlap) > most) {
              most = weight * (1 - overlap)
              between = [rivals[j]!.cause, rivals[i]!.cause]
            }
          }
        found.push({
          point,
          plane,
          instrument: instrument === used ? used : null,
          settles: doubt > 0 ? 1 - left / doubt : 0,
          between,
        })
      }
  return found.sort((a, b) => b.settles - a.settles)
}

/** The leaders, with a loss in one of several stages taken as a rival each. */
function splitGroups(explanations: readonly Explanation[]): Explanation[] {
  return explanations
    .filter(({ probability }) => probability >= LEAST_PROBABILITY)
    .slice(0, MOST)
    .flatMap((explanation) => {
      const { cause, probability } = explanation
      if (cause.kind !== 'loss' || cause.from === cause.to) return [explanation]
      const stages = cause.to - cause.from + 1
      return Array.from({ length: stages }, (_, i) => ({
        ...explanation,
        probability: probability / stages,
        cause: { ...cause, from: cause.from + i, to: cause.from + i },
      }))
    })
}

function mostUsed(instruments: readonly number[]): number {
  const counts = new Map<number, number>()
  for (const i of instruments) counts.set(i, (counts.get(i) ?? 0) + 1)
  return [...counts].reduce((a, b) => (b[1] > a[1] ? b : a))[0]
}

function imagine(
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

interface Predicted {
  mean: number[]
  variance: number[]
}

/** Figures that are not yet read, given those that are: mean and variance of each. */
function predict(
  c: Float64Array,
  all: readonly Observable[],
  mean: readonly number[],
  known: number,
): Predicted {
  const n = all.length
  const old = new Float64Array(known * known)
  for (let i = 0; i < known; i++) for (let j = 0; j < known; j++) old[i * known + j] = c[i * n + j]!
  const l = cholesky(old, known)
  const off = whiten(
    l,
    all.slice(0, known).map(({ value }, i) => value - mean[i]!),
  )
  const out: Predicted = { mean: [], variance: [] }
  for (let f = known; f < n; f++) {
    const cross = whiten(
      l,
      Array.from({ length: known }, (_, i) => c[f * n + i]!),
    )
    let shift = 0
    let variance = c[f * n + f]!
    for (let i = 0; i < known; i++) {
      shift += cross[i]! * off[i]!
      variance -= cross[i]! ** 2
    }
    out.mean.push(mean[f]! + shift)
    out.variance.push(Math.max(variance, all[f]!.ownVariance))
  }
  return out
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
