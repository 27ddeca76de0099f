import { decimals, formatFrequency, formatImpedance, formatSwr } from '@saltline/core'
import { useCallback } from 'react'
import { EChart, type Palette } from '../../ui/EChart.tsx'
import {
  channelCursor,
  chartText,
  curveName,
  frequencyAxis,
  readingTooltip,
  strong,
} from '../../ui/chartParts.ts'
import type { AntennaView } from './antennaView.ts'

const SWR_TOP = 6

/** SWR at both ends above, R and X below, on one frequency axis. */
export default function AntennaChart({
  view,
  channelHz,
  swrLimit,
  name,
}: {
  view: AntennaView
  channelHz: number
  swrLimit: number
  name: string
}) {
  const option = useCallback(
    (palette: Palette) => optionOf(view, channelHz, swrLimit, palette),
    [view, channelHz, swrLimit],
  )
  const what = view.phaseKnown ? 'SWR, R and X' : 'SWR'
  return <EChart option={option} description={`${what} of ${name} over frequency`} />
}

function optionOf(view: AntennaView, channelHz: number, swrLimit: number, palette: Palette) {
  const { ink, muted, rule, tide, heat } = palette
  const { frequencyHz, rOhm, xOhm, band, phaseKnown } = view
  const mhz = Array.from(frequencyHz, (hz) => hz / 1e6)
  const n = mhz.length
  const text = chartText(palette)
  const pairs = (values: ArrayLike<number>, top = Infinity) =>
    mhz.map((f, i) => [
      f,
      Number.isFinite(values[i]!) && values[i]! <= top * 1.5 ? values[i]! : null,
    ])
  const line = (
    name: string,
    axis: number,
    values: ArrayLike<number>,
    colour: string,
    type: string,
    at: number,
    top?: number,
  ) => ({
    name,
    type: 'line',
    xAxisIndex: axis,
    yAxisIndex: axis,
    showSymbol: false,
    data: pairs(values, top),
    lineStyle: { color: colour, width: 1.8, type },
    itemStyle: { color: colour },
    markPoint: curveName(
      name,
      values[at]! <= (top ?? Infinity) ? [mhz[at]!, values[at]!] : null,
      palette,
      colour,
    ),
  })
  const cursor = channelCursor(channelHz, palette)
  const x = { ...frequencyAxis(mhz, palette), nameGap: 22, axisTick: { show: false } }
  const y = {
    type: 'value',
    nameTextStyle: text,
    nameLocation: 'middle',
    nameGap: 34,
    axisLabel: text,
    splitLine: { lineStyle: { color: rule } },
  }
  const reach = Math.max(
    60,
    ...Array.from({ length: n }, (_, i) => Math.max(rOhm[i]!, Math.abs(xOhm[i]!))),
  )
  const ohmTop = Math.min(400, reach)
  return {
    animation: false,
    grid: phaseKnown
      ? [
          { left: 66, right: 14, top: 12, height: '40%' },
          { left: 66, right: 14, bottom: 36, height: '32%' },
        ]
      : [{ left: 66, right: 14, top: 12, bottom: 36 }],
    axisPointer: { link: [{ xAxisIndex: 'all' }] },
    tooltip: readingTooltip(palette, (i) => [
      strong(formatFrequency(frequencyHz[i]!)),
      `SWR ${formatSwr(band.swrAtAntenna[i]!)} at the feed point`,
      `SWR ${formatSwr(band.swrAtTransmitter[i]!)} at the radio`,
      ...(phaseKnown ? [formatImpedance({ re: rOhm[i]!, im: xOhm[i]! })] : []),
    ]),
    xAxis: [
      ...(phaseKnown ? [{ ...x, gridIndex: 0, name: undefined, axisLabel: { show: false } }] : []),
      { ...x, gridIndex: phaseKnown ? 1 : 0 },
    ],
    yAxis: [
      { ...y, gridIndex: 0, name: 'SWR', min: 1, max: SWR_TOP, interval: 1 },
      phaseKnown && {
        ...y,
        gridIndex: 1,
        name: 'Ω',
        min: -ohmTop,
        max: ohmTop,
        splitNumber: 4,
        axisLabel: {
          ...text,
          formatter: (v: number) => decimals(v, 0),
          showMinLabel: false,
          showMaxLabel: false,
        },
      },
    ].filter(Boolean),
    series: [
      {
        ...line(
          'at the feed point',
          0,
          band.swrAtAntenna,
          ink,
          'dashed',
          Math.round(n * 0.74),
          SWR_TOP,
        ),
        markLine: {
          ...cursor,
          data: [
            { xAxis: channelHz / 1e6 },
            {
              yAxis: swrLimit,
              lineStyle: { color: muted, type: [2, 4], width: 1.2 },
              label: {
                show: true,
                formatter: `limit ${formatSwr(swrLimit)}`,
                position: 'insideEndBottom',
                color: muted,
                fontFamily: 'B612',
                fontSize: 12,
              },
            },
          ],
        },
      },
      line('at the radio', 0, band.swrAtTransmitter, ink, 'solid', Math.round(n * 0.2), SWR_TOP),
      phaseKnown && {
        ...line('R', 1, rOhm, tide, 'solid', Math.round(n * 0.15), ohmTop),
        markLine: cursor,
      },
      phaseKnown && line('X', 1, xOhm, heat, 'dashed', Math.round(n * 0.9), ohmTop),
    ].filter(Boolean),
  }
}
