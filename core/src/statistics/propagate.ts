/** Uncertainty by drawing: JCGM 101:2008, "Propagation of distributions using a Monte Carlo method". */
import { type Estimate, estimateOf } from './quantile.ts'
import { even, normal, type Random, seeded } from './random.ts'

/** A figure that is not known exactly. */
export interface Uncertain {
  value: number
  /** Half of the width: the limits where it is `even`, two deviations where it is `normal`. */
  doubt: number
  /**
   * `even` where only limits are known, as with a meter's stated accuracy (JCGM 101, 6.4.2); `normal` where
   * many small causes add up; `phase` where it is the part along something else of a figure whose size is known and whose
   * phase is not (an arcsine, JCGM 101, 6.4.6). Even unless given.
   */
  shape?: 'even' | 'normal' | 'phase'
  /** A second error with limits of its own, half of its width: half a mark of a needle beside its accuracy. */
  and?: number
  /** Errors of the scale that it was read on instead, if its own would have shown more than it holds. */
  orOn?: { doubt: number; and: number; above: number } | undefined
}

/** A figure without uncertainty. */
export const exactly = (value: number): Uncertain => ({ value, doubt: 0 })

/** A result with what makes it uncertain. */
export interface Propagated extends Estimate {
  /** Of the inputs as they stand. */
  value: number
  /** Share of the variance that each input alone makes, largest first; those above 1 %. */
  because: { name: string; share: number }[]
}

const DRAWS = 4000
const ALONE = 500

/**
 * Carries the uncertainty of inputs through a formula.
 *
 * @param model gives NaN where inputs are impossible; such draws are left out
 * @param seed the same seed gives the same answer
 */
export function propagate<K extends string>(
  inputs: Record<K, Uncertain>,
  model: (values: Record<K, number>) => number,
  { draws = DRAWS, seed = 1 }: { draws?: number; seed?: number } = {},
): Propagated {
  const names = Object.keys(inputs) as K[]
  const centre = Object.fromEntries(names.map((name) => [name, inputs[name].value])) as Record<
    K,
    number
  >
  const values = { ...centre }
  const random = seeded(seed)
  const draw = (input: Uncertain) => drawnAround(input, random)
  const doubtful = names.filter((name) => inputs[name].doubt > 0 || (inputs[name].and ?? 0) > 0)

  const results = new Float64Array(doubtful.length > 0 ? draws : 1)
  for (let i = 0; i < results.length; i++) {
    for (const name of doubtful) values[name] = draw(inputs[name])
    results[i] = model(values)
  }

  Object.assign(values, centre)
  const variances = doubtful.map((name) => {
    const alone = new Float64Array(ALONE)
    for (let i = 0; i < ALONE; i++) {
      values[name] = draw(inputs[name])
      alone[i] = model(values)
    }
    values[name] = centre[name]
    return varianceOf(alone)
  })
  const total = variances.reduce((a, b) => a + b, 0)
  return {
    ...estimateOf(results),
    value: model(centre),
    because: doubtful
      .map((name, i) => ({ name, share: total > 0 ? variances[i]! / total : 0 }))
      .filter(({ share }) => share > 0.01)
      .sort((a, b) => b.share - a.share),
  }
}

/** What is true where `value` was read. */
function drawnAround(input: Uncertain, random: Random): number {
  const { value, orOn } = input
  if (!orOn) return value + errorOf(input, random)
  // Each scale is as likely as a truth that is read as this on it: one that the smaller scale does not hold, on the other.
  for (;;) {
    if (random() < 0.5) return value + errorOf(input, random)
    const there = value + errorOf(orOn, random)
    if (there + errorOf(input, random) > orOn.above) return there
  }
}

const errorOf = (
  { doubt, shape = 'even', and = 0 }: Pick<Uncertain, 'doubt' | 'shape' | 'and'>,
  random: Random,
): number => drawn[shape](random) * doubt + (and > 0 ? even(random) * and : 0)

const drawn: Record<NonNullable<Uncertain['shape']>, (random: Random) => number> = {
  even,
  normal: (random) => normal(random) / 2,
  phase: (random) => Math.cos(2 * Math.PI * random()),
}

/** Mean square about the mean; what is no finite number is left out, nothing gives 0. */
export function varianceOf(values: ArrayLike<number>): number {
  let n = 0
  let mean = 0
  let squares = 0
  for (let i = 0; i < values.length; i++) {
    const value = values[i]!
    if (!Number.isFinite(value)) continue
    n++
    const step = value - mean
    mean += step / n
    squares += step * (value - mean)
  }
  return n > 1 ? squares / (n - 1) : 0
}
