/** What all charts have in common: type, tooltip, frequency axis, cursor, names on the curves. */
import type { Palette } from './EChart.tsx'

export const chartText = ({ muted }: Palette) => ({
  color: muted,
  fontFamily: 'B612',
  fontSize: 12,
})

/** A line of a chart's tooltip; `strong` is set bold. */
export type TooltipLine = string | { strong: string }

export const strong = (text: string): TooltipLine => ({ strong: text })

/** A tooltip's contents as elements: a name of the operator's is text and never markup. */
export function tooltipBox(lines: readonly TooltipLine[]): HTMLElement {
  const box = document.createElement('div')
  for (const line of lines) {
    const row = document.createElement('div')
    row.textContent = typeof line === 'string' ? line : line.strong
    if (typeof line !== 'string') row.style.fontWeight = 'bold'
    box.append(row)
  }
  return box
}

/** A box that reads all series where the pointer is; `lines` gives its text for a point's index. */
export const readingTooltip = (
  { sheet, rule, ink, muted }: Palette,
  lines: (index: number) => TooltipLine[],
) => ({
  trigger: 'axis',
  backgroundColor: sheet,
  borderColor: rule,
  textStyle: { color: ink, fontFamily: 'B612', fontSize: 13 },
  axisPointer: { lineStyle: { color: muted } },
  formatter: (items: { dataIndex: number }[]) => tooltipBox(lines(items[0]?.dataIndex ?? 0)),
})

/** MHz from the first to the last point. */
export const frequencyAxis = (mhz: readonly number[], palette: Palette) => ({
  type: 'value',
  min: mhz[0],
  max: mhz.at(-1),
  name: 'MHz',
  nameLocation: 'middle',
  nameGap: 24,
  nameTextStyle: chartText(palette),
  axisLabel: { ...chartText(palette), showMinLabel: false, showMaxLabel: false, hideOverlap: true },
  axisLine: { lineStyle: { color: palette.rule } },
  axisTick: { lineStyle: { color: palette.rule } },
  splitLine: { show: false },
})

/** Watts from 0 up. */
export const wattsAxis = (palette: Palette, colour = palette.muted) => ({
  type: 'value',
  name: 'watts',
  min: 0,
  nameTextStyle: { ...chartText(palette), color: colour, align: 'right' },
  axisLabel: chartText(palette),
  splitLine: { lineStyle: { color: palette.rule } },
  splitNumber: 4,
})

/** A line up the chart at the channel. */
export const channelCursor = (channelHz: number, { ink }: Palette) => ({
  silent: true,
  symbol: 'none',
  lineStyle: { color: ink, type: 'solid', width: 1.2 },
  label: { show: false },
  data: [{ xAxis: channelHz / 1e6 }],
})

/** A curve's name, written on the curve itself; nowhere where there is no place for it. */
export const curveName = (
  name: string,
  at: readonly [x: number, y: number] | null,
  { sheet }: Palette,
  colour: string,
  position: 'top' | 'bottom' = 'top',
) => ({
  symbol: 'circle',
  symbolSize: 0.1,
  silent: true,
  label: {
    formatter: name,
    position,
    color: colour,
    fontFamily: 'B612',
    fontSize: 12,
    textBorderColor: sheet,
    textBorderWidth: 3,
  },
  data: at ? [{ coord: at }] : [],
})
