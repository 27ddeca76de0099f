import { type SweepLoad } from './load.ts'

/**
 * Frequencies at which to draw a sweep between two ends: where it has more points than can be seen,
 * the highest and the lowest |ρ| of each of `buckets` stretches, so that no narrow dip or peak is
 * lost; where it has fewer, an even grid. Computing goes on with all points.
 */
export function drawingGrid(
  sweep: SweepLoad | undefined,
  lowHz: number,
  highHz: number,
  buckets: number,
): Float64Array {
  const even = Float64Array.from(
    { length: buckets + 1 },
    (_, i) => lowHz + ((highHz - lowHz) * i) / buckets,
  )
  if (!sweep) return even
  const { frequencyHz, re, im } = sweep
  const least = new Int32Array(buckets).fill(-1)
  const most = new Int32Array(buckets).fill(-1)
  const size = (i: number) => re[i]! * re[i]! + im[i]! * im[i]!
  let inside = 0
  for (let i = 0; i < frequencyHz.length; i++) {
    const t = (frequencyHz[i]! - lowHz) / (highHz - lowHz)
    if (t < 0 || t > 1) continue
    inside++
    const b = Math.min(buckets - 1, Math.floor(t * buckets))
    if (least[b]! < 0 || size(i) < size(least[b]!)) least[b] = i
    if (most[b]! < 0 || size(i) > size(most[b]!)) most[b] = i
  }
  if (inside <= 2 * buckets) return even
  const picked = new Set([...least, ...most].filter((i) => i >= 0).map((i) => frequencyHz[i]!))
  return Float64Array.from([lowHz, ...picked, highHz])
    .sort()
    .filter((hz, i, all) => i === 0 || hz > all[i - 1]!)
}
