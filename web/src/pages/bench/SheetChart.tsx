import { decimals } from '@saltline/core'
import { useCallback } from 'react'
import { chartText, frequencyAxis, readingTooltip } from '../../ui/chartParts.ts'
import { EChart, type Palette } from '../../ui/EChart.tsx'

/** One curve over frequency under a worksheet's result. */
export default function SheetChart({
  mhz,
  values,
  name,
}: {
  mhz: readonly number[]
  values: readonly number[]
  name: string
}) {
  const option = useCallback(
    (palette: Palette) => ({
      animation: false,
      grid: { left: 36, right: 12, top: 14, bottom: 38 },
      tooltip: readingTooltip(palette, (i) => [
        `${decimals(mhz[i]!, 1)}\u00a0MHz`,
        `${name} <b>${decimals(values[i]!, 2)}</b>`,
      ]),
      xAxis: frequencyAxis(mhz, palette),
      yAxis: {
        type: 'value',
        scale: true,
        splitNumber: 3,
        axisLabel: chartText(palette),
        splitLine: { lineStyle: { color: palette.rule } },
      },
      series: [
        {
          type: 'line',
          symbol: 'none',
          data: mhz.map((f, i) => [f, values[i]]),
          lineStyle: { color: palette.tide, width: 2 },
        },
      ],
    }),
    [mhz, values, name],
  )
  return <EChart option={option} description={`${name} over frequency`} />
}
