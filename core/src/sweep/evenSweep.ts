import { InputError } from '../errors.ts'
import { formatFrequency } from '../units/format.ts'

/** Complex reflection on the chain's reference at rising frequencies, Hz. */
export interface Reflections {
  frequencyHz: ArrayLike<number>
  re: ArrayLike<number>
  im: ArrayLike<number>
}

export const LEAST_POINTS = 16
const MOST_POINTS = 20_001
/** A hole in a sweep is a step this much wider than the others. */
const HOLE = 3

/** The same sweep at equal steps, rising. @throws InputError */
export function evenly({ frequencyHz, re, im }: Reflections) {
  const order = Array.from(frequencyHz, (_, i) => i).sort(
    (a, b) => frequencyHz[a]! - frequencyHz[b]!,
  )
  const n = order.length
  const say = (message: string) => new InputError(message, ['sweep'])
  if (n < LEAST_POINTS)
    throw say(
      `A sweep of ${n} points says nothing of distance. Take ${LEAST_POINTS} or more; 201 are usual.`,
    )
  if (n > MOST_POINTS) throw say(`A sweep of ${n} points is more than ${MOST_POINTS}. Take fewer.`)
  const hz = order.map((i) => frequencyHz[i]!)
  const first = hz[0]!
  const last = hz[n - 1]!
  if (!(first > 0 && Number.isFinite(last))) throw say('Frequencies must be above 0 Hz.')
  const steps = hz.slice(1).map((value, i) => value - hz[i]!)
  const usual = steps.toSorted((a, b) => a - b)[Math.floor(steps.length / 2)]!
  const hole = steps.findIndex((step) => step > HOLE * usual)
  if (!(usual > 0)) throw say('The sweep has several points on one frequency. Export it anew.')
  if (hole >= 0)
    throw say(
      `The sweep has a hole from ${formatFrequency(hz[hole]!)} to ${formatFrequency(hz[hole + 1]!)}. Sweep in equal steps.`,
    )
  for (const i of order)
    if (!(Math.hypot(re[i]!, im[i]!) <= 1.02))
      throw say(
        `At ${formatFrequency(frequencyHz[i]!)} |ρ| is more than 1. Check the analyser’s calibration.`,
      )
  const stepHz = (last - first) / (n - 1)
  const out = {
    stepHz,
    frequencyHz: Float64Array.from(order, (_, k) => first + k * stepHz),
    re: new Float64Array(n),
    im: new Float64Array(n),
  }
  let below = 0
  for (let k = 0; k < n; k++) {
    const at = out.frequencyHz[k]!
    while (below < n - 2 && hz[below + 1]! <= at) below++
    const t = Math.min(1, Math.max(0, (at - hz[below]!) / (hz[below + 1]! - hz[below]!)))
    const [a, b] = [order[below]!, order[below + 1]!]
    out.re[k] = (1 - t) * re[a]! + t * re[b]!
    out.im[k] = (1 - t) * im[a]! + t * im[b]!
  }
  return out
}
