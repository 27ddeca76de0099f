/** Extremes over a phase that is not known: looked at all round the circle, and closer where any figure is extreme. */
import type { Range } from '../statistics/quantile.ts'
import type { Chain } from './chain.ts'

const TURN = 2 * Math.PI
/** How a chain is looked at round the circle. */
interface Look {
  /** Even phases at first. */
  first: number
  /** How near an extreme, as a share of the figure's span, phases are looked around at half the distance, round by round. */
  halvings: readonly number[]
}

/** Between neighbours a smooth figure is nearly a parabola. */
const SMOOTH: Look = { first: 48, halvings: [] }
/** Where a network comes to the end of its range, figures bend sharply. */
const BENT: Look = { first: 48, halvings: [0.06, 0.04] }
/** Relays jump from setting to setting: an extreme may end anywhere between two phases. */
const JUMPING: Look = { first: 120, halvings: [0.1, 0.05, 0.03, 0.03, 0.02, 0.02] }
/** Closer steps end where the next one would change no extreme by more than this share of it, */
const WORTHWHILE = 0.001
/** and neighbours differ by less than this share of it, */
const STEEP = 0.01
/** or at this distance, rad, */
const CLOSEST = TURN / 7200
/** or after so many of them, of those looked at first. */
const MOST = 8

/** How a chain is looked at. */
export function lookOf({ stages }: Pick<Chain, 'stages'>): Look {
  const searched = stages.flatMap((stage) =>
    stage.kind === 'tuner' && !stage.bypassed ? [stage.method] : [],
  )
  if (searched.includes('stepped')) return JUMPING
  return searched.includes('network') ? BENT : SMOOTH
}

/** `count` phases evenly round the circle, radians. */
export const phases = (count: number): number[] =>
  Array.from({ length: count }, (_, i) => (TURN * i) / count)

/**
 * What something comes to all round the circle: at even phases, where it jumps then at half the distance and half of that around
 * whatever is nearly extreme, then at the vertex of the parabola through each extreme of each figure and its neighbours, until
 * no extreme moves by more than a thousandth of itself.
 *
 * @param at solves it at a phase, rad
 * @param figuresOf the figures whose extremes count; as many each time
 * @returns in the order of the phases
 */
export function allRound<T>(
  { first, halvings }: Look,
  at: (phase: number) => T,
  figuresOf: (solved: T) => ArrayLike<number>,
): T[] {
  const look = (phase: number) => {
    const solved = at(phase)
    return { phase, solved, figures: figuresOf(solved) }
  }
  const known = phases(first).map(look)
  const most = MOST * first
  let added = 0
  const add = (wanted: readonly number[]) => {
    const fit = wanted.slice(0, Math.max(0, most - added))
    for (const phase of fit) known.push(look(phase))
    added += fit.length
    known.sort((a, b) => a.phase - b.phase)
  }
  for (const near of halvings) add(aroundExtremes(known, near))
  while (added < most) {
    const fresh = [...verticesOf(known)].filter((phase) =>
      known.every((own) => Math.abs(own.phase - phase) > CLOSEST / 2),
    )
    if (fresh.length === 0) break
    add(fresh)
  }
  return known.map(({ solved }) => solved)
}

/** Midway between whatever is nearly extreme and its neighbours. */
function aroundExtremes(known: readonly Known[], near: number): number[] {
  const n = known.length
  /** By the index of the gap behind it. */
  const gaps = new Set<number>()
  for (let f = 0; f < known[0]!.figures.length; f++) {
    const { low, high } = extremesOf(known, ({ figures }) => figures[f]!)
    if (!(high - low > WORTHWHILE * Math.abs(high))) continue
    const within = near * (high - low)
    known.forEach(({ figures }, i) => {
      const value = figures[f]!
      if (value > low + within && value < high - within) return
      gaps.add(i)
      gaps.add((i + n - 1) % n)
    })
  }
  return [...gaps].flatMap((i) => {
    const from = known[i]!.phase
    const to = i + 1 < n ? known[i + 1]!.phase : known[0]!.phase + TURN
    return to - from > CLOSEST ? [wrapped((from + to) / 2)] : []
  })
}

/** Where the extremes of all figures are to be looked for next. */
function verticesOf(known: readonly Known[]): Set<number> {
  const wanted = new Set<number>()
  for (let f = 0; f < known[0]!.figures.length; f++)
    for (const sign of [1, -1]) {
      const next = vertexOf(known, f, sign)
      if (next !== null) wanted.add(next)
    }
  return wanted
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
    const steep = Math.max(Math.abs(y0), Math.abs(y1)) > STEEP * Math.abs(y)
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
