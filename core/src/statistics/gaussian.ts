/** Likelihoods of readings whose errors hang together. */

/**
 * The lower triangle L of a covariance matrix, L·Lᵀ = C, row by row (Cholesky). A matrix that is not
 * positive definite is helped by a whisper on its diagonal.
 *
 * @param c n × n, row by row
 */
export function cholesky(c: Float64Array, n: number): Float64Array {
  const l = new Float64Array(n * n)
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let s = c[i * n + j]!
      for (let k = 0; k < j; k++) s -= l[i * n + k]! * l[j * n + k]!
      if (i === j) l[i * n + i] = Math.sqrt(Math.max(s, 1e-12 * Math.abs(c[i * n + i]!) + 1e-18))
      else l[i * n + j] = s / l[j * n + j]!
    }
  }
  return l
}

/** The y of L·y = x, by forward substitution: figures in their own deviations, no longer hanging together. */
export function whiten(l: Float64Array, x: ArrayLike<number>): Float64Array {
  const n = x.length
  const y = new Float64Array(n)
  for (let i = 0; i < n; i++) {
    let s = x[i]!
    for (let k = 0; k < i; k++) s -= l[i * n + k]! * y[k]!
    y[i] = s / l[i * n + i]!
  }
  return y
}

/** The x of L·Lᵀ·x = y, by forward and back substitution. */
export function solveWith(l: Float64Array, y: ArrayLike<number>): Float64Array {
  const x = whiten(l, y)
  const n = x.length
  for (let i = n - 1; i >= 0; i--) {
    for (let k = i + 1; k < n; k++) x[i]! -= l[k * n + i]! * x[k]!
    x[i]! /= l[i * n + i]!
  }
  return x
}

/** xᵀ·C⁻¹·x. */
export const squareOf = (l: Float64Array, x: ArrayLike<number>): number =>
  whiten(l, x).reduce((sum, v) => sum + v * v, 0)

/**
 * ln of a density with the middle of a normal one and wider tails: a mixture of normal densities whose deviations are all
 * some times wider. The world is now and then further off than its tolerances say.
 */
export const logHeavyDensity = (l: Float64Array, deviation: ArrayLike<number>): number =>
  logHeavyOf(logPeak(l, deviation.length), squareOf(l, deviation), deviation.length)

/** ln of a normal density of n dimensions at its middle. */
export function logPeak(l: Float64Array, n: number): number {
  let logDet = 0
  for (let i = 0; i < n; i++) logDet += Math.log(l[i * n + i]!)
  return -logDet - 0.5 * n * Math.log(2 * Math.PI)
}

/**
 * The same density from what it is made of.
 *
 * @param peak ln of the normal density at its middle
 * @param square xᵀ·C⁻¹·x
 */
export function logHeavyOf(peak: number, square: number, n: number): number {
  // Against the widest, which is never less than nothing; a loop, since it is asked for every pair of causes.
  const least = square / (2 * WIDEST * WIDEST)
  let sum = 0
  for (const { log, times } of TAILS)
    sum += Math.exp(log - n * Math.log(times) - square / (2 * times * times) + least)
  return peak - least + Math.log(sum)
}

/** Shares of the mixture, as ln, and how many times wider each is. */
const WIDEST = 2.5
const TAILS = (
  [
    [0.8, 1],
    [0.15, 1.5],
    [0.05, WIDEST],
  ] as const
).map(([share, times]) => ({ log: Math.log(share), times }))

/** ln Σ exp, without overflow; −∞ of nothing. */
export function logSumExp(values: ArrayLike<number>): number {
  let most = -Infinity
  for (let i = 0; i < values.length; i++) most = Math.max(most, values[i]!)
  if (!Number.isFinite(most)) return -Infinity
  let sum = 0
  for (let i = 0; i < values.length; i++) sum += Math.exp(values[i]! - most)
  return most + Math.log(sum)
}

/**
 * What a normal number of mean 0 and deviation 1 exceeds with a probability, to 0.0005 (Abramowitz & Stegun 26.2.23).
 *
 * @param probability above 0, up to 0.5
 * @example upperQuantile(0.025) // 1.96
 */
export function upperQuantile(probability: number): number {
  const t = Math.sqrt(-2 * Math.log(probability))
  return (
    t -
    (2.515517 + t * (0.802853 + t * 0.010328)) /
      (1 + t * (1.432788 + t * (0.189269 + t * 0.001308)))
  )
}

/**
 * What a normal number of mean 0 and deviation 1 stays below with a probability, to 0.0005.
 *
 * @param probability above 0, below 1
 * @example normalQuantile(0.025) // -1.96
 */
export const normalQuantile = (probability: number): number =>
  probability < 0.5 ? -upperQuantile(probability) : upperQuantile(1 - probability)

/**
 * Share of a normal distribution below so many deviations, to 1.2e-7. Press et al., Numerical Recipes, erfc.
 *
 * @example normalShare(1.645) // 0.95002
 */
export function normalShare(deviations: number): number {
  const x = Math.abs(deviations) / Math.SQRT2
  const t = 1 / (1 + x / 2)
  const series = ERFC.reduceRight((sum, coefficient) => sum * t + coefficient, 0)
  const tail = (t * Math.exp(-x * x + series)) / 2
  return deviations > 0 ? 1 - tail : tail
}
const ERFC = [
  -1.26551223, 1.00002368, 0.37409196, 0.09678418, -0.18628806, 0.27886807, -1.13520398, 1.48851587,
  -0.82215223, 0.17087277,
]
