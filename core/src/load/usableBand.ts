import { type Load, reflectionAt } from './load.ts'
import { magnitude } from '../complex.ts'
import { swrOf } from './reflection.ts'

/** A stretch of frequencies, Hz. */
export interface FrequencySpan {
  lowHz: number
  highHz: number
  /** True where the sweep ends before the limit is reached on that side. */
  openLow: boolean
  openHigh: boolean
}

/**
 * The stretches in which a load's SWR stays at or under a limit, edges found by bisection between
 * samples of the grid (rising, at least two).
 *
 * @example usableBands({ kind: 'fixed', rOhm: 60, xOhm: 0 }, [7e6, 7.1e6, 7.2e6], 2, 50)
 *   // [{ lowHz: 7000000, highHz: 7200000, openLow: true, openHigh: true }]
 */
export function usableBands(
  load: Load,
  grid: ArrayLike<number>,
  swrLimit: number,
  referenceOhm: number,
): FrequencySpan[] {
  const swr = (hz: number) => swrOf(magnitude(reflectionAt(load, hz, referenceOhm)))
  const edge = (inside: number, outside: number): number => {
    for (let i = 0; i < 40 && Math.abs(inside - outside) > 1e-7 * inside; i++) {
      const middle = (inside + outside) / 2
      if (swr(middle) <= swrLimit) inside = middle
      else outside = middle
    }
    return inside
  }
  const spans: FrequencySpan[] = []
  let start: { hz: number; open: boolean } | null = null
  for (let i = 0; i < grid.length; i++) {
    const hz = grid[i]!
    const good = swr(hz) <= swrLimit
    if (good && !start)
      start = i === 0 ? { hz, open: true } : { hz: edge(hz, grid[i - 1]!), open: false }
    if (start && (!good || i === grid.length - 1)) {
      spans.push({
        lowHz: start.hz,
        highHz: good ? hz : edge(grid[i - 1]!, hz),
        openLow: start.open,
        openHigh: good,
      })
      start = null
    }
  }
  return spans
}
