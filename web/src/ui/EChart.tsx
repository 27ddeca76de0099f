/** The one way a chart gets onto a page. Loaded when the first chart is shown. */
import { LineChart } from 'echarts/charts'
import {
  GridComponent,
  LegendComponent,
  MarkLineComponent,
  MarkPointComponent,
  TooltipComponent,
} from 'echarts/components'
import { type EChartsCoreOption, init, use as register } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { useEffect, useMemo, useRef } from 'react'
import { isNight, usePreferences } from '../platform/preferences.ts'
import { useWidth } from './useWidth.ts'

register([
  LineChart,
  GridComponent,
  LegendComponent,
  MarkLineComponent,
  MarkPointComponent,
  TooltipComponent,
  SVGRenderer,
])

export type Palette = Record<
  'ink' | 'muted' | 'rule' | 'tide' | 'tide-fill' | 'heat' | 'returned' | 'sheet',
  string
>

/** The theme's colours for a drawing that cannot use style sheets. */
function readPalette(_night: boolean): Palette {
  const style = getComputedStyle(document.documentElement)
  const names = ['ink', 'muted', 'rule', 'tide', 'tide-fill', 'heat', 'returned', 'sheet'] as const
  return Object.fromEntries(
    names.map((name) => [name, style.getPropertyValue(`--${name}`).trim()]),
  ) as Palette
}

/** @param option made from the theme's colours; give a stable function, it is called when it changes */
export function EChart({
  option,
  description,
}: {
  option: (palette: Palette) => EChartsCoreOption
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

  // Drawn in a frame of its own: a curve must not hold up the figure that is being typed.
  useEffect(() => {
    const frame = requestAnimationFrame(() =>
      chart.current?.setOption(option(palette), { notMerge: true }),
    )
    return () => cancelAnimationFrame(frame)
  }, [option, palette, width])

  return (
    <div
      ref={box}
      role="img"
      aria-label={description}
      className="absolute inset-0 contain-strict"
    />
  )
}
