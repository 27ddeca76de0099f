/** Sweeps as evidence: how much likelier each cause makes what an analyser saw. */
import { type Cause, SIZE_RATIO } from './causes.ts'
import { jointOhm } from '../stages/series.ts'
import type { Chain } from '../chain/chain.ts'
import { referenceOf } from '../chain/chain.ts'
import { InputError } from '../errors.ts'
import type { Tolerances } from '../chain/tolerances.ts'
import { reflectionAt } from '../load/load.ts'
import { cholesky, logSumExp, solveWith } from '../statistics/gaussian.ts'
import type { FarEnd } from '../chain/farEnd.ts'
import type { AnalyserErrors } from '../sweep/analyserErrors.ts'
import type { Cascade } from '../sweep/cascade.ts'
import { type FigureKind, jointsOf } from '../sweep/pieces.ts'
import type { Reflections } from '../sweep/evenSweep.ts'
import { fittedCurve } from '../sweep/fit.ts'
import type { CurveFit } from '../statistics/curveFit.ts'

/** What an analyser saw at a plane, looking toward the antenna. */
export interface SeenSweep extends Reflections {
  plane: number
  farEnd: FarEnd
  /** How far it may be off; as a usual one unless given. */
  analyser?: AnalyserErrors | undefined
}

/** How sure a sweep may make anything, against the best cause: beyond this the world is wider than the model. */
const TAIL = 5
/** None of the causes explains a sweep as well as one that does, and worse than nothing else does. */
const OTHER = -5

/** The logarithm of how likely a sweep is under a cause, up to a constant. */
type Seen = (cause: Cause) => number

/** A figure that a cause makes other than written down: by so much, and what lies between one size that is weighed and the next. */
interface Changed {
  figure: number
  by: number
  /** Deviation of an even spread over that. */
  spread: number
}

/**
 * The chain is fitted to the sweep, and what the sweep alone says of its figures is taken as a normal density there. A cause
 * expects figures to be other than written down, so that one fit serves for all causes.
 *
 * @returns null where what the antenna reflects is not known over the sweep
 */
function seenBy(chain: Chain, sweep: SeenSweep, tolerances: Tolerances): Seen | null {
  const { plane, farEnd, analyser } = sweep
  const fitted = fittedCurve(chain, plane, sweep, farEnd, tolerances, analyser)
  if (!fitted) return null
  const { curve, fit } = fitted
  const likelihood = likelihoodOfFigures(fit, curve.deviations)
  return (cause) => {
    const ways = waysOf(cause, chain, plane, farEnd, curve)
    return logSumExp(ways.map(likelihood)) - Math.log(ways.length)
  }
}

/**
 * How much likelier a sweep is with one or two figures expected elsewhere than with all as they are written down, ln. In
 * deviations: what the sweep says is g·x − ½·x·A·x, what is expected beforehand N(0, 1) of each figure and N(μ, v) of the changed
 * ones. With M = (A + 1)⁻¹, h = M·g, β = μ/v, and of M and h only what belongs to the changed figures, S = 1/(1 − 1/v) − M:
 * ln Z = β·h + ½·β·M·β + ½·(h + M·β)·S⁻¹·(h + M·β) − ½·μ²/v − ½·ln(v·(1 − 1/v)·|S|) (Woodbury’s identity).
 */
export function likelihoodOfFigures(
  { information, pull }: Pick<CurveFit, 'information' | 'pull'>,
  deviations: readonly number[],
): (changed: readonly Changed[]) => number {
  const n = deviations.length
  const withPrior = Float64Array.from(information)
  for (let p = 0; p < n; p++) withPrior[p * n + p]! += 1
  const l = cholesky(withPrior, n)
  const h = solveWith(l, pull)
  const columns = new Map<number, Float64Array>()
  const columnOf = (figure: number) => {
    const known = columns.get(figure)
    if (known) return known
    const unit = new Float64Array(n)
    unit[figure] = 1
    const column = solveWith(l, unit)
    columns.set(figure, column)
    return column
  }
  return (changed) => {
    if (changed.length === 0) return 0
    const m = changed.map(({ figure }) => changed.map((other) => columnOf(figure)[other.figure]!))
    const v = changed.map(({ figure, spread }) => 1 + (spread / deviations[figure]!) ** 2)
    const mu = changed.map(({ figure, by }) => by / deviations[figure]!)
    const beta = mu.map((own, i) => own / v[i]!)
    const mBeta = m.map((row) => dot(row, beta))
    const y = changed.map(({ figure }, i) => h[figure]! + mBeta[i]!)
    const s = m.map((row, i) => row.map((own, j) => (i === j ? v[i]! / (v[i]! - 1) : 0) - own))
    const [solved, determinant] = solvedSmall(s, y)
    const wide = v.reduce((all, own) => all * (own - 1), determinant)
    return (
      changed.reduce((sum, { figure }, i) => sum + beta[i]! * h[figure]!, dot(beta, mBeta) / 2) +
      (dot(y, solved) - dot(mu, beta) - Math.log(wide)) / 2
    )
  }
}

const dot = (a: readonly number[], b: readonly number[]): number =>
  a.reduce((sum, own, i) => sum + own * b[i]!, 0)

/** One or two equations, and their determinant. */
function solvedSmall(s: readonly number[][], y: readonly number[]): [number[], number] {
  if (y.length === 1) return [[y[0]! / s[0]![0]!], s[0]![0]!]
  const [[a, b], [c, d]] = s as [[number, number], [number, number]]
  const determinant = a * d - b * c
  return [
    [(d * y[0]! - b * y[1]!) / determinant, (a * y[1]! - c * y[0]!) / determinant],
    determinant,
  ]
}

/** An even spread over a step between two sizes, of a size. */
const within = (ratio: number): number => (ratio - 1) / Math.sqrt(12)

/** Changes of an antenna’s reflection that are weighed lie so far from each other: a share of the change, and at least this. */
const OTHER_SPREAD = 0.09
const LEAST_SPREAD = 0.035

/** Figures that a cause makes other than written down, in each of the ways it may be meant, as likely as each other. */
function waysOf(
  cause: Cause,
  chain: Chain,
  plane: number,
  farEnd: FarEnd,
  { figures, middleHz }: Cascade,
): Changed[][] {
  const at = (kind: FigureKind, stage: number | null) =>
    figures.findIndex((own) => own.kind === kind && own.stage === stage)
  const way = (...changed: Changed[]) => (changed.every(({ figure }) => figure >= 0) ? changed : [])
  switch (cause.kind) {
    case 'loss': {
      const behind = chain.stages.slice(plane)
      // Behind one of its stages.
      const from = cause.from + 1 - plane
      const to = cause.to + 1 - plane
      const here = jointsOf(behind).filter((joint) => joint.from <= to && joint.to >= from)
      const [kind, by] = cause.joint
        ? (['resistance', jointOhm(cause.db, referenceOf(chain))] as const)
        : (['extra', cause.db] as const)
      const ways = here.map((joint) =>
        way({ figure: at(kind, joint.from), by, spread: by * within(SIZE_RATIO.loss) }),
      )
      // In front of the analyser it is not seen.
      return from <= 0 || ways.length === 0 ? [...ways, []] : ways
    }
    case 'aged': {
      const { stage, factor } = cause
      const spread = factor * within(SIZE_RATIO.aged)
      return [way({ figure: at('loss', stage - plane), by: factor - 1, spread })]
    }
    case 'antenna': {
      if (farEnd !== 'antenna') return [[]]
      const { change } = cause
      const shift = at('shift', null)
      if (change.kind === 'moved' && shift >= 0) {
        const spread = Math.abs(change.share) * within(SIZE_RATIO.moved)
        return [way({ figure: shift, by: change.share, spread })]
      }
      const before = reflectionAt(chain.load, middleHz, referenceOf(chain))
      const by =
        change.kind === 'other'
          ? change.by
          : change.kind === 'broken'
            ? { re: change.reflection.re - before.re, im: change.reflection.im - before.im }
            : { re: 0, im: 0 }
      const size = change.kind === 'other' ? Math.hypot(by.re, by.im) : 0
      const spread = Math.max(LEAST_SPREAD, OTHER_SPREAD * size)
      return [
        way(
          { figure: at('offRe', null), by: by.re, spread },
          { figure: at('offIm', null), by: by.im, spread },
        ),
      ]
    }
    default:
      return [[]]
  }
}

/**
 * What sweeps add to the logarithm of each cause, in its order; the best has 0. A sweep that cannot be fitted adds nothing:
 * where it is looked at, it says why.
 */
export function sweepEvidence(
  chain: Chain,
  sweeps: readonly SeenSweep[],
  tolerances: Tolerances,
  causes: readonly Cause[],
): Float64Array {
  const sum = new Float64Array(causes.length)
  for (const sweep of sweeps) {
    const seen = readable(() => seenBy(chain, sweep, tolerances))
    if (!seen) continue
    const logs = causes.map((cause) => (cause.kind === 'other' ? -Infinity : seen(cause)))
    const best = logs.reduce((a, b) => Math.max(a, b), -Infinity)
    logs.forEach((log, i) => {
      sum[i]! += log === -Infinity ? OTHER : -TAIL * Math.log1p((best - log) / TAIL)
    })
  }
  return sum
}

function readable<T>(read: () => T): T | null {
  try {
    return read()
  } catch (error) {
    if (error instanceof InputError) return null
    throw error
  }
}
