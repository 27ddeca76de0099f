import type { StationEvent } from '@saltline/contract'
import { decimals, swrOf, type YearPoint, type YearSeries } from '@saltline/core'
import { useCallback, useMemo } from 'react'
import { chartText, readingTooltip, strong } from '../../ui/chartParts.ts'
import { EChart, type Palette } from '../../ui/EChart.tsx'
import type { MeterJoin } from '../../model/meterJoins.ts'
import { dayText } from '../../model/places.ts'

/** One figure over time: the expected band, the readings, their levels, and what happened. */
export default function YearChart({
  series,
  events,
  joins,
  description,
}: {
  series: YearSeries
  events: readonly StationEvent[]
  joins: readonly MeterJoin[]
  description: string
}) {
  const { levels, subject } = series
  const points = useMemo(() => thinned(series.points), [series])
  const option = useCallback(
    (palette: Palette) => {
      const shown = (v: number) => (subject.kind === 'swr' ? swrOf(v) : v)
      const unit = subject.kind === 'swr' ? '' : '\u00a0dB'
      const banded = points.filter(({ low, high }) => low !== null && high !== null)
      const expected = points.flatMap(({ at, expected: e }) => (e === null ? [] : [[at, shown(e)]]))
      const first = points[0]!.at
      const last = points.at(-1)!.at
      return {
        animation: false,
        grid: { left: 44, right: 14, top: 22, bottom: 22 },
        tooltip: readingTooltip(palette, (i) => {
          const point = points[i]
          if (!point) return []
          return [
            dayText(point.at),
            strong(`${decimals(shown(point.value), 2)}${unit}`),
            ...(point.expected === null
              ? []
              : [`expected ${decimals(shown(point.expected), 2)}${unit}`]),
          ]
        }),
        xAxis: {
          type: 'time',
          min: first - (last - first) * 0.02,
          max: last + (last - first) * 0.02 + 1,
          axisLabel: { ...chartText(palette), hideOverlap: true },
          axisLine: { lineStyle: { color: palette.rule } },
          splitLine: { show: false },
        },
        yAxis: {
          type: 'value',
          scale: true,
          splitNumber: 3,
          axisLabel: {
            ...chartText(palette),
            formatter: (v: number) => decimals(v, subject.kind === 'swr' ? 2 : 1),
          },
          splitLine: { lineStyle: { color: palette.rule } },
        },
        series: [
          {
            type: 'line',
            data: points.map(({ at, value }) => [at, shown(value)]),
            symbol: 'circle',
            symbolSize: 5,
            lineStyle: { width: 0 },
            itemStyle: { color: palette.ink },
            z: 4,
            markLine: {
              silent: true,
              symbol: 'none',
              lineStyle: { color: palette.heat, type: 'solid', width: 1 },
              label: {
                show: true,
                position: 'end',
                distance: 4,
                formatter: '{b}',
                color: palette.heat,
                fontFamily: 'B612',
                fontSize: 12,
                width: 112,
                overflow: 'truncate',
              },
              data: [
                ...events.map(({ on, text }) => ({ xAxis: Date.parse(on), name: text })),
                ...joins.map(({ at, to }) => ({
                  xAxis: at,
                  name: `meter: ${to}`,
                  lineStyle: { type: 'dotted' },
                })),
              ].filter(({ xAxis }) => xAxis >= first && xAxis <= last),
            },
          },
          ...levels.map(({ from, to, level }) => ({
            type: 'line',
            silent: true,
            symbol: 'none',
            lineStyle: { color: palette.ink, width: 1.5 },
            data: [
              [series.points[from]!.at, shown(level)],
              [series.points[to - 1]!.at, shown(level)],
            ],
            z: 3,
          })),
          {
            type: 'line',
            silent: true,
            symbol: 'none',
            data: expected,
            lineStyle: { color: palette.tide, width: 1, type: 'dashed' },
          },
          // The band: its lower edge unseen, its height laid on top.
          ...['low', 'height'].map((part) => ({
            type: 'line',
            silent: true,
            symbol: 'none',
            stack: 'band',
            stackStrategy: 'all',
            lineStyle: { width: 0 },
            ...(part === 'height' && { areaStyle: { color: palette['tide-fill'], opacity: 0.6 } }),
            data: banded.map(({ at, low, high }) => [
              at,
              part === 'low' ? shown(low!) : shown(high!) - shown(low!),
            ]),
            z: 1,
          })),
        ],
      }
    },
    [points, series, levels, subject, events, joins],
  )
  return <EChart option={option} description={`${description}, ${series.points.length} sessions`} />
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
