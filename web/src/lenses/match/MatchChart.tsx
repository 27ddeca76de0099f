import {
  formatFrequency,
  formatPower,
  type TunerPlace,
  tunerPlaces,
  type WorthSweep,
} from '@saltline/core'
import { useCallback } from 'react'
import { EChart, type Palette } from '../../parts/EChart.tsx'
import { placeNames } from './verdict.ts'

const dashes: Record<TunerPlace, 'solid' | 'dashed' | 'dotted'> = {
  none: 'dotted',
  radio: 'dashed',
  feedPoint: 'solid',
}

/** Watts at the antenna over the band, a curve for each place of the tuner. */
export default function MatchChart({
  frequencyHz,
  sweep,
  channelHz,
}: {
  frequencyHz: Float64Array
  sweep: WorthSweep
  channelHz: number
}) {
  const option = useCallback(
    (palette: Palette) => optionOf(frequencyHz, sweep, channelHz, palette),
    [frequencyHz, sweep, channelHz],
  )
  return (
    <EChart
      option={option}
      description="Watts at the antenna over frequency: without a tuner, with one at the radio, with one at the feed point"
    />
  )
}

function optionOf(
  frequencyHz: Float64Array,
  sweep: WorthSweep,
  channelHz: number,
  { ink, muted, rule, tide, sheet }: Palette,
) {
  const text = { color: muted, fontFamily: 'B612', fontSize: 12 }
  const mhz = Array.from(frequencyHz, (hz) => hz / 1e6)
  const colours: Record<TunerPlace, string> = { none: muted, radio: ink, feedPoint: tide }
  const labelAt: Record<TunerPlace, number> = { none: 0.3, radio: 0.14, feedPoint: 0.75 }
  const most = Math.max(
    ...tunerPlaces.map((place) => Math.max(...sweep[place].filter(Number.isFinite))),
  )
  return {
    animation: false,
    grid: { left: 44, right: 12, top: 26, bottom: 38 },
    tooltip: {
      trigger: 'axis',
      backgroundColor: sheet,
      borderColor: rule,
      textStyle: { color: ink, fontFamily: 'B612', fontSize: 13 },
      axisPointer: { lineStyle: { color: muted } },
      formatter: (items: { dataIndex: number }[]) => {
        const i = items[0]?.dataIndex ?? 0
        return [
          `<b>${formatFrequency(frequencyHz[i]!)}</b>`,
          ...tunerPlaces.map((place) => `${formatPower(sweep[place][i]!)} ${placeNames[place]}`),
        ].join('<br>')
      },
    },
    xAxis: {
      type: 'value',
      min: mhz[0],
      max: mhz.at(-1),
      name: 'MHz',
      nameLocation: 'middle',
      nameGap: 24,
      nameTextStyle: text,
      axisLabel: { ...text, showMinLabel: false, showMaxLabel: false, hideOverlap: true },
      axisLine: { lineStyle: { color: rule } },
      axisTick: { lineStyle: { color: rule } },
      splitLine: { show: false },
    },
    yAxis: {
      type: 'value',
      name: 'watts',
      min: 0,
      nameTextStyle: { ...text, align: 'right' },
      axisLabel: text,
      splitLine: { lineStyle: { color: rule } },
      splitNumber: 4,
    },
    series: tunerPlaces.map((place, k) => {
      const at = Math.round((mhz.length - 1) * labelAt[place])
      const value = sweep[place][at]!
      return {
        name: placeNames[place],
        type: 'line',
        showSymbol: false,
        data: mhz.map((f, i) => [f, Number.isFinite(sweep[place][i]!) ? sweep[place][i] : null]),
        lineStyle: { color: colours[place], width: 2, type: dashes[place] },
        itemStyle: { color: colours[place] },
        markPoint: {
          symbol: 'circle',
          symbolSize: 0.1,
          silent: true,
          label: {
            formatter: placeNames[place],
            position: place === 'none' && value > 0.2 * most ? 'bottom' : 'top',
            color: colours[place],
            fontFamily: 'B612',
            fontSize: 12,
            textBorderColor: sheet,
            textBorderWidth: 3,
          },
          data: Number.isFinite(value) ? [{ coord: [mhz[at], value] }] : [],
        },
        ...(k === 0 && {
          markLine: {
            silent: true,
            symbol: 'none',
            lineStyle: { color: ink, type: 'solid', width: 1.2 },
            label: { show: false },
            data: [{ xAxis: channelHz / 1e6 }],
          },
        }),
      }
    }),
  }
}
