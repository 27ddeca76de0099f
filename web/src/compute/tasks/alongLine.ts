/** What a sweep says of the places along a line, or, before there is one, what one should show. */
import {
  type AnalyserErrors,
  alongLine,
  type AlongLine,
  type Chain,
  expectedSweep,
  type FarEnd,
  frequencyGrid,
  type Outside,
  outsideOf,
  readReflections,
  REFERENCE_OHM,
  type Reflections,
  type SweepFigures,
  sweepFigures,
  type SweepRange,
  sweepRange,
  type Tolerances,
  usualAnalyser,
} from '@saltline/core'
import type { SweepPlan } from '../../model/alongLine.ts'
import type { Task } from '../task.ts'

export interface AlongRequest {
  chain: Chain
  tolerances: Tolerances
  plane: number
  farEnd: FarEnd
  /** The text of a Touchstone file, or a sweep that was kept; null for one that is only planned. */
  sweep: string | Reflections | null
  /** An earlier one of the same place, to be drawn with it. */
  before: Reflections | null
  plan: SweepPlan
  /** How far it may be off; as a usual one unless given. */
  analyser?: AnalyserErrors
}

export interface Along extends AlongLine {
  lowHz: number
  highHz: number
  points: number
  /** The earlier sweep against the same distances. */
  before: Float64Array | null
  /** Over frequency: as it is measured, as it was, as it is expected, with the range of |ρ|. */
  band: { measured: Reflections | null; before: Reflections | null; expected: Reflections }
  range: SweepRange | null
  /** Where it leaves the range. */
  outside: Outside | null
  figures: SweepFigures
}

export const alongLineTask: Task<AlongRequest, Along> = (request) => {
  const { chain, tolerances, plane, farEnd, before, plan } = request
  const { analyser = usualAnalyser } = request
  const grid = () => frequencyGrid(plan.lowHz, plan.highHz, plan.points)
  const sweep =
    typeof request.sweep === 'string'
      ? readReflections(request.sweep, REFERENCE_OHM)
      : (request.sweep ?? expectedSweep(chain, plane, grid(), farEnd))
  const { hz, rising } = inOrder(sweep)
  const along = alongLine(chain, plane, rising, farEnd)
  const range = sweepRange(chain, plane, hz, farEnd, tolerances, { analyser })
  const measured = request.sweep === null ? null : rising
  return {
    ...along,
    ...{ lowHz: hz[0]!, highHz: hz.at(-1)!, points: hz.length },
    before: before && onto(along, alongLine(chain, plane, before, farEnd)),
    band: { measured, before, expected: expectedSweep(chain, plane, hz, farEnd) },
    range,
    outside: range && measured && outsideOf(range, sizesAt(measured, range.frequencyHz)),
    figures: sweepFigures(rising, along, analyser),
  }
}

/** Analysers sweep downward too. */
function inOrder({ frequencyHz, re, im }: Reflections) {
  const order = Array.from(frequencyHz, (_, i) => i).sort(
    (a, b) => frequencyHz[a]! - frequencyHz[b]!,
  )
  const take = (values: ArrayLike<number>) => Float64Array.from(order, (i) => values[i]!)
  const hz = take(frequencyHz)
  return { hz, rising: { frequencyHz: hz, re: take(re), im: take(im) } }
}

/** |ρ| at frequencies that are among those of a sweep. */
function sizesAt({ frequencyHz, re, im }: Reflections, wanted: Float64Array): Float64Array {
  let k = 0
  return wanted.map((hz) => {
    while (k < frequencyHz.length - 1 && frequencyHz[k]! < hz) k++
    return Math.hypot(re[k]!, im[k]!)
  })
}

/** Heights of another look at the same line, at the distances of this one. */
function onto({ distanceM }: AlongLine, other: AlongLine): Float64Array {
  let k = 0
  const last = other.distanceM.length - 1
  return distanceM.map((m) => {
    while (k < last - 1 && other.distanceM[k + 1]! <= m) k++
    const [a, b] = [other.distanceM[k]!, other.distanceM[Math.min(last, k + 1)]!]
    const t = b > a ? Math.min(1, Math.max(0, (m - a) / (b - a))) : 0
    return (1 - t) * other.measured[k]! + t * other.measured[Math.min(last, k + 1)]!
  })
}
