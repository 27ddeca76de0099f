/** Extremes over a phase that is not known: looked at all round the circle, and closer where any figure is extreme. */
import type { Range } from '../statistics/quantile.ts'
import { type Jumps, newRing, type Wanted } from './phaseRing.ts'

/** So many phases are added to those looked at first, as a multiple of them, at most. */
const MOST = 8

/** `count` phases evenly round the circle, radians. */
export const phases = (count: number): number[] =>
  Array.from({ length: count }, (_, i) => (2 * Math.PI * i) / count)

/**
 * What something comes to all round the circle: at the first phases, then at the vertex of every parabola through a figure
 * and its neighbours that promises something more extreme, until no extreme moves by more than a thousandth of itself.
 *
 * Where it jumps or bends, every gap between two kinds of setting is halved as long as either of them, held all through the
 * gap, would come to something more extreme than is known; and for a while where it comes near.
 *
 * @param first the phases at first, from 0 up, rad
 * @param at solves it at a phase, rad
 * @param figuresOf the figures whose extremes count; as many each time
 * @param jumps where it is not smooth all round
 * @returns in the order of the phases
 */
export function allRound<T>(
  first: readonly number[],
  at: (phase: number) => T,
  figuresOf: (solved: T) => ArrayLike<number>,
  jumps?: Jumps<T>,
): T[] {
  const ring = newRing(at, figuresOf, jumps)
  for (const phase of first) ring.add(ring.last(), phase)
  const most = MOST * first.length
  let added = 0
  const addAll = (wanted: readonly Wanted<T>[]): boolean => {
    const before = added
    for (const { from, phase } of wanted) if (added < most && ring.add(from, phase)) added++
    return added > before
  }
  while (addAll([...ring.vertices(), ...ring.openJumps()]));
  return ring.all().map(({ solved }) => solved)
}

/** The least and the most of a figure over solutions. */
export function extremesOf<T>(all: readonly T[], pick: (solved: T) => number): Range {
  let low = Infinity
  let high = -Infinity
  for (const solved of all) {
    const value = pick(solved)
    if (value < low) low = value
    if (value > high) high = value
  }
  return { low, high }
}
