import { strong, tooltipBox } from '../../ui/chartParts.ts'
import { attenuationDbPer100m, type Cable, decimals, formatFrequency } from '@saltline/core'
import { useCallback } from 'react'
import { EChart, type Palette } from '../../ui/EChart.tsx'

export interface LossCurve {
  name: string
  cable: Cable
  /** Data-sheet points to show beside the law, [MHz, dB per 100 m]. */
  points?: readonly (readonly [number, number])[]
}

const LOW_MHZ = 1
const STEPS = 80

const dashes = ['solid', 'dashed', 'dotted', [8, 3, 2, 3]] as const

/** Loss over frequency of one or several cables, both axes logarithmic. */
export default function LossChart({
  curves,
  description,
}: {
  curves: readonly LossCurve[]
  description: string
}) {
  const option = useCallback((palette: Palette) => optionOf(curves, palette), [curves])
  return <EChart option={option} description={description} />
}

function optionOf(curves: readonly LossCurve[], palette: Palette) {
  const { ink, muted, rule, sheet, tide, heat, returned } = palette
  const colours = [tide, heat, returned, ink]
  const text = { color: muted, fontFamily: 'B612', fontSize: 12 }
  const highMhz = Math.max(...curves.map(({ cable }) => (cable.maxHz ?? 1e9) / 1e6))
  const grid = Array.from(
    { length: STEPS + 1 },
    (_, i) => LOW_MHZ * (highMhz / LOW_MHZ) ** (i / STEPS),
  )
  const axis = {
    type: 'log',
    axisLabel: text,
    axisLine: { lineStyle: { color: rule } },
    splitLine: { lineStyle: { color: rule } },
    nameTextStyle: text,
  }
  return {
    animation: false,
    grid: { left: 56, right: 16, top: 30, bottom: 40 },
    legend: {
      top: 0,
      left: 50,
      textStyle: { ...text, color: ink },
      itemWidth: 24,
      icon: 'rect',
      itemHeight: 2,
    },
    tooltip: {
      trigger: 'axis',
      backgroundColor: sheet,
      borderColor: rule,
      textStyle: { color: ink, fontFamily: 'B612', fontSize: 13 },
      formatter: (items: { axisValue: number }[]) => {
        const mhz = Number(items[0]?.axisValue ?? 1)
        const lines = curves
          .filter(({ cable }) => mhz * 1e6 <= (cable.maxHz ?? Infinity) * 1.0001)
          .map(
            ({ name, cable }) =>
              `${name}: ${decimals(attenuationDbPer100m(cable, mhz * 1e6), 2)} dB`,
          )
        return tooltipBox([strong(formatFrequency(mhz * 1e6)), ...lines])
      },
    },
    xAxis: {
      ...axis,
      name: 'MHz',
      nameLocation: 'middle',
      nameGap: 24,
      min: LOW_MHZ,
      max: highMhz,
      axisLabel: { ...text, showMaxLabel: false, formatter: String },
    },
    yAxis: { ...axis, name: 'dB per 100 m', nameLocation: 'middle', nameGap: 36 },
    series: curves.flatMap(({ name, cable, points }, i) => {
      const colour = colours[i % colours.length]
      const line = {
        name,
        type: 'line',
        showSymbol: false,
        data: grid
          .filter((mhz) => mhz * 1e6 <= (cable.maxHz ?? Infinity) * 1.0001)
          .map((mhz) => [mhz, attenuationDbPer100m(cable, mhz * 1e6)]),
        lineStyle: { color: colour, width: 2, type: dashes[i % dashes.length] },
        itemStyle: { color: colour },
      }
      if (!points) return [line]
      const dots = {
        type: 'line',
        data: points,
        lineStyle: { width: 0 },
        symbol: 'circle',
        symbolSize: 6,
        itemStyle: { color: ink },
        silent: true,
      }
      return [line, dots]
    }),
  }
}
