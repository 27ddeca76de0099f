/** Where a row of readings jumps to another level. */
import { upperQuantile } from './gaussian.ts'
import { median } from './quantile.ts'

/** A stretch of readings on one level: `from` to before `to`. */
export interface Stretch {
  from: number
  to: number
  level: number
}

/**
 * A cut must be worth so many variances of the noise, by simulation: false alarms in less than one row of twenty at any length
 * from 8, also where neighbours are correlated by a half. The more lengths of block the noise was looked at in, the better it
 * is known whether readings hang together.
 */
const PRICES = [28.5, 20.5, 16] as const
/** The shortest rows have few places for a cut. */
const SHORTEST = { readings: 8, price: 23, rise: 2.5 }

function priceOf(n: number): number {
  const { readings, price, rise } = SHORTEST
  const usual = PRICES[Math.min(blockLengths(n), PRICES.length) - 1]!
  const short = price + rise * Math.max(0, n - readings)
  return Math.max(Math.min(usual, short), 3.4 * Math.log(n))
}

/** Of all differences the largest are left out, where jumps and wild readings are; at least so many. */
const LEFT_OUT = { share: 0.12, most: 0.4 }

/** Readings that hang together are looked at in blocks, up to this share of the row. */
const LONGEST_BLOCK = 1 / 7

/** How many lengths of block a row is looked at in: 1, 2, 4 … readings. */
const blockLengths = (n: number): number =>
  1 + Math.max(0, Math.floor(Math.log2(n * LONGEST_BLOCK)))

/** So many deviations from its neighbours' median a reading is wild. */
const WILD = 4

/** Beyond this many readings neighbours are taken together first. */
const MOST = 600

/**
 * Cuts a row into levels: least squares with a price for every cut, the optimum by dynamic programming
 * (Jackson et al. 2005, "optimal partitioning"). The noise is taken from the differences of neighbouring blocks, so that a
 * jump does not hide itself, and noise that hangs together counts as what it does to a level. O(n²), n at most 600.
 *
 * @param values in order of time
 * @param leastLength of a level, readings
 */
export function levelsOf(values: readonly number[], leastLength = 3): Stretch[] {
  const n = values.length
  if (n === 0) return []
  if (n > MOST) return thinned(values, leastLength)
  const whole: Stretch = { from: 0, to: n, level: median(values) }
  if (n < 2 * leastLength) return [whole]
  const variance = noiseOf(values)
  if (!(variance > 0)) return [whole]
  const deviation = Math.sqrt(variance)
  const price = priceOf(n) * variance

  const sum = new Float64Array(n + 1)
  const squares = new Float64Array(n + 1)
  for (let i = 0; i < n; i++) {
    // One wild reading must not buy itself a level (Hampel's filter).
    const near = median(values.slice(Math.max(0, i - 2), i + 3))
    const v = Math.abs(values[i]! - near) > WILD * deviation ? near : values[i]!
    sum[i + 1] = sum[i]! + v
    squares[i + 1] = squares[i]! + v * v
  }
  const cost = (a: number, b: number) => {
    const s = sum[b]! - sum[a]!
    return squares[b]! - squares[a]! - (s * s) / (b - a)
  }
  const best = new Float64Array(n + 1).fill(Infinity)
  const cut = new Int32Array(n + 1)
  best[0] = -price
  for (let b = leastLength; b <= n; b++)
    for (let a = 0; a <= b - leastLength; a++) {
      const total = best[a]! + cost(a, b) + price
      if (total < best[b]!) {
        best[b] = total
        cut[b] = a
      }
    }
  const levels: Stretch[] = []
  for (let b = n; b > 0; b = cut[b]!)
    levels.unshift({ from: cut[b]!, to: b, level: median(values.slice(cut[b], b)) })
  return levels
}

/**
 * Variance by which one reading blurs a level. Over blocks of 1, 2, 4 … readings it is half of the variance of the
 * difference of neighbouring blocks, times their length: equal for independent noise, more where it hangs together. Never
 * less than what rounding makes, a twelfth of the smallest step squared.
 */
function noiseOf(values: readonly number[]): number {
  const n = values.length
  const sum = new Float64Array(n + 1)
  values.forEach((v, i) => (sum[i + 1] = sum[i]! + v))
  let most = 0
  for (let length = 0; length < blockLengths(n); length++) {
    const block = 2 ** length
    const squares: number[] = []
    for (let i = 0; i + 2 * block <= n; i++)
      squares.push(((sum[i + 2 * block]! - 2 * sum[i + block]! + sum[i]!) / block) ** 2)
    const left = Math.min(
      Math.max(2 * block, Math.ceil(squares.length * LEFT_OUT.share)),
      Math.floor(squares.length * LEFT_OUT.most),
    )
    most = Math.max(most, (trimmedVariance(squares, left) / 2) * block)
  }
  const sorted = [...values].sort((a, b) => a - b)
  const steps = sorted.slice(1).flatMap((v, i) => (v - sorted[i]! > 1e-9 ? [v - sorted[i]!] : []))
  const step = steps.length > 0 ? Math.min(...steps) : 0
  return Math.max(most, step ** 2 / 12)
}

/** Variance of normal numbers around 0 from their squares without the largest of them. */
function trimmedVariance(squares: readonly number[], left: number): number {
  const kept = [...squares].sort((a, b) => a - b).slice(0, squares.length - left)
  const mean = kept.reduce((a, b) => a + b, 0) / kept.length
  const share = left / squares.length
  if (share === 0) return mean
  const z = upperQuantile(share / 2)
  const density = Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI)
  return mean / ((1 - share - 2 * z * density) / (1 - share))
}

function thinned(values: readonly number[], leastLength: number): Stretch[] {
  const step = Math.ceil(values.length / MOST)
  const few: number[] = []
  for (let i = 0; i < values.length; i += step) few.push(median(values.slice(i, i + step)))
  return levelsOf(few, leastLength).map(({ from, to, level }) => ({
    from: from * step,
    to: Math.min(values.length, to * step),
    level,
  }))
}
