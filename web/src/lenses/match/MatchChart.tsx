import {
  formatFrequency,
  formatPower,
  type TunerPlace,
  tunerPlaces,
  type WorthSweep,
  type PowerUnit,
} from '@saltline/core'
import { useCallback } from 'react'
import { useUnits } from '../../platform/preferences.ts'
import { EChart, type Palette } from '../../ui/EChart.tsx'
import {
  channelCursor,
  curveName,
  frequencyAxis,
  readingTooltip,
  wattsAxis,
  strong,
} from '../../ui/chartParts.ts'
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
  const { power } = useUnits()
  const option = useCallback(
    (palette: Palette) => optionOf(frequencyHz, sweep, channelHz, palette, power),
    [frequencyHz, sweep, channelHz, power],
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
  palette: Palette,
  power: PowerUnit,
) {
  const { ink, muted, tide } = palette
  const mhz = Array.from(frequencyHz, (hz) => hz / 1e6)
  const colours: Record<TunerPlace, string> = { none: muted, radio: ink, feedPoint: tide }
  // Side by side, since two curves may lie on each other.
  const labelAt: Record<TunerPlace, number> = { none: 0.56, radio: 0.19, feedPoint: 0.77 }
  const most = Math.max(
    ...tunerPlaces.map((place) => Math.max(...sweep[place].filter(Number.isFinite))),
  )
  return {
    animation: false,
    grid: { left: 44, right: 12, top: 26, bottom: 38 },
    tooltip: readingTooltip(palette, (i) => [
      strong(formatFrequency(frequencyHz[i]!)),
      ...tunerPlaces.map((place) => `${formatPower(sweep[place][i]!, power)} ${placeNames[place]}`),
    ]),
    xAxis: frequencyAxis(mhz, palette),
    yAxis: wattsAxis(palette),
    series: tunerPlaces.map((place, k) => {
      const at = Math.round((mhz.length - 1) * labelAt[place])
      const value = sweep[place][at]!
      // Low on the axis there is no room under a curve.
      const position = place === 'none' && value > 0.2 * most ? 'bottom' : 'top'
      return {
        name: placeNames[place],
        type: 'line',
        showSymbol: false,
        data: mhz.map((f, i) => [f, Number.isFinite(sweep[place][i]!) ? sweep[place][i] : null]),
        lineStyle: { color: colours[place], width: 2, type: dashes[place] },
        itemStyle: { color: colours[place] },
        markPoint: curveName(
          placeNames[place],
          Number.isFinite(value) ? [mhz[at]!, value] : null,
          palette,
          colours[place],
          position,
        ),
        ...(k === 0 && { markLine: channelCursor(channelHz, palette) }),
      }
    }),
  }
}
