/** Sweeps as evidence: how much likelier each cause makes what an analyser saw. */
import { jointOhm, type Cause } from './causes.ts'
import type { Chain } from '../chain/chain.ts'
import { referenceOf } from '../chain/chain.ts'
import { InputError } from '../errors.ts'
import type { Tolerances } from '../chain/tolerances.ts'
import { reflectionAt } from '../load/load.ts'
import { cholesky, logSumExp, solveWith } from '../statistics/gaussian.ts'
import type { FarEnd } from '../sweep/alongLine.ts'
import type { AnalyserErrors } from '../sweep/analyserErrors.ts'
import type { Cascade } from '../sweep/cascade.ts'
import { type FigureKind, jointsOf } from '../sweep/pieces.ts'
import type { Reflections } from '../sweep/evenSweep.ts'
import { fittedCurve } from '../sweep/fit.ts'

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

/**
 * The chain is fitted to the sweep, and what the sweep alone says of its figures is taken as a normal density there. A cause
 * expects a figure to be other than written down, so that one integral serves for all causes:
 * ln Z = μ·h + ½·μ·A⁻¹·μ − ½·μ², with A the information of the sweep and what is known beforehand, h = A⁻¹·g, and μ the
 * expectation in deviations.
 *
 * @returns null where what the antenna reflects is not known over the sweep
 */
function seenBy(chain: Chain, sweep: SeenSweep, tolerances: Tolerances): Seen | null {
  const { plane, farEnd, analyser } = sweep
  const fitted = fittedCurve(chain, plane, sweep, farEnd, tolerances, analyser)
  if (!fitted) return null
  const { curve, fit } = fitted
  const n = curve.figures.length
  const withPrior = Float64Array.from(fit.information)
  for (let p = 0; p < n; p++) withPrior[p * n + p]! += 1
  const l = cholesky(withPrior, n)
  const h = solveWith(l, fit.pull)
  const unit = new Float64Array(n)
  return (cause) => {
    const ways = waysOf(cause, chain, plane, farEnd, curve)
    return (
      logSumExp(
        ways.map((way) => {
          if (way.length === 0) return 0
          unit.fill(0)
          let log = 0
          for (const { figure, by } of way) {
            const mu = by / curve.deviations[figure]!
            unit[figure] = mu
            log += mu * h[figure]! - (mu * mu) / 2
          }
          const spread = solveWith(l, unit)
          for (const { figure } of way) log += (unit[figure]! * spread[figure]!) / 2
          return log
        }),
      ) - Math.log(ways.length)
    )
  }
}

/** Figures that a cause makes other than written down, in each of the ways it may be meant, as likely as each other. */
function waysOf(
  cause: Cause,
  chain: Chain,
  plane: number,
  farEnd: FarEnd,
  { figures, middleHz }: Cascade,
): { figure: number; by: number }[][] {
  const at = (kind: FigureKind, stage: number | null) =>
    figures.findIndex((own) => own.kind === kind && own.stage === stage)
  const way = (...pairs: [figure: number, by: number][]) =>
    pairs.every(([figure]) => figure >= 0) ? pairs.map(([figure, by]) => ({ figure, by })) : []
  switch (cause.kind) {
    case 'loss': {
      const behind = chain.stages.slice(plane)
      // Behind one of its stages.
      const from = cause.from + 1 - plane
      const to = cause.to + 1 - plane
      const here = jointsOf(behind).filter((joint) => joint.from <= to && joint.to >= from)
      const ohm = jointOhm(cause.db, referenceOf(chain))
      const ways = here.map((joint) =>
        cause.joint
          ? way([at('resistance', joint.from), ohm])
          : way([at('extra', joint.from), cause.db]),
      )
      // In front of the analyser it is not seen.
      return from <= 0 || ways.length === 0 ? [...ways, []] : ways
    }
    case 'aged':
      return [way([at('loss', cause.stage - plane), cause.factor - 1])]
    case 'antenna': {
      if (farEnd !== 'antenna') return [[]]
      const { change } = cause
      const shift = at('shift', null)
      if (change.kind === 'moved' && shift >= 0) return [way([shift, change.share])]
      const before = reflectionAt(chain.load, middleHz, referenceOf(chain))
      const by =
        change.kind === 'other'
          ? change.by
          : change.kind === 'broken'
            ? { re: change.reflection.re - before.re, im: change.reflection.im - before.im }
            : { re: 0, im: 0 }
      return [way([at('offRe', null), by.re], [at('offIm', null), by.im])]
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
