/** What ECharts is told of a chart: axes, lines, areas. Marks, names and what is read are drawn over it. */
import type { Axis, Chart, Colour, Curve } from './chart.ts'
import type { Box } from './placeLabels.ts'

export type Palette = Record<Colour, string>

export const FONT = { fontFamily: 'B612', fontSize: 12 }

/** Around the drawing, px: the figures and names of its axes. */
const AROUND = { left: 46, top: 26, bottom: 38, right: 16, rightAxis: 32, between: 30 }

/** Where the drawing is, px; two, one under the other, where the second axis has one of its own. */
export function plotsOf({ yAxes, below }: Chart, width: number, height: number): Box[] {
  const { left, top, bottom, right, rightAxis, between } = AROUND
  const second = yAxes.length > 1
  const wide = width - left - (second && !below ? rightAxis : right)
  const high = height - top - bottom
  if (!second || !below) return [{ left, top, width: wide, height: high }]
  const upper = Math.round((high - between) * 0.55)
  return [
    { left, top, width: wide, height: upper },
    { left, top: top + upper + between, width: wide, height: high - between - upper },
  ]
}

/** More letters than this are wider than the room beside the drawing. */
const LONG_NAME = 6

const scaleOf = ({ scale }: Axis) => scale ?? 'value'

function axisOf(axis: Axis, palette: Palette) {
  const text = { color: palette.muted, ...FONT }
  return {
    type: scaleOf(axis),
    name: axis.name,
    ...(axis.min !== undefined && { min: axis.min }),
    ...(axis.max !== undefined && { max: axis.max }),
    ...(axis.interval !== undefined && { interval: axis.interval }),
    nameTextStyle: { ...text, color: palette[axis.colour ?? 'muted'] },
    axisLabel: { ...text, hideOverlap: true, ...(axis.format && { formatter: axis.format }) },
    axisLine: { lineStyle: { color: palette.rule } },
    axisTick: { lineStyle: { color: palette.rule } },
    splitLine: { lineStyle: { color: palette.rule } },
    splitNumber: 4,
  }
}

function xAxesOf({ xAxis, below, yAxes }: Chart, palette: Palette) {
  const bottomOne = {
    ...axisOf(xAxis, palette),
    nameLocation: 'middle',
    nameGap: 24,
    splitLine: { show: xAxis.scale === 'log', lineStyle: { color: palette.rule } },
  }
  // Numbers at the very ends meet those of the other axis.
  if (!xAxis.scale) Object.assign(bottomOne.axisLabel, { showMinLabel: false, showMaxLabel: false })
  if (!below || yAxes.length < 2) return [bottomOne]
  return [
    { ...bottomOne, name: undefined, axisLabel: { show: false }, gridIndex: 0 },
    { ...bottomOne, gridIndex: 1 },
  ]
}

/** The name of an axis over its figures, or, where it is longer than those, from the edge of the chart on. */
const besides = ({ name = '' }: Axis) =>
  name.length > LONG_NAME
    ? { align: 'left', padding: [0, 0, 0, 2 - AROUND.left] }
    : { align: 'right' }

function yAxesOf({ yAxes, below }: Chart, palette: Palette) {
  return yAxes.map((axis, k) => ({
    ...axisOf(axis, palette),
    scale: axis.free ?? false,
    axisLine: { show: false },
    axisTick: { show: false },
    gridIndex: below ? k : 0,
    ...(axis.bare && { splitLine: { show: false } }),
    ...(k === 0 &&
      !below && { nameTextStyle: { ...axisOf(axis, palette).nameTextStyle, ...besides(axis) } }),
  }))
}

export const pointsOf = ({ y, x }: Pick<Curve, 'x' | 'y'>, shared: ArrayLike<number>) =>
  Array.from({ length: y.length }, (_, i): [number, number | null] => [
    (x ?? shared)[i]!,
    Number.isFinite(y[i]) ? y[i]! : null,
  ])

function seriesOf(curve: Curve, k: number, chart: Chart, palette: Palette) {
  const axis = curve.axis ?? 0
  const { width = 2, dots = 0 } = curve
  return {
    id: `curve ${k}`,
    type: 'line',
    xAxisIndex: chart.below ? axis : 0,
    yAxisIndex: axis,
    data: pointsOf(curve, chart.x),
    silent: true,
    showSymbol: dots > 0,
    symbol: dots > 0 ? 'circle' : 'none',
    symbolSize: dots,
    step: curve.steps ? 'end' : false,
    lineStyle: { color: palette[curve.colour], width, type: curve.dash ?? 'solid' },
    itemStyle: { color: palette[curve.colour] },
    ...(curve.fill && { areaStyle: { color: palette['tide-fill'], opacity: 0.55 } }),
    z: dots > 0 ? 4 : 3,
  }
}

/** Between two curves: the lower one unseen, the height laid on top. */
const areasOf = ({ areas = [] }: Chart, palette: Palette) =>
  areas.flatMap(({ x, low, high, colour }, k) =>
    (['low', 'height'] as const).map((part) => ({
      id: `area ${k} ${part}`,
      type: 'line',
      silent: true,
      symbol: 'none',
      stack: `area ${k}`,
      stackStrategy: 'all',
      lineStyle: { width: 0 },
      ...(part === 'height' && { areaStyle: { color: palette[colour], opacity: 0.6 } }),
      data: Array.from({ length: x.length }, (_, i) => [
        x[i]!,
        part === 'low' ? low[i]! : high[i]! - low[i]!,
      ]),
      z: 1,
    })),
  )

/** @param plots as `plotsOf` says */
export function optionOf(chart: Chart, palette: Palette, plots: readonly Box[]) {
  return {
    animation: false,
    textStyle: FONT,
    // Where it is, is settled: names and figures of the axes need not be laid out twice to find it.
    grid: plots.map((plot) => ({ ...plot, outerBoundsMode: 'none' })),
    xAxis: xAxesOf(chart, palette),
    yAxis: yAxesOf(chart, palette),
    series: [
      ...chart.curves.map((curve, k) => seriesOf(curve, k, chart, palette)),
      ...areasOf(chart, palette),
    ],
  }
}
