/** Where figures stand beside the band's edge without touching it or each other. */

export interface Box {
  left: number
  top: number
  width: number
  height: number
}

/** A figure to place at a plane: where the plane is, px, and how much room the figure takes. */
export interface Label {
  along: number
  width: number
  height: number
}

export interface Surface {
  /** The band's upper edge from left to right: at least two points, px. */
  edge: readonly (readonly [x: number, y: number])[]
  /** Where the band ends below, and the highest that anything may stand. */
  floor: number
  ceiling: number
  right: number
}

/** Between a figure and the edge, and between two figures, px. */
const GAP = 5
/** Between a plane's mark and its figure, px. */
const BESIDE = 8

const touches = (a: Box, b: Box): boolean =>
  a.left < b.left + b.width + GAP &&
  b.left < a.left + a.width + GAP &&
  a.top < b.top + b.height &&
  b.top < a.top + a.height

/** Highest and lowest y of the edge over a stretch. */
function extremes(
  edge: Surface['edge'],
  from: number,
  to: number,
): [highest: number, lowest: number] {
  let highest = Infinity
  let lowest = -Infinity
  const take = (y: number) => {
    highest = Math.min(highest, y)
    lowest = Math.max(lowest, y)
  }
  for (let i = 0; i < edge.length; i++) {
    const [x, y] = edge[i]!
    if (x >= from && x <= to) take(y)
    const next = edge[i + 1]
    if (!next) break
    for (const at of [from, to])
      if (at > x && at < next[0]) take(y + ((next[1] - y) * (at - x)) / (next[0] - x))
  }
  return [highest, lowest]
}

/**
 * Places figures beside the edge: on the antenna side of their plane below the edge, else above it, else the same on the
 * transmitter side. What has no room is left out.
 *
 * @param labels the most important first
 * @param taken what stands there already
 * @returns a box for each label, or null
 */
export function placeLabels(
  labels: readonly Label[],
  { edge, floor, ceiling, right }: Surface,
  taken: readonly Box[],
): (Box | null)[] {
  const all = [...taken]
  const leftmost = edge[0]![0]
  return labels.map(({ along, width, height }) => {
    const sides = [along + BESIDE, along - BESIDE - width]
    for (const left of sides) {
      if (left < leftmost || left + width > right) continue
      // The mark of the plane stands on the edge too.
      const [highest, lowest] = extremes(
        edge,
        Math.min(left, along) - GAP,
        Math.max(left + width, along) + GAP,
      )
      const below = { left, top: lowest + GAP, width, height }
      const above = { left, top: highest - GAP - height, width, height }
      for (const box of [below, above]) {
        const inside = box.top >= ceiling && box.top + height <= floor - 2
        if (inside && !all.some((other) => touches(box, other))) {
          all.push(box)
          return box
        }
      }
    }
    return null
  })
}
