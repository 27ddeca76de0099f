/** Fits of a curve with many parameters, each of which is known beforehand within a deviation. */
import { cholesky, solveWith } from './gaussian.ts'

export interface Curve {
  /** How many figures are compared. */
  count: number
  /** Deviation of each parameter, whose expected value is 0. */
  deviations: readonly number[]
  /** Parameters that nothing breaks are held back the more, the further off they are; none unless given. */
  firm?: readonly boolean[]
  /**
   * Writes measured − computed for parameters, and where wanted what each computed figure gains by each parameter,
   * parameter by parameter.
   */
  compare: (parameters: Float64Array, residuals: Float64Array, slopes: Float64Array | null) => void
}

export interface CurveFit {
  parameters: Float64Array
  /** n × n, row by row. */
  covariance: Float64Array
  /**
   * What the figures alone say, without what was known beforehand, each parameter in its own deviations: the logarithm of their
   * likelihood is g·x − ½·x·A·x and a constant near the parameters.
   */
  information: Float64Array
  pull: Float64Array
  /** Root mean square of what is left of a figure. */
  rms: number
}

/** A parameter further off than this many deviations is held back less and less: now and then something is broken. */
const TAIL = 3
const MOST_STEPS = 40
/** A step that gains less ends a fit: nothing moves by a tenth of its range any more. */
const LEAST_GAIN = 0.01

/** Where some parameters may begin, and how large a figure's error is taken to be at first. */
export interface CurveBegin {
  parameters: readonly Float64Array[]
  error: number
  /** No error is believed to be smaller. */
  leastError: number
  /** Begins far from what is expected, which a coarse error would give up: each is followed to its end. */
  unlikely?: readonly Float64Array[]
}

/** An unlikely begin is followed with so much less of the first error, in steps held back so that none leaves it at once. */
const UNLIKELY = { error: 0.25, damping: 1 }
const DAMPING = 1e-3

/** With the error that is left the expectations weigh as they should: twice is enough. */
const ROUNDS = 3

/** What a begin came to may still turn out the best while it costs no more than this beyond the best of them. */
const CLOSE = 10
/** Two begins came to the same where no parameter differs by more than this share of its deviation. */
const SAME = 0.1

/** Parameters that were come to, with what is left there. */
interface Reached {
  parameters: Float64Array
  residuals: Float64Array
  cost: number
}

const priorCost = (off: number, firm = false): number =>
  firm ? off * off : TAIL * TAIL * Math.log1p((off / TAIL) ** 2)

/**
 * The likeliest parameters by Levenberg’s and Marquardt’s steps (Marquardt 1963), with heavy-tailed expectations of each; of
 * several begins the one that leads furthest down. The error of a figure is what is left of the curve; where what is left hangs
 * together from one figure to the next, it counts for fewer figures than there are.
 */
export function fitCurve(curve: Curve, begin: CurveBegin): CurveFit {
  const n = curve.deviations.length
  const m = curve.count
  const slopes = new Float64Array(n * m)
  const errorOf = ({ residuals }: Reached) =>
    Math.max(begin.leastError, Math.sqrt(sumOfSquares(residuals) / Math.max(1, m - n)))
  const likely = begin.parameters
    .map((parameters) => descend(curve, parameters, begin.error, slopes))
    .toSorted((a, b) => a.cost - b.cost)
  const unlikely = (begin.unlikely ?? []).map((parameters) =>
    descend(curve, parameters, UNLIKELY.error * begin.error, slopes, UNLIKELY.damping),
  )
  const finished = [...likely.filter(({ cost }) => cost < likely[0]!.cost + CLOSE), ...unlikely]
    .filter((own, i, all) => !all.slice(0, i).some((other) => isSame(curve, own, other)))
    .map((own) => {
      let reached = own
      for (let round = 1; round < ROUNDS; round++)
        reached = descend(curve, reached.parameters, errorOf(reached), slopes)
      return { ...reached, cost: costOf(curve, reached, begin.leastError) }
    })
  const reached = finished.reduce((a, b) => (b.cost < a.cost ? b : a))
  const error = errorOf(reached)
  const { parameters, residuals } = reached
  curve.compare(parameters, residuals, slopes)
  const fewer = Math.sqrt(togetherness(residuals))
  const pull = new Float64Array(n)
  const information = normalEquations(curve, residuals, slopes, error * fewer, pull)
  // From the slope here to that at what is expected.
  for (let p = 0; p < n; p++)
    for (let q = 0; q < n; q++)
      pull[p]! += (information[p * n + q]! * parameters[q]!) / curve.deviations[q]!
  const held = Float64Array.from(information)
  hold(curve, parameters, held, new Float64Array(n))
  return {
    parameters,
    covariance: inverse(held, n).map(
      (own, i) => own * curve.deviations[Math.floor(i / n)]! * curve.deviations[i % n]!,
    ),
    ...{ information, pull },
    rms: Math.sqrt(sumOfSquares(residuals) / m),
  }
}

const isSame = (
  { deviations }: Curve,
  { parameters: a }: Reached,
  { parameters: b }: Reached,
): boolean => deviations.every((deviation, p) => Math.abs(a[p]! - b[p]!) < SAME * deviation)

/** Twice the negative logarithm of what is to be made large, up to a constant. */
const costOf = (
  { deviations, firm }: Curve,
  { parameters, residuals }: Omit<Reached, 'cost'>,
  error: number,
): number =>
  parameters.reduce(
    (cost, each, p) => cost + priorCost(each / deviations[p]!, firm?.[p]),
    sumOfSquares(residuals) / (error * error),
  )

/** Steps down from some parameters, as far as that gains anything. */
function descend(
  curve: Curve,
  from: Float64Array,
  error: number,
  slopes: Float64Array,
  firstDamping = DAMPING,
): Reached {
  const { count: m, deviations } = curve
  const n = deviations.length
  let parameters = Float64Array.from(from)
  let residuals = new Float64Array(m)
  const gradient = new Float64Array(n)
  const equations = () => {
    curve.compare(parameters, residuals, slopes)
    const information = normalEquations(curve, residuals, slopes, error, gradient)
    hold(curve, parameters, information, gradient)
    return information
  }
  let information = equations()
  let cost = costOf(curve, { parameters, residuals }, error)
  let damping = firstDamping
  for (let step = 0; step < MOST_STEPS; step++) {
    const move = solveDamped(information, gradient, damping)
    const next = parameters.map((own, p) => own + move[p]! * deviations[p]!)
    const left = new Float64Array(m)
    curve.compare(next, left, null)
    const nextCost = costOf(curve, { parameters: next, residuals: left }, error)
    if (nextCost < cost) {
      const gain = cost - nextCost
      parameters = next
      residuals = left
      cost = nextCost
      damping = Math.max(1e-9, damping / 8)
      if (gain < LEAST_GAIN) break
      information = equations()
    } else if ((damping *= 6) > 1e8) break
  }
  return { parameters, residuals, cost }
}

/** Adds what is known beforehand: the further off a parameter that is not firm is, the less it is held. */
function hold(
  { deviations, firm }: Curve,
  parameters: Float64Array,
  information: Float64Array,
  gradient: Float64Array,
): void {
  const n = deviations.length
  for (let p = 0; p < n; p++) {
    const off = parameters[p]! / deviations[p]!
    const held = firm?.[p] ? 1 : 1 / (1 + (off / TAIL) ** 2)
    information[p * n + p]! += held
    gradient[p]! -= off * held
  }
}

const sumOfSquares = (values: Float64Array) => values.reduce((sum, v) => sum + v * v, 0)

/** By how much more the variance of a mean is than that of figures that do not hang together, at least 1. */
function togetherness(residuals: Float64Array): number {
  const half = residuals.length / 2
  let own = 0
  let next = 0
  for (const from of [0, half])
    for (let i = from; i < from + half; i++) {
      own += residuals[i]! ** 2
      if (i + 1 < from + half) next += residuals[i]! * residuals[i + 1]!
    }
  const r = own > 0 ? Math.min(0.98, Math.max(0, next / own)) : 0
  return (1 + r) / (1 - r)
}

/** JᵀJ/σ², each parameter in its own deviations; the gradient is written. */
function normalEquations(
  { count: m, deviations }: Curve,
  residuals: Float64Array,
  slopes: Float64Array,
  error: number,
  gradient: Float64Array,
): Float64Array<ArrayBuffer> {
  const n = deviations.length
  const a = new Float64Array(n * n)
  const weight = 1 / (error * error)
  for (let p = 0; p < n; p++) {
    const own = slopes.subarray(p * m, p * m + m)
    const deviation = deviations[p]!
    gradient[p] = dot(own, residuals) * weight * deviation
    for (let q = 0; q <= p; q++) {
      const product = dot(own, slopes.subarray(q * m, q * m + m))
      a[p * n + q] = a[q * n + p] = product * weight * deviation * deviations[q]!
    }
  }
  return a
}

/** Four sums at once: each next term need not wait for the one before it. */
function dot(a: Float64Array, b: Float64Array): number {
  let [s0, s1, s2, s3] = [0, 0, 0, 0]
  const whole = a.length - (a.length % 4)
  for (let i = 0; i < whole; i += 4) {
    s0 += a[i]! * b[i]!
    s1 += a[i + 1]! * b[i + 1]!
    s2 += a[i + 2]! * b[i + 2]!
    s3 += a[i + 3]! * b[i + 3]!
  }
  for (let i = whole; i < a.length; i++) s0 += a[i]! * b[i]!
  return s0 + s1 + s2 + s3
}

function solveDamped(a: Float64Array, b: Float64Array, damping: number): Float64Array {
  const n = b.length
  const damped = Float64Array.from(a)
  for (let p = 0; p < n; p++) damped[p * n + p]! *= 1 + damping
  return solveWith(cholesky(damped, n), b)
}

function inverse(a: Float64Array, n: number): Float64Array {
  const out = new Float64Array(n * n)
  const unit = new Float64Array(n)
  for (let p = 0; p < n; p++) {
    unit.fill(0)
    unit[p] = 1
    out.set(solveDamped(a, unit, 0), p * n)
  }
  return out
}
