/** What a chart says where the pointer is: all curves at that place, in a box beside it. */
import { type Chart, readingOf } from './chart.ts'
import { type Palette, pointsOf } from './option.ts'
import type { ToPixel } from './overlay.ts'
import type { Box, Point } from './placeLabels.ts'

/** Between the pointer's place and the box, px. */
const GAP = 12

/**
 * The point of a chart that the pointer is at: the nearest along the axis, or the nearest of all.
 *
 * @param at of each point of the first curve, px; null where it is a gap
 */
export function pointedAt(chart: Chart, at: readonly (Point | null)[], [x, y]: Point): number {
  let best = 0
  let least = Infinity
  at.forEach((point, i) => {
    if (!point) return
    const [dx, dy] = [point[0] - x, chart.readAt === 'point' ? point[1] - y : 0]
    const away = dx * dx + dy * dy
    if (away < least) [best, least] = [i, away]
  })
  return best
}

/** What is drawn where the pointer is: a line up the drawing, and the box; nothing outside of the drawing. */
export function hoverOf(
  { chart, toPixel, plots }: { chart: Chart; toPixel: ToPixel; plots: readonly Box[] },
  pointer: Point,
  palette: Palette,
): HTMLElement[] {
  const [first] = chart.curves
  const [upper] = plots
  const within = plots.some(
    ({ left, top, width, height }) =>
      pointer[0] >= left &&
      pointer[0] <= left + width &&
      pointer[1] >= top &&
      pointer[1] <= top + height,
  )
  if (!first || !upper || !within) return []
  const at = pointsOf(first, chart.x).map(([x, y]) =>
    chart.readAt === 'point' && y === null ? null : toPixel(0, x, y ?? 0),
  )
  const index = pointedAt(chart, at, pointer)
  const point = at[index]
  if (!point || readingOf(chart, index).length === 0) return []
  const foot = plots.at(-1)!.top + plots.at(-1)!.height
  const line = document.createElement('div')
  line.className = 'absolute w-px'
  line.style.cssText += `left:${point[0]}px;top:${upper.top}px;height:${foot - upper.top}px;background:${palette.muted}`
  const all = { ...upper, height: foot - upper.top }
  return [line, hoverBox(chart, index, [point[0], pointer[1]], all)]
}

/** The box with what is read at a point, as text: a name of the operator's is never markup. */
function hoverBox(chart: Chart, index: number, [x, y]: Point, plot: Box): HTMLElement {
  const box = document.createElement('div')
  box.className =
    'absolute z-10 rounded border border-rule bg-sheet px-2 py-1 text-xs whitespace-nowrap shadow-sm'
  for (const [i, line] of readingOf(chart, index).entries()) {
    const row = document.createElement('div')
    row.textContent = line
    if (i === 0) row.style.fontWeight = 'bold'
    box.append(row)
  }
  // On the side where there is more room, and upward in the lower half: what leaves the chart is not seen.
  const right = x - plot.left < plot.width / 2
  const down = y - plot.top < plot.height / 2
  box.style.left = `${right ? x + GAP : x - GAP}px`
  box.style.top = `${down ? Math.max(0, y - 20) : y + 20}px`
  box.style.transform = `translate(${right ? '0' : '-100%'}, ${down ? '0' : '-100%'})`
  return box
}
