/** Where a row of readings jumps to another level. */
import { median, robustDeviation } from './quantile.ts'

/** A stretch of readings on one level: `from` to before `to`. */
export interface Stretch {
  from: number
  to: number
  level: number
}

/** A jump must be worth this many deviations' squares, times ln n: few false alarms, by simulation. */
const PENALTY = 4

/** So many deviations from its neighbours' median a reading is wild. */
const WILD = 4

/** Beyond this many readings neighbours are taken together first. */
const MOST = 600

/**
 * Cuts a row into levels: least squares with a price for every cut, the optimum by dynamic programming
 * (Jackson et al. 2005, "optimal partitioning"). The scatter is taken from the differences of neighbours,
 * so that a jump does not hide itself. O(n²), n at most 600.
 *
 * @param values in order of time
 * @param leastLength of a level, readings
 */
export function levelsOf(values: readonly number[], leastLength = 3): Stretch[] {
  const n = values.length
  if (n === 0) return []
  if (n > MOST) return thinned(values, leastLength)
  const differences = values.slice(1).map((v, i) => v - values[i]!)
  const deviation = n > 2 ? robustDeviation(differences) / Math.SQRT2 : 0
  const whole: Stretch = { from: 0, to: n, level: median(values) }
  if (!(deviation > 0) || n < 2 * leastLength) return [whole]
  const price = PENALTY * deviation * deviation * Math.log(n)

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
