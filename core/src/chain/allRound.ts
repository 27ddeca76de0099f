/** Extremes over a phase that is not known: looked at all round the circle, and closer where any figure is extreme. */
import type { Range } from '../statistics/quantile.ts'
import type { Chain } from './chain.ts'

const TURN = 2 * Math.PI
/** Between neighbours a smooth figure is nearly a parabola. */
const SMOOTH = 48
/** Relays jump from setting to setting: nothing is known between two phases. */
const JUMPING = 360
/** Closer steps end where the next one would change no extreme by more than this share of it, */
const WORTHWHILE = 0.002
/** or at this distance, rad, */
const CLOSEST = TURN / 7200
/** or after so many of them, of those looked at first. */
const MOST = 3

/** Whether a tuner of relays is switched in. */
export const hasRelays = ({ stages }: Pick<Chain, 'stages'>): boolean =>
  stages.some((stage) => stage.kind === 'tuner' && stage.method === 'stepped' && !stage.bypassed)

/** How many phases a chain is looked at first. */
export const phasesFor = (chain: Pick<Chain, 'stages'>): number =>
  hasRelays(chain) ? JUMPING : SMOOTH

/** `count` phases evenly round the circle, radians. */
export const phases = (count: number): number[] =>
  Array.from({ length: count }, (_, i) => (TURN * i) / count)

/**
 * What something comes to all round the circle: at even phases, then at the vertex of the parabola through each extreme of
 * each figure and its neighbours, until no extreme moves by more than a five-hundredth of itself.
 *
 * @param at solves it at a phase, rad
 * @param figuresOf the figures whose extremes count; as many each time
 * @returns in the order of the phases
 */
export function allRound<T>(
  count: number,
  at: (phase: number) => T,
  figuresOf: (solved: T) => ArrayLike<number>,
): T[] {
  const known = phases(count).map((phase) => {
    const solved = at(phase)
    return { phase, solved, figures: figuresOf(solved) }
  })
  const most = MOST * count
  for (let added = 0; added < most;) {
    const wanted = new Set<number>()
    const figures = known[0]!.figures.length
    for (let f = 0; f < figures; f++)
      for (const sign of [1, -1]) {
        const next = vertexOf(known, f, sign)
        if (next !== null) wanted.add(next)
      }
    const fresh = [...wanted].filter((phase) =>
      known.every((own) => Math.abs(own.phase - phase) > CLOSEST / 2),
    )
    if (fresh.length === 0) break
    for (const phase of fresh.slice(0, most - added)) {
      const solved = at(phase)
      known.push({ phase, solved, figures: figuresOf(solved) })
    }
    added += fresh.length
    known.sort((a, b) => a.phase - b.phase)
  }
  return known.map(({ solved }) => solved)
}

interface Known {
  phase: number
  figures: ArrayLike<number>
}

/** Where the extreme of a figure is to be looked for next; null where it is known well enough. */
function vertexOf(known: readonly Known[], f: number, sign: number): number | null {
  let best = 0
  for (let i = 1; i < known.length; i++)
    if (sign * known[i]!.figures[f]! > sign * known[best]!.figures[f]!) best = i
  const n = known.length
  const middle = known[best]!
  const before = known[(best + n - 1) % n]!
  const after = known[(best + 1) % n]!
  const x0 = before.phase - (best === 0 ? TURN : 0) - middle.phase
  const x1 = after.phase + (best === n - 1 ? TURN : 0) - middle.phase
  if (x1 - x0 < 2 * CLOSEST) return null
  const y = middle.figures[f]!
  const y0 = before.figures[f]! - y
  const y1 = after.figures[f]! - y
  if (!Number.isFinite(y0) || !Number.isFinite(y1)) return null
  // y0 = a·x0² + b·x0, y1 = a·x1² + b·x1.
  const a = (y1 / x1 - y0 / x0) / (x1 - x0)
  const b = y0 / x0 - a * x0
  if (a === 0) return null
  const x = Math.min(x1 / 2, Math.max(x0 / 2, -b / (2 * a)))
  if (Math.abs(a * x * x + b * x) <= WORTHWHILE * Math.abs(y)) {
    // A parabola that is flat between neighbours which are not: the extreme is sharper than it tells.
    const steep = Math.max(Math.abs(y0), Math.abs(y1)) > 0.05 * Math.abs(y)
    if (!steep) return null
    const half = Math.abs(x0) > x1 ? x0 / 2 : x1 / 2
    return wrapped(middle.phase + half)
  }
  return wrapped(middle.phase + x)
}

const wrapped = (phase: number): number => ((phase % TURN) + TURN) % TURN

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

/** The extreme of a parabola through three figures at even steps, the middle one of which is the most extreme. */
export function vertexValue(before: number, middle: number, after: number): number {
  const bend = before - 2 * middle + after
  return bend === 0 || !Number.isFinite(bend) ? middle : middle - (before - after) ** 2 / (8 * bend)
}
