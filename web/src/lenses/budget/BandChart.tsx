import { type BandSweep, formatFrequency, formatPower, formatSwr } from '@saltline/core'
import { LineChart } from 'echarts/charts'
import {
  GridComponent,
  MarkLineComponent,
  MarkPointComponent,
  TooltipComponent,
} from 'echarts/components'
import { init, use as register } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { useEffect, useMemo, useRef } from 'react'
import { isNight, usePreferences } from '../../app/preferences.ts'
import { useWidth } from '../../parts/useWidth.ts'
import { SWR_AXIS_TOP } from './swrAxis.ts'

register([
  LineChart,
  GridComponent,
  MarkLineComponent,
  MarkPointComponent,
  TooltipComponent,
  SVGRenderer,
])

type Palette = Record<'ink' | 'muted' | 'rule' | 'tide' | 'tide-fill' | 'sheet', string>

/** The theme's colours for a drawing that cannot use style sheets. */
function readPalette(_night: boolean): Palette {
  const style = getComputedStyle(document.documentElement)
  const names = ['ink', 'muted', 'rule', 'tide', 'tide-fill', 'sheet'] as const
  return Object.fromEntries(
    names.map((name) => [name, style.getPropertyValue(`--${name}`).trim()]),
  ) as Palette
}

/** Watts as a filled curve, both SWRs as lines, the channel as the cursor. */
export default function BandChart({
  sweep,
  channelHz,
  description,
}: {
  sweep: BandSweep
  channelHz: number
  description: string
}) {
  const [box, width] = useWidth<HTMLDivElement>()
  const chart = useRef<ReturnType<typeof init> | null>(null)
  usePreferences()
  const night = isNight()

  useEffect(() => {
    if (!box.current) return
    const own = init(box.current, undefined, { renderer: 'svg' })
    chart.current = own
    return () => {
      own.dispose()
      chart.current = null
    }
  }, [box])

  useEffect(() => {
    chart.current?.resize()
  }, [width])

  // Asking for a style makes the browser lay the page out, so it is done once a theme.
  const palette = useMemo(() => readPalette(night), [night])

  // Drawn in a frame of its own: the curve must not hold up the figure that is being typed.
  useEffect(() => {
    const frame = requestAnimationFrame(() =>
      chart.current?.setOption(optionOf(sweep, channelHz, palette), { notMerge: true }),
    )
    return () => cancelAnimationFrame(frame)
  }, [sweep, channelHz, palette, width])

  return (
    <div
      ref={box}
      role="img"
      aria-label={description}
      className="absolute inset-0 contain-strict"
    />
  )
}

function optionOf(sweep: BandSweep, channelHz: number, palette: Palette) {
  const { ink, muted, rule, tide, sheet } = palette
  const n = sweep.frequencyHz.length
  const mhz = Array.from(sweep.frequencyHz, (hz) => hz / 1e6)
  const points = (values: Float64Array) =>
    mhz.map((f, i) => [f, Number.isFinite(values[i]!) ? values[i]! : null])
  const swrs = [...sweep.swrAtTransmitter, ...sweep.swrAtAntenna].filter((s) => s <= SWR_AXIS_TOP)
  const swrTop = Math.max(3, Math.ceil(Math.max(1, ...swrs)))
  const text = { color: muted, fontFamily: 'B612', fontSize: 12 }
  const line = (name: string, values: Float64Array, dashed: boolean, labelIndex: number) => ({
    name,
    type: 'line',
    yAxisIndex: 1,
    showSymbol: false,
    data: points(values),
    lineStyle: { color: ink, width: 1.6, type: dashed ? 'dashed' : 'solid' },
    itemStyle: { color: ink },
    // Named on the curve itself.
    markPoint: {
      symbol: 'circle',
      symbolSize: 0.1,
      silent: true,
      label: {
        formatter: name,
        position: values[labelIndex]! > swrTop * 0.8 ? 'bottom' : 'top',
        color: ink,
        fontFamily: 'B612',
        fontSize: 12,
        textBorderColor: sheet,
        textBorderWidth: 3,
      },
      data: values[labelIndex]! <= swrTop ? [{ coord: [mhz[labelIndex], values[labelIndex]] }] : [],
    },
  })
  return {
    animation: false,
    textStyle: { fontFamily: 'B612' },
    grid: { left: 38, right: 30, top: 26, bottom: 38 },
    tooltip: {
      trigger: 'axis',
      backgroundColor: sheet,
      borderColor: rule,
      textStyle: { color: ink, fontFamily: 'B612', fontSize: 13 },
      axisPointer: { lineStyle: { color: muted } },
      formatter: (items: { dataIndex: number }[]) => {
        const i = items[0]?.dataIndex ?? 0
        return [
          `<b>${formatFrequency(sweep.frequencyHz[i]!)}</b>`,
          `${formatPower(sweep.antennaW[i]!)} at the antenna`,
          `SWR ${formatSwr(sweep.swrAtTransmitter[i]!)} at the radio`,
          `SWR ${formatSwr(sweep.swrAtAntenna[i]!)} at the antenna`,
        ].join('<br>')
      },
    },
    xAxis: {
      type: 'value',
      min: mhz[0],
      max: mhz[mhz.length - 1],
      name: 'MHz',
      nameLocation: 'middle',
      nameGap: 24,
      nameTextStyle: text,
      axisLabel: { ...text, showMinLabel: false, showMaxLabel: false, hideOverlap: true },
      axisLine: { lineStyle: { color: rule } },
      axisTick: { lineStyle: { color: rule } },
      splitLine: { show: false },
    },
    yAxis: [
      {
        type: 'value',
        name: 'watts',
        min: 0,
        nameTextStyle: { ...text, color: tide, align: 'right' },
        axisLabel: text,
        splitLine: { lineStyle: { color: rule } },
        splitNumber: 4,
      },
      {
        type: 'value',
        name: 'SWR',
        min: 1,
        max: swrTop,
        interval: 1,
        nameTextStyle: text,
        axisLabel: text,
        splitLine: { show: false },
      },
    ],
    series: [
      ...(sweep.antennaWHigh.some((high, i) => high - sweep.antennaWLow[i]! > 0.01 * high)
        ? rangeSeries(points(sweep.antennaWLow), points(sweep.antennaWHigh), tide)
        : []),
      {
        name: 'watts at the antenna',
        type: 'line',
        showSymbol: false,
        data: points(sweep.antennaW),
        lineStyle: { color: tide, width: 2.5 },
        itemStyle: { color: tide },
        areaStyle: { color: palette['tide-fill'], opacity: 0.55 },
        markLine: {
          silent: true,
          symbol: 'none',
          lineStyle: { color: ink, type: 'solid', width: 1.2 },
          label: {
            formatter: String(channelHz / 1e6),
            color: ink,
            fontFamily: 'B612',
            fontSize: 12,
          },
          data: [{ xAxis: channelHz / 1e6 }],
        },
      },
      line('SWR at the radio', sweep.swrAtTransmitter, false, Math.round(n * 0.24)),
      line('SWR at the antenna', sweep.swrAtAntenna, true, Math.round(n * 0.76)),
    ],
  }
}

/** The two bounds where only the antenna's SWR is known. */
const rangeSeries = (low: (number | null)[][], high: (number | null)[][], tide: string) =>
  [low, high].map((data) => ({
    type: 'line',
    showSymbol: false,
    silent: true,
    data,
    lineStyle: { color: tide, width: 1, type: 'dotted' },
  }))
