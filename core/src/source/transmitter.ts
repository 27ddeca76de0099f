/** A point of a foldback curve: [SWR at the output, fraction of the set power]. */
export type FoldbackPoint = readonly [swr: number, fraction: number]

/**
 * How the transmitter treats a mismatch, and where practitioners disagree:
 * - `levelled` holds *forward* power on the reference, so what comes back is not delivered;
 * - `peaked` has its output retuned for the load, so that all of the set power goes in as net power.
 */
export type SourceBehaviour = 'levelled' | 'peaked'

export interface Transmitter {
  behaviour: SourceBehaviour
  /** Rising in SWR; linear between points, held at the ends; empty for no foldback. */
  foldback: readonly FoldbackPoint[]
}

/**
 * Fraction (0 … 1) of the set power that the foldback curve leaves at an SWR.
 *
 * @example foldbackAt([[1.5, 1], [3, 0.4]], 2) // 0.8
 */
export function foldbackAt(curve: readonly FoldbackPoint[], swr: number): number {
  const first = curve[0]
  if (!first) return 1
  if (swr <= first[0]) return first[1]
  for (let i = 1; i < curve.length; i++) {
    const [s1, p1] = curve[i]!
    if (swr <= s1) {
      const [s0, p0] = curve[i - 1]!
      return s1 > s0 ? p0 + ((p1 - p0) * (swr - s0)) / (s1 - s0) : p1
    }
  }
  return curve[curve.length - 1]![1]
}
