/** What a fit to a sweep compares, and where it begins. */
import { lineConstants, matchedLossDb } from '../line/constants.ts'
import type { Load } from '../load/load.ts'
import { cableToday } from '../stages/line.ts'
import { jointOhm } from '../stages/series.ts'
import type { Stage } from '../stages/stage.ts'
import type { Figure } from './pieces.ts'
import type { CurveBegin } from '../statistics/curveFit.ts'
import type { Cascade } from './cascade.ts'
import { type evenly, LEAST_POINTS, type Reflections } from './evenSweep.ts'

const MOST_POINTS = 201
/** Even where the way turns faster than that from one point to the next: then it is the price of a long line. */
const MOST_POINTS_EVER = 1201
/** Lengths are looked for within so many deviations, and at least this share. */
const LENGTH_DEVIATIONS = 8
const LENGTH_SHARE = 0.15
/** An antenna’s frequencies are looked for within this share, in so many steps to either side. */
const SHIFT_SHARE = 0.12
const SHIFT_STEPS = 24
/** Others are tried where they leave less than this share of what is left. */
const SHIFT_GAIN = 0.9
/** Less than this is found from what is written down; behind more than that nothing is seen, dB. */
const LEAST_LOSS_DB = 0.3
const MOST_LOSS_DB = 40
/** Steps of a length to either side; fewer of more points. */
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

/** What some figures leave of a sweep, as a sum of squares; `residuals` is written. */
function leftBy(curve: Cascade, figures: Float64Array, residuals: Float64Array): number {
  curve.compare(figures, residuals, null)
  return residuals.reduce((sum, v) => sum + v * v, 0)
}

/**
 * Where fits begin: lengths that explain the sweep best, all cables longer alike, then each of them alone. From further off
 * than half a turn of the highest frequency nothing leads to the right length. Where the antenna’s frequencies may have moved,
 * the same with those that explain its sizes, and where much is lost, with one loss: nothing leads there from what is written down.
 */
export function beginnings(
  curve: Cascade,
  seen: Reflections,
  lines: { stage: Line; k: number }[],
): Pick<CurveBegin, 'parameters' | 'unlikely'> {
  const topHz = seen.frequencyHz[seen.frequencyHz.length - 1]!
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
      return { figures, cost: leftBy(curve, figures, residuals) }
    })
    return tried
      .filter(
        ({ cost }, i) =>
          cost <= (tried[i - 1]?.cost ?? Infinity) && cost <= (tried[i + 1]?.cost ?? Infinity),
      )
      .sort((one, other) => one.cost - other.cost)
      .map(({ figures }) => figures)
  }
  const everyLength = (from: Float64Array) =>
    scan(from, own, Math.max(LENGTH_SHARE, LENGTH_DEVIATIONS * deviation))
  const alone = (figures: Float64Array) =>
    own.reduce((best, each) => scan(best, [each], 2 * deviation)[0] ?? best, figures)
  const asWritten = new Float64Array(curve.figures.length)
  const written = everyLength(asWritten)
  const moved = withAntennaMoved(curve, seen)
  const unlikely = [
    ...(moved ? everyLength(moved).slice(0, 1).map(alone) : []),
    ...withMoreLoss(curve, seen, lines, (from) => everyLength(from)[0] ?? from),
  ]
  const parameters = written.slice(0, TRIED).flatMap((figures) => [figures, alone(figures)])
  return { parameters, unlikely }
}

/**
 * One loss somewhere on the way that explains how much less comes back than is expected, in the likeliest places.
 *
 * @param lengthsOf figures with the lengths that explain the sweep best, the others as they are
 */
function withMoreLoss(
  curve: Cascade,
  { re, im }: Reflections,
  lines: readonly { stage: Line; k: number }[],
  lengthsOf: (from: Float64Array) => Float64Array,
): Float64Array[] {
  const m = re.length
  const residuals = new Float64Array(curve.count)
  const n = curve.figures.length
  curve.compare(new Float64Array(n), residuals, null)
  let seen = 0
  let expected = 0
  for (let k = 0; k < m; k++) {
    seen += re[k]! ** 2 + im[k]! ** 2
    expected += (re[k]! - residuals[k]!) ** 2 + (im[k]! - residuals[m + k]!) ** 2
  }
  // Passed twice.
  const db = Math.min(MOST_LOSS_DB, 5 * Math.log10(expected / seen))
  if (!(db > LEAST_LOSS_DB)) return []
  const sizeOf = ({ kind, stage }: Figure): number => {
    if (kind === 'extra') return db
    if (kind === 'resistance') return jointOhm(db, curve.referenceOhm)
    const line = lines.find(({ k }) => k === stage)?.stage
    if (kind !== 'loss' || !line) return 0
    const ownDb = matchedLossDb(lineConstants(cableToday(line), curve.middleHz), line.lengthM)
    return ownDb > 0 ? db / ownDb : 0
  }
  const lossy = new Float64Array(n)
  // Wherever it is, it does the same to what the antenna gives back, by which lengths are found.
  const last = curve.figures.findLastIndex(({ kind }) => kind === 'extra')
  lossy[last] = db
  const lengths = lengthsOf(lossy)
  lengths[last] = 0
  return curve.figures
    .flatMap((figure, p) => {
      const size = sizeOf(figure)
      if (size === 0) return []
      const figures = Float64Array.from(lengths)
      figures[p] = size
      return [{ figures, cost: leftBy(curve, figures, residuals) }]
    })
    .sort((one, other) => one.cost - other.cost)
    .slice(0, TRIED)
    .map(({ figures }) => figures)
}

/** The antenna’s frequencies that explain how much comes back, whatever the lengths are; null where others explain no more. */
function withAntennaMoved(curve: Cascade, { re, im }: Reflections): Float64Array | null {
  const shift = curve.figures.findIndex(({ kind }) => kind === 'shift')
  if (shift < 0) return null
  const m = re.length
  const residuals = new Float64Array(curve.count)
  const figures = new Float64Array(curve.figures.length)
  const costOf = (share: number): number => {
    figures[shift] = share
    curve.compare(figures, residuals, null)
    let cost = 0
    for (let k = 0; k < m; k++) {
      const shown = Math.hypot(re[k]! - residuals[k]!, im[k]! - residuals[m + k]!)
      cost += (shown - Math.hypot(re[k]!, im[k]!)) ** 2
    }
    return cost
  }
  let best = { share: 0, cost: SHIFT_GAIN * costOf(0) }
  for (let step = -SHIFT_STEPS; step <= SHIFT_STEPS; step++) {
    const share = (step / SHIFT_STEPS) * SHIFT_SHARE
    const cost = costOf(share)
    if (cost < best.cost) best = { share, cost }
  }
  if (best.share === 0) return null
  figures[shift] = best.share
  return figures
}

/** Nothing comes back from a load: only the joints on the way say where they are. */
export const spreadOut = (curve: Cascade): Float64Array[] =>
  [0, -0.7, 0.7, -1.4, 1.4, -2.1, 2.1].map((share) =>
    Float64Array.from(curve.figures, ({ kind, deviation }) =>
      kind === 'length' ? share * deviation : 0,
    ),
  )
