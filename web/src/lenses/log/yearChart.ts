import { dayText, type StationEvent } from '@saltline/contract'
import type { YearPoint, YearRecord } from '@saltline/core'
import type { YearQuantity } from '../../model/yearWords.ts'
import type { Chart } from '../../ui/chart/chart.ts'
import type { MeterJoin } from '../../model/meterJoins.ts'

/** One figure over time: the expected band, the readings, their levels, and what happened. */
export function yearChart(
  series: YearRecord,
  quantity: YearQuantity,
  events: readonly StationEvent[],
  joins: readonly MeterJoin[],
  description: string,
): Chart {
  const { levels } = series
  const points = thinned(series.points)
  const shown = (v: number | null) => (v === null ? NaN : quantity.shown(v))
  const banded = points.filter(({ low, high }) => low !== null && high !== null)
  const first = points[0]!.at
  const last = points.at(-1)!.at
  const beside = (last - first) * 0.02
  return {
    description: `${description}, ${series.points.length} ${quantity.by === 'sweeps' ? 'sweeps' : 'sessions'}`,
    x: points.map(({ at }) => at),
    xAxis: { scale: 'time', min: first - beside, max: last + beside + 1 },
    headOf: (i) => dayText(points[i]!.at),
    yAxes: [{ free: true, format: quantity.axis }],
    curves: [
      {
        name: quantity.by,
        y: points.map(({ value }) => shown(value)),
        ...{ colour: 'ink', width: 0, dots: 5 },
        read: (_, i) => quantity.figure(points[i]!.value),
      },
      {
        name: 'expected',
        y: points.map(({ expected }) => shown(expected)),
        ...{ colour: 'tide', width: 1, dash: 'dashed' },
        read: (_, i) => `expected ${quantity.figure(points[i]!.expected!)}`,
      },
      ...levels.map(({ from, to, level }) => ({
        name: 'level',
        x: [series.points[from]!.at, series.points[to - 1]!.at],
        y: [shown(level), shown(level)],
        ...{ colour: 'ink' as const, width: 1.5 },
      })),
    ],
    areas: [
      {
        x: banded.map(({ at }) => at),
        low: banded.map(({ low }) => shown(low)),
        high: banded.map(({ high }) => shown(high)),
        colour: 'tide-fill',
      },
    ],
    marks: [
      ...events.map(({ on, text }) => ({
        x: Date.parse(on),
        label: text,
        colour: 'heat' as const,
      })),
      ...joins.map(({ at, to }) => ({
        x: at,
        label: `meter: ${to}`,
        ...{ colour: 'heat' as const, dash: 'dotted' as const },
      })),
    ].filter(({ x }) => x >= first && x <= last),
  }
}

/** More than a chart has room for. */
const MOST_DRAWN = 500

/** A long record: of every few neighbours the one in the middle. */
function thinned(points: readonly YearPoint[]): readonly YearPoint[] {
  const step = Math.ceil(points.length / MOST_DRAWN)
  if (step === 1) return points
  return Array.from({ length: Math.ceil(points.length / step) }, (_, i) => {
    const few = points.slice(i * step, (i + 1) * step).sort((a, b) => a.value - b.value)
    return few[few.length >> 1]!
  })
}
