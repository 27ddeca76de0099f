import { decimals, formatDb, type PlanMember } from '@saltline/core'
import { useCallback } from 'react'
import { EChart, type Palette } from '../../ui/EChart.tsx'
import { chartText, strong, tooltipBox } from '../../ui/chartParts.ts'

/** Loss over price or weight: a step down is what the money buys. */
export default function FrontChart({
  front,
  names,
  unit,
}: {
  front: readonly PlanMember[]
  names: readonly string[]
  unit: string
}) {
  const option = useCallback(
    (palette: Palette) => optionOf(front, names, unit, palette),
    [front, names, unit],
  )
  return <EChart option={option} description={`Loss in dB over ${unit}, a point a combination`} />
}

function optionOf(
  front: readonly PlanMember[],
  names: readonly string[],
  unit: string,
  palette: Palette,
) {
  const { tide, sheet, rule, ink } = palette
  const axis = {
    type: 'value',
    nameTextStyle: chartText(palette),
    axisLabel: chartText(palette),
    axisLine: { lineStyle: { color: rule } },
    splitLine: { lineStyle: { color: rule } },
    splitNumber: 4,
    scale: true,
  }
  return {
    animation: false,
    grid: { left: 48, right: 16, top: 26, bottom: 40 },
    tooltip: {
      trigger: 'item',
      backgroundColor: sheet,
      borderColor: rule,
      textStyle: { color: ink, fontFamily: 'B612', fontSize: 13 },
      formatter: ({ dataIndex }: { dataIndex: number }) =>
        tooltipBox([
          strong(names[dataIndex]!),
          `${decimals(front[dataIndex]!.cost, 0)} ${unit}, ${formatDb(front[dataIndex]!.lossDb)}`,
        ]),
    },
    xAxis: { ...axis, name: unit, nameLocation: 'middle', nameGap: 26, min: 0 },
    yAxis: { ...axis, name: 'loss, dB' },
    series: [
      {
        type: 'line',
        step: 'end',
        symbol: 'circle',
        symbolSize: 9,
        itemStyle: { color: tide },
        lineStyle: { color: tide, width: 1.6 },
        data: front.map(({ cost, lossDb }) => [cost, lossDb]),
      },
    ],
  }
}
