/** What is drawn over the lines: marks through the chart, and the names of curves where they are clear of each other. */
import type { Chart, Mark } from './chart.ts'
import { FONT, type Palette, pointsOf } from './option.ts'
import {
  type Box,
  crossed,
  HEIGHT,
  LETTER,
  overlap,
  placeLabels,
  type Point,
} from './placeLabels.ts'

const SVG = 'http://www.w3.org/2000/svg'
/** No more of a curve is looked at when its name is placed. */
const LOOKED_AT = 80

/** Where a value stands in the drawing, px. */
export type ToPixel = (axis: number, x: number, y: number) => Point

const svg = (name: string, attributes: Record<string, string | number>): SVGElement => {
  const element = document.createElementNS(SVG, name)
  for (const [key, value] of Object.entries(attributes)) element.setAttribute(key, String(value))
  return element
}

const dashOf = (dash: Mark['dash'], width: number): string => {
  if (dash === 'dashed') return `${width * 4} ${width * 3}`
  if (dash === 'dotted') return `${width} ${width * 2}`
  return typeof dash === 'object' ? dash.join(' ') : ''
}

/** In the middle of its box. */
function text(label: string, { left, top, width }: Box, colour: string, palette: Palette) {
  const element = svg('text', {
    ...{ x: left + width / 2, y: top + 12, fill: colour, 'text-anchor': 'middle' },
    ...{ stroke: palette.sheet, 'stroke-width': 3, 'paint-order': 'stroke' },
    ...{ 'font-family': FONT.fontFamily, 'font-size': FONT.fontSize },
  })
  element.textContent = label
  return element
}

/** The curves of a drawing, as they run in it, px. */
function runsOf(chart: Chart, plots: readonly Box[], toPixel: ToPixel, panel: number) {
  const plot = plots[panel]!
  return chart.curves
    .filter(({ axis = 0 }) => !chart.below || axis === panel)
    .map((curve) => {
      const points = pointsOf(curve, chart.x)
      const step = Math.ceil(points.length / LOOKED_AT)
      const line = points.flatMap(([x, y], i): Point[] => {
        if (y === null || i % step !== 0) return []
        const [px, py] = toPixel(curve.axis ?? 0, x, y)
        return py < plot.top || py > plot.top + plot.height ? [] : [[px, py]]
      })
      return { curve, line }
    })
}

/**
 * A label of a mark: over the end of one that stands, or beside it where another stands there; of one that lies, where it meets
 * least.
 */
function markLabel(
  mark: Mark,
  [px, py]: Point,
  plot: Box,
  { lines, taken }: { lines: readonly Point[][]; taken: readonly Box[] },
): Box {
  const width = (mark.label ?? '').length * LETTER
  const right = plot.left + plot.width
  if (mark.x !== undefined) {
    const middle = Math.min(px, right - width / 2) - width / 2
    const places = [middle, Math.min(px + 4, right - width), Math.max(px - width - 4, plot.left)]
    const boxes = [plot.top - HEIGHT - 2, plot.top + 2, plot.top + HEIGHT + 2].flatMap((top) =>
      places.map((left) => ({ left, top, width, height: HEIGHT })),
    )
    return boxes.find((box) => !taken.some((other) => overlap(box, other))) ?? boxes[0]!
  }
  const boxes = [right - width - 4, plot.left + 4].flatMap((left) =>
    [py + 2, py - HEIGHT - 2].map((top) => ({ left, top, width, height: HEIGHT })),
  )
  return boxes.reduce((best, box) => (crossed(box, lines) < crossed(best, lines) ? box : best))
}

/** @param plots of each drawing, px */
export function overlayOf(
  chart: Chart,
  toPixel: ToPixel,
  plots: readonly Box[],
  palette: Palette,
): SVGElement[] {
  return plots.flatMap((plot, panel) => {
    const drawn: SVGElement[] = []
    const taken: Box[] = []
    const runs = runsOf(chart, plots, toPixel, panel)
    const lines: Point[][] = runs.map(({ line }) => [...line])
    for (const mark of chart.marks ?? []) {
      const across = mark.x === undefined
      // What lies across belongs to the first axis.
      if (across && panel > 0) continue
      const [px, py] = toPixel(panel, mark.x ?? 0, mark.y ?? 0)
      const right = plot.left + plot.width
      const foot = plot.top + plot.height
      if (across ? py < plot.top || py > foot : px < plot.left - 0.5 || px > right + 0.5) continue
      const [x1, y1, x2, y2] = across ? [plot.left, py, right, py] : [px, plot.top, px, foot]
      const label =
        mark.label === undefined || panel > 0
          ? null
          : markLabel(mark, [px, py], plot, { lines, taken })
      lines.push([
        [x1, y1],
        [x2, y2],
      ])
      const colour = palette[mark.colour]
      const dashes = dashOf(mark.dash, 1.2)
      drawn.push(
        svg('line', {
          x1,
          y1,
          x2,
          y2,
          stroke: colour,
          'stroke-width': 1.2,
          'stroke-dasharray': dashes,
        }),
      )
      if (!label) continue
      taken.push(label)
      drawn.push(text(mark.label!, label, colour, palette))
    }
    const named = runs.flatMap(({ curve, line }) =>
      curve.labelled ? [{ name: curve.name, line }] : [],
    )
    for (const label of placeLabels(named, plot, taken, lines)) {
      const { curve } = runs.find((run) => run.curve.name === label.name)!
      drawn.push(text(label.name, label, palette[curve.colour], palette))
    }
    return drawn
  })
}
