/**
 * A quantile of sorted numbers, linear between neighbours (Hyndman & Fan 1996, type 7); NaN of nothing.
 *
 * @param share 0 … 1
 */
export function quantileSorted(sorted: ArrayLike<number>, share: number): number {
  const n = sorted.length
  if (n === 0) return NaN
  const at = share * (n - 1)
  const i = Math.floor(at)
  const low = sorted[i]!
  // The same neighbour may be infinite.
  return i + 1 < n && sorted[i + 1] !== low ? low + (at - i) * (sorted[i + 1]! - low) : low
}

/** The middle of numbers in any order; NaN of nothing. */
export const median = (values: ArrayLike<number>): number =>
  quantileSorted(Float64Array.from(values).sort(), 0.5)

/** From the lowest to the highest value that counts; what counts is said where it is used. */
export interface Range {
  low: number
  high: number
}

/** Where nine of ten draws lie (5 to 95 %), and their middle. */
export interface Estimate extends Range {
  median: number
}

/** The middle and the 5 to 95 % of draws; draws that are no number are left out. */
export function estimateOf(draws: ArrayLike<number>): Estimate {
  const sorted = new Float64Array(draws).filter((v) => !Number.isNaN(v)).sort()
  return {
    median: quantileSorted(sorted, 0.5),
    low: quantileSorted(sorted, 0.05),
    high: quantileSorted(sorted, 0.95),
  }
}

/** Deviation of normal numbers from their median absolute deviation, which outliers do not move. */
export function robustDeviation(values: ArrayLike<number>): number {
  const middle = median(values)
  return 1.4826 * median(Array.from(values, (v) => Math.abs(v - middle)))
}
