/** A chart as data: what is drawn, on which axes, and how a point is read. How it is painted is `LineChart`'s. */

import type { Source } from '../../platform/store.ts'

/** A colour of the theme. */
export const colours = [
  'ink',
  'muted',
  'rule',
  'tide',
  'tide-fill',
  'heat',
  'returned',
  'sheet',
] as const
export type Colour = (typeof colours)[number]

export type Dash = 'solid' | 'dashed' | 'dotted' | readonly number[]

export interface Curve {
  name: string
  /** By point; what is no finite number is a gap. */
  y: ArrayLike<number>
  /** Of its own where it has other points than the chart. */
  x?: ArrayLike<number>
  colour: Colour
  /** px; 2 where it is not given, 0 for dots alone. */
  width?: number
  dash?: Dash
  /** Diameter of a dot at each point, px. */
  dots?: number
  /** Filled down to the axis. */
  fill?: boolean
  steps?: boolean
  /** Which of the vertical axes; the first where it is not given. */
  axis?: number
  /** Written on the curve, where there is room. */
  labelled?: boolean
  /** How its value is read where the pointer is; not at all without. */
  read?: (value: number, index: number) => string
  /** Its column in the table. */
  column?: { head: string; text: (value: number) => string }
}

/** Between two curves of the same points. */
export interface Area {
  x: ArrayLike<number>
  low: ArrayLike<number>
  high: ArrayLike<number>
  colour: Colour
}

export interface Axis {
  name?: string
  /** What it counts; plain numbers where it is not given. */
  scale?: 'log' | 'time'
  min?: number
  max?: number
  /** Between two lines across. */
  interval?: number
  /** Starts near the least value instead of at 0. */
  free?: boolean
  format?: (value: number) => string
  /** Of the name; the muted one where it is not given. */
  colour?: Colour
  /** No lines across: the first axis has them. */
  bare?: boolean
}

/** A line through the whole chart: a channel, a limit, something that happened. */
export interface Mark {
  x?: number
  y?: number
  label?: string
  colour: Colour
  dash?: Dash
}

export interface Chart {
  /** What it shows, for who cannot see it. */
  description: string
  /** Of all points, in the unit of the axis. */
  x: ArrayLike<number>
  xAxis: Axis
  /** One or two on one drawing; with `below`, the second has a drawing of its own, under the first. */
  yAxes: readonly Axis[]
  below?: boolean
  curves: readonly Curve[]
  areas?: readonly Area[]
  marks?: readonly Mark[]
  /** What stands over the figures of a point. */
  headOf?: (index: number) => string
  /** Where a curve is read: at the pointer's place along the axis, or at the point that is pointed at. */
  readAt?: 'place' | 'point'
  /** The head of the first column in the table. */
  xColumn?: string
}

/** A chart that changes by itself, so that nothing but the drawing follows. */
export type ChartSource = Source<Chart | null>

export const megahertz = (frequencyHz: ArrayLike<number>): Float64Array =>
  Float64Array.from(frequencyHz, (hz) => hz / 1e6)

/** From the first to the last of the points, MHz. */
export const frequencyAxis = (mhz: ArrayLike<number>): Axis => ({
  name: 'MHz',
  min: mhz[0]!,
  max: mhz[mhz.length - 1]!,
})

/** Where the channel is. */
export const channelMark = (frequencyHz: number): Mark => ({ x: frequencyHz / 1e6, colour: 'ink' })

/** Lines of what is read at a point: its head first. */
export function readingOf(chart: Chart, index: number): string[] {
  return [
    ...(chart.headOf ? [chart.headOf(index)] : []),
    ...chart.curves.flatMap(({ read, y, x }) => {
      // A curve with points of its own is read by itself.
      if (!read || x || !Number.isFinite(y[index])) return []
      return read(y[index]!, index)
    }),
  ]
}

/** Indices of a dozen and one points, spread over all. */
export const tableRows = (length: number): number[] =>
  Array.from({ length: 13 }, (_, i) => Math.round((i * (length - 1)) / 12))
