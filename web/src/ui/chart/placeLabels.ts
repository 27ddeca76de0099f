/** Where the names of curves go: on the curve, clear of the other names and curves. */

export type Point = readonly [x: number, y: number]

export interface Named {
  name: string
  /** In px, from left to right; gaps left out. */
  line: readonly Point[]
}

export interface Box {
  left: number
  top: number
  width: number
  height: number
}

export interface Placed extends Box {
  name: string
}

/** Of a line of text, px. */
export const HEIGHT = 16
/** About as wide as a letter at 12 px. */
export const LETTER = 6.8
/** Between a curve and its name. */
const GAP = 3
/** Where along the curve a name may stand: the middle first, the ends last. */
const PLACES = [0.5, 0.4, 0.6, 0.3, 0.7, 0.2, 0.8, 0.1, 0.9, 0.05, 0.95]

export const overlap = (a: Box, b: Box): boolean =>
  a.left < b.left + b.width &&
  b.left < a.left + a.width &&
  a.top < b.top + b.height &&
  b.top < a.top + a.height

/** How much of the lines lies in a box, px. */
export const crossed = (box: Box, lines: readonly (readonly Point[])[]): number =>
  lines.reduce(
    (sum, line) =>
      sum + line.slice(1).reduce((own, point, i) => own + lengthWithin(box, line[i]!, point), 0),
    0,
  )

/** How much of the way from one point to another lies in a box, px: cut at each of its sides. */
function lengthWithin(box: Box, [x0, y0]: Point, [x1, y1]: Point): number {
  const [dx, dy] = [x1 - x0, y1 - y0]
  let [from, to] = [0, 1]
  for (const [d, before, after] of [
    [dx, box.left - x0, box.left + box.width - x0],
    [dy, box.top - y0, box.top + box.height - y0],
  ] as const) {
    if (d === 0) {
      if (before > 0 || after < 0) return 0
      continue
    }
    const [enters, leaves] = d > 0 ? [before / d, after / d] : [after / d, before / d]
    from = Math.max(from, enters)
    to = Math.min(to, leaves)
  }
  return to > from ? (to - from) * Math.hypot(dx, dy) : 0
}

/**
 * @param curves in the order of their weight: the first is given a place first
 * @param plot what a name may not stand outside of, px
 * @param taken what stands there already
 * @param lines all that a name should be clear of, also of curves without one
 * @returns the names that have found a place
 */
export function placeLabels(
  curves: readonly Named[],
  plot: Box,
  taken: readonly Box[] = [],
  lines: readonly (readonly Point[])[] = curves.map(({ line }) => line),
): Placed[] {
  const placed: Placed[] = []
  for (const { name, line } of curves) {
    if (line.length === 0) continue
    const width = name.length * LETTER
    const first = line[0]![0]
    const length = line.at(-1)![0] - first
    let best: Placed | null = null
    let least = Infinity
    for (const [order, share] of PLACES.entries()) {
      const along = first + share * length
      const [x, y] = line.reduce((near, point) =>
        Math.abs(point[0] - along) < Math.abs(near[0] - along) ? point : near,
      )
      const beside = y - HEIGHT / 2
      for (const [k, [left, top]] of [
        [x - width / 2, y - GAP - HEIGHT],
        [x - width / 2, y + GAP],
        [x + 2 * GAP, beside],
        [x - 2 * GAP - width, beside],
      ].entries()) {
        const box = { name, left: left!, top: top!, width, height: HEIGHT }
        const outside =
          box.left < plot.left ||
          box.left + width > plot.left + plot.width ||
          box.top < plot.top ||
          box.top + HEIGHT > plot.top + plot.height
        if (outside || [...placed, ...taken].some((other) => overlap(box, other))) continue
        const cost = crossed(box, lines) + order + k / 2
        if (cost < least) {
          least = cost
          best = box
        }
      }
    }
    if (best) placed.push(best)
  }
  return placed
}
