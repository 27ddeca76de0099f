/** What a fit to a sweep compares, and where it begins. */
import { lineConstants } from '../line/constants.ts'
import type { Load } from '../load/load.ts'
import type { Stage } from '../stages/stage.ts'
import type { Cascade } from './cascade.ts'
import { type evenly, LEAST_POINTS, type Reflections } from './evenSweep.ts'

const MOST_POINTS = 201
/** Even where the way turns faster than that from one point to the next: then it is the price of a long line. */
const MOST_POINTS_EVER = 1201
/** Lengths are looked for within so many deviations, and at least this share. */
const LENGTH_DEVIATIONS = 8
const LENGTH_SHARE = 0.15
/** Steps of that to either side; fewer of more points. */
const MOST_BEGINS = 400
const TRIED = 2

/** The part of a sweep over which an antenna is known, where that is enough to be fitted. */
export function within(sweep: Reflections, load: Load): Reflections {
  if (load.kind !== 'sweep') return sweep
  const [lowHz, highHz] = [load.frequencyHz[0]!, load.frequencyHz[load.frequencyHz.length - 1]!]
  const inside = Array.from(sweep.frequencyHz, (hz) => hz >= lowHz && hz <= highHz)
  const enough = inside.filter(Boolean).length >= LEAST_POINTS
  const take = (values: ArrayLike<number>) =>
    Float64Array.from(values).filter((_, k) => enough && inside[k])
  return { frequencyHz: take(sweep.frequencyHz), re: take(sweep.re), im: take(sweep.im) }
}

type Line = Extract<Stage, { kind: 'line' }>

/** There and back, s. */
export const delayOf = ({ cable, lengthM }: Line): number =>
  (2 * lengthM * lineConstants(cable, 1e7).beta) / (2e7 * Math.PI)

/** Every so many points, as long as the way there and back turns by less than a quarter from one to the next. */
export function thinned(
  { frequencyHz, re, im }: ReturnType<typeof evenly>,
  delayS: number,
): Reflections {
  const n = frequencyHz.length
  const stepHz = (frequencyHz[n - 1]! - frequencyHz[0]!) / (n - 1)
  const every = Math.max(
    Math.ceil(n / MOST_POINTS_EVER),
    Math.min(Math.ceil(n / MOST_POINTS), Math.floor(1 / (4 * delayS * stepHz || 1))),
  )
  const take = (values: Float64Array) => values.filter((_, k) => k % every === 0)
  return { frequencyHz: take(frequencyHz), re: take(re), im: take(im) }
}

/**
 * Where fits begin: lengths that explain the sweep best, all cables longer alike, then each of them alone. From further off
 * than half a turn of the highest frequency nothing leads to the right length.
 */
export function beginnings(
  curve: Cascade,
  lines: { stage: Line; k: number }[],
  topHz: number,
): Float64Array[] {
  const own = lines.map(({ stage, k }) => ({
    p: curve.figures.findIndex(({ kind, stage: of }) => kind === 'length' && of === k),
    turns: delayOf(stage) * topHz,
  }))
  const deviation = Math.max(0, ...own.map(({ p }) => curve.deviations[p]!))
  const residuals = new Float64Array(curve.count)
  /** Figures with some lengths other than they are, the best first, each better than those beside it. */
  const scan = (from: Float64Array, moved: typeof own, reach: number): Float64Array[] => {
    const turns = moved.reduce((sum, each) => sum + each.turns, 0)
    // A twelfth of a turn is near enough.
    const half = Math.ceil(
      Math.min((MOST_BEGINS * 2 * MOST_POINTS) / curve.count, MOST_BEGINS, 12 * turns * reach),
    )
    const tried = Array.from({ length: 2 * half + 1 }, (_, i) => {
      const figures = Float64Array.from(from)
      for (const { p } of moved) figures[p]! += ((i - half) / Math.max(1, half)) * reach
      curve.compare(figures, residuals, null)
      return { figures, cost: residuals.reduce((sum, v) => sum + v * v, 0) }
    })
    return tried
      .filter(
        ({ cost }, i) =>
          cost <= (tried[i - 1]?.cost ?? Infinity) && cost <= (tried[i + 1]?.cost ?? Infinity),
      )
      .sort((one, other) => one.cost - other.cost)
      .map(({ figures }) => figures)
  }
  const asWritten = new Float64Array(curve.figures.length)
  const together = scan(asWritten, own, Math.max(LENGTH_SHARE, LENGTH_DEVIATIONS * deviation))
  const alone = (figures: Float64Array) =>
    own.reduce((best, each) => scan(best, [each], 2 * deviation)[0] ?? best, figures)
  return together.slice(0, TRIED).flatMap((figures) => [figures, alone(figures)])
}

/** Nothing comes back from a load: only the joints on the way say where they are. */
export const spreadOut = (curve: Cascade): Float64Array[] =>
  [0, -0.7, 0.7, -1.4, 1.4, -2.1, 2.1].map((share) =>
    Float64Array.from(curve.figures, ({ kind, deviation }) =>
      kind === 'length' ? share * deviation : 0,
    ),
  )
