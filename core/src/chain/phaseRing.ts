/** Phases that were looked at, in a ring, and where between them something more extreme may lie. */
const TURN = 2 * Math.PI

/** What jumps from setting to setting, or bends where a setting comes to its end, and is smooth between. */
export interface Jumps<T> {
  /** Whether two solutions have settings of one kind, with nothing but smooth figures between them. */
  same: (a: T, b: T) => boolean
  /** The figures at another phase (rad) with the setting of a solution, or as near to them as can be told. */
  held: (solved: T, phase: number) => ArrayLike<number>
  /** Where they come so near an extreme, as a share of the figure's span, a gap is looked into, */
  near: number
  /** down to this width, rad. */
  downTo: number
}

/** Closer steps end where the next one would change no extreme by more than this share of it, */
const WORTHWHILE = 0.001
/** or of what the figure changes all round; */
const OF_SPAN = 0.02
/** and slopes continued to the next phase would change it by less than this share of it, */
const STEEP = 0.004
/** (continued by so many times their own length at most,) */
const CONTINUED = 4
/** or at this distance, rad, */
const CLOSEST = TURN / 7200
/** between two settings at this one, */
const CLOSEST_JUMP = TURN / 100_000

/** One phase that was looked at, in a ring of them. */
interface Known<T> {
  phase: number
  solved: T
  figures: ArrayLike<number>
  before: Known<T>
  after: Known<T>
  gap?: Gap<T>
  /** Between which neighbours no parabola through it promises anything more extreme. */
  settled?: { before: Known<T>; after: Known<T> }
}

/** Between one phase and the next. */
interface Gap<T> {
  to: Known<T>
  /** Null where both ends have the same setting. */
  held: Held | null
  /** True once nothing more extreme can lie in it: what is extreme only grows. */
  done: boolean
}

/** The figures of the setting at either end of a gap, at the other end. */
interface Held {
  first: ArrayLike<number>
  second: ArrayLike<number>
}

/** A phase to be looked at next. */
export interface Wanted<T> {
  /** The known phase before it. */
  from: Known<T>
  phase: number
}

/**
 * An empty ring.
 *
 * @param at solves a phase, rad
 * @param figuresOf the figures whose extremes count
 */
export function newRing<T>(
  at: (phase: number) => T,
  figuresOf: (solved: T) => ArrayLike<number>,
  jumps: Jumps<T> | undefined,
) {
  let start: Known<T> | null = null
  /** The phases at which each figure is least and most. */
  const low: Known<T>[] = []
  const high: Known<T>[] = []

  const add = (from: Known<T> | null, phase: number): boolean => {
    let before = from
    while (before && before.after !== start && before.after.phase <= phase) before = before.after
    const closest = CLOSEST_JUMP / 2
    if (before && phase - before.phase < closest) return false
    if (before && before.after !== start && before.after.phase - phase < closest) return false
    const solved = at(phase)
    const own = { phase, solved, figures: figuresOf(solved) } as Known<T>
    own.before = before ?? own
    own.after = before?.after ?? own
    own.before.after = own
    own.after.before = own
    const fresh = start === null
    start ??= own
    for (let f = 0; f < own.figures.length; f++) {
      const value = own.figures[f]!
      if (fresh || value < low[f]!.figures[f]!) low[f] = own
      if (fresh || value > high[f]!.figures[f]!) high[f] = own
    }
    return true
  }

  const all = (): Known<T>[] => {
    const list: Known<T>[] = []
    for (let own = start; own; own = own.after === start ? null : own.after) list.push(own)
    return list
  }
  const width = ({ phase, after }: Known<T>): number =>
    after.phase - phase + (after === start ? TURN : 0)

  const gapAfter = (own: Known<T>): Gap<T> => {
    if (own.gap?.to === own.after) return own.gap
    const to = own.after
    const held =
      !jumps || jumps.same(own.solved, to.solved)
        ? null
        : { first: jumps.held(own.solved, to.phase), second: jumps.held(to.solved, own.phase) }
    return (own.gap = { to, held, done: held === null })
  }

  /** What an extreme of a figure must gain to count. */
  const worthwhile = (f: number, value: number): number =>
    WORTHWHILE * Math.max(Math.abs(value), OF_SPAN * (high[f]!.figures[f]! - low[f]!.figures[f]!))

  const half = (from: Known<T>): Wanted<T> => ({ from, phase: from.phase + width(from) / 2 })

  /** Where more extreme figures are to be looked for: at the vertices of all parabolas that promise any. */
  const vertices = (): Wanted<T>[] => {
    const wanted: Wanted<T>[] = []
    for (const own of all()) {
      const { before, after, settled } = own
      if (settled?.before === before && settled.after === after) continue
      const already = wanted.length
      for (let f = 0; f < low.length; f++) {
        const next = vertexOf(own, f)
        if (next && !gapAfter(next.from).held) wanted.push(next)
      }
      // Extremes only grow: what promises nothing more now never will.
      if (wanted.length === already) own.settled = { before, after }
    }
    return wanted
  }

  /** The vertex of the parabola through a figure and its neighbours; null where it promises nothing. */
  const vertexOf = (middle: Known<T>, f: number): Wanted<T> | null => {
    const { before, after } = middle
    const y = middle.figures[f]!
    const y0 = (gapAfter(before).held?.second ?? before.figures)[f]! - y
    const y1 = (gapAfter(middle).held?.first ?? after.figures)[f]! - y
    const sign = y0 <= 0 && y1 <= 0 ? 1 : y0 >= 0 && y1 >= 0 ? -1 : 0
    if (sign === 0 || !Number.isFinite(y0) || !Number.isFinite(y1)) return null
    const x0 = -width(before)
    const x1 = width(middle)
    if (x1 - x0 < 2 * CLOSEST) return null
    // y0 = a·x0² + b·x0, y1 = a·x1² + b·x1.
    const a = (y1 / x1 - y0 / x0) / (x1 - x0)
    if (a === 0) return null
    const b = y0 / x0 - a * x0
    const x = Math.min(x1 / 2, Math.max(x0 / 2, -b / (2 * a)))
    const best = (sign > 0 ? high : low)[f]!.figures[f]!
    const enough = worthwhile(f, best)
    if (sign * (y + a * x * x + b * x - best) > enough)
      return x < 0
        ? { from: before, phase: before.phase + (x - x0) }
        : { from: middle, phase: middle.phase + x }
    // Where the sides, continued to the neighbours, promise much more than the parabola, the extreme is sharper than it tells.
    const wide = Math.max(x1, -x0)
    const steepest = Math.max(
      Math.abs(y0) * Math.min(CONTINUED, wide / -x0),
      Math.abs(y1) * Math.min(CONTINUED, wide / x1),
    )
    const sharp = sign * (y - best) + steepest > (STEEP / WORTHWHILE) * enough
    return sharp ? half(Math.abs(x0) > x1 ? before : middle) : null
  }

  /** Midway between two settings of which one would come to something more extreme than is known, or close to it. */
  const openJumps = (): Wanted<T>[] => {
    if (!jumps) return []
    const open = all().filter((own) => {
      const gap = gapAfter(own)
      if (gap.done) return false
      const margin = width(own) > jumps.downTo ? jumps.near : null
      gap.done = width(own) < CLOSEST_JUMP || !low.some((_, f) => reaches(gap.held!, f, margin))
      return !gap.done
    })
    return open.map(half)
  }
  const reaches = ({ first, second }: Held, f: number, margin: number | null): boolean => {
    const least = low[f]!.figures[f]!
    const most = high[f]!.figures[f]!
    const span = most - least
    if (!(span > worthwhile(f, most))) return false
    const beyond = (value: number) => (margin === null ? worthwhile(f, value) : -margin * span)
    return (
      Math.max(first[f]!, second[f]!) > most + beyond(most) ||
      Math.min(first[f]!, second[f]!) < least - beyond(least)
    )
  }

  return { add, all, last: () => start?.before ?? null, vertices, openJumps }
}
