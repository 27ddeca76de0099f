import { formatFrequency, formatPower, type PowerUnit } from '@saltline/core'
import { useCallback } from 'react'
import type { CompareCurves } from '../../compute/tasks/compareCurves.ts'
import { useUnits } from '../../platform/preferences.ts'
import { EChart, type Palette } from '../../ui/EChart.tsx'
import {
  channelCursor,
  curveName,
  frequencyAxis,
  readingTooltip,
  strong,
  wattsAxis,
} from '../../ui/chartParts.ts'

const dashes = ['solid', 'dashed', 'dotted'] as const

/** Watts at the antenna over a band, a curve an alternative; the chosen one is drawn strong. */
export default function CurvesChart({
  curves,
  names,
  chosen,
  channelHz,
}: {
  curves: CompareCurves
  /** The chain as it stands comes first. */
  names: readonly string[]
  chosen: number
  channelHz: number
}) {
  const { power } = useUnits()
  const option = useCallback(
    (palette: Palette) => optionOf(curves, names, chosen, channelHz, palette, power),
    [curves, names, chosen, channelHz, power],
  )
  return (
    <EChart
      option={option}
      description={`Watts at the antenna over frequency: ${names.join(', ')}`}
    />
  )
}

function optionOf(
  { frequencyHz, antennaW }: CompareCurves,
  names: readonly string[],
  chosen: number,
  channelHz: number,
  palette: Palette,
  power: PowerUnit,
) {
  const { ink, muted, tide, heat, returned } = palette
  const mhz = Array.from(frequencyHz, (hz) => hz / 1e6)
  const colours = [ink, heat, returned, muted]
  return {
    animation: false,
    grid: { left: 44, right: 12, top: 26, bottom: 38 },
    tooltip: readingTooltip(palette, (i) => [
      strong(formatFrequency(frequencyHz[i]!)),
      ...antennaW.flatMap((watts, k) =>
        watts ? [`${formatPower(watts[i]!, power)} ${names[k]}`] : [],
      ),
    ]),
    xAxis: frequencyAxis(mhz, palette),
    yAxis: wattsAxis(palette),
    series: antennaW.flatMap((watts, k) => {
      if (!watts) return []
      const colour = k === chosen ? tide : colours[k % colours.length]!
      // Names stand apart along the band, so that they do not meet.
      const at = Math.round((0.16 + (0.6 * k) / antennaW.length) * (mhz.length - 1))
      const value = watts[at]!
      return [
        {
          type: 'line',
          name: names[k],
          data: mhz.map((x, i) => [x, watts[i]]),
          symbol: 'none',
          lineStyle: {
            color: colour,
            width: k === chosen ? 3 : 1.6,
            type: dashes[Math.floor(k / colours.length) % dashes.length],
          },
          markPoint: curveName(
            names[k]!,
            Number.isFinite(value) ? [mhz[at]!, value] : null,
            palette,
            colour,
          ),
          ...(k === 0 && { markLine: channelCursor(channelHz, palette) }),
        },
      ]
    }),
  }
}
