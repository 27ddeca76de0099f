import {
  type BandSweep,
  formatFrequency,
  formatPower,
  formatSwr,
  type PowerUnit,
} from '@saltline/core'
import { useCallback } from 'react'
import { useUnits } from '../../platform/preferences.ts'
import { EChart, type Palette } from '../../ui/EChart.tsx'
import {
  channelCursor,
  chartText,
  curveName,
  frequencyAxis,
  readingTooltip,
  wattsAxis,
  strong,
} from '../../ui/chartParts.ts'
import { SWR_AXIS_TOP } from './swrAxis.ts'

/** Watts as a filled curve, both SWRs as lines, the channel as the cursor. */
export default function BandChart({
  sweep,
  channelHz,
  antennaSwr,
  description,
}: {
  sweep: BandSweep
  channelHz: number
  /** Whether the SWR at the antenna means anything: it does not right behind a tuner. */
  antennaSwr: boolean
  description: string
}) {
  const { power } = useUnits()
  const option = useCallback(
    (palette: Palette) => optionOf(sweep, channelHz, antennaSwr, palette, power),
    [sweep, channelHz, antennaSwr, power],
  )
  return <EChart option={option} description={description} />
}

function optionOf(
  sweep: BandSweep,
  channelHz: number,
  antennaSwr: boolean,
  palette: Palette,
  power: PowerUnit,
) {
  const { ink, tide } = palette
  const n = sweep.frequencyHz.length
  const mhz = Array.from(sweep.frequencyHz, (hz) => hz / 1e6)
  const points = (values: Float64Array) =>
    mhz.map((f, i) => [f, Number.isFinite(values[i]!) ? values[i]! : null])
  const swrs = [...sweep.swrAtTransmitter, ...(antennaSwr ? sweep.swrAtAntenna : [])].filter(
    (swr) => swr <= SWR_AXIS_TOP,
  )
  const swrTop = Math.max(3, Math.ceil(Math.max(1, ...swrs)))
  const text = chartText(palette)
  const line = (name: string, values: Float64Array, dashed: boolean, labelIndex: number) => ({
    name,
    type: 'line',
    yAxisIndex: 1,
    showSymbol: false,
    data: points(values),
    lineStyle: { color: ink, width: 1.6, type: dashed ? 'dashed' : 'solid' },
    itemStyle: { color: ink },
    markPoint: curveName(
      name,
      values[labelIndex]! <= swrTop ? [mhz[labelIndex]!, values[labelIndex]!] : null,
      palette,
      ink,
      values[labelIndex]! > swrTop * 0.8 ? 'bottom' : 'top',
    ),
  })
  return {
    animation: false,
    textStyle: { fontFamily: 'B612' },
    grid: { left: 38, right: 30, top: 26, bottom: 38 },
    tooltip: readingTooltip(palette, (i) => [
      strong(formatFrequency(sweep.frequencyHz[i]!)),
      `${formatPower(sweep.antennaW[i]!, power)} at the antenna`,
      `SWR ${formatSwr(sweep.swrAtTransmitter[i]!)} at the radio`,
      ...(antennaSwr ? [`SWR ${formatSwr(sweep.swrAtAntenna[i]!)} at the antenna`] : []),
    ]),
    xAxis: frequencyAxis(mhz, palette),
    yAxis: [
      wattsAxis(palette, tide),
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
          ...channelCursor(channelHz, palette),
          label: { ...text, formatter: String(channelHz / 1e6), color: ink },
        },
      },
      line('SWR at the radio', sweep.swrAtTransmitter, false, Math.round(n * 0.24)),
      ...(antennaSwr
        ? [line('SWR at the antenna', sweep.swrAtAntenna, true, Math.round(n * 0.76))]
        : []),
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
