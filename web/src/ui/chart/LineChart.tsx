/** The one chart: lines over an axis, by ECharts. Loaded when the first one is shown. */
import { LineChart as Lines } from 'echarts/charts'
import { GridSimpleComponent } from 'echarts/components'
import { init, use as register } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'
import { useCallback, useEffect, useMemo, useRef } from 'react'
import { isNight, usePreferences } from '../../platform/preferences.ts'
import { painted } from '../painted.ts'
import { useWidth } from '../useWidth.ts'
import { type Chart, type ChartSource, colours } from './chart.ts'
import { optionOf, type Palette, plotsOf } from './option.ts'
import { hoverOf } from './hover.ts'
import { overlayOf, type ToPixel } from './overlay.ts'
import type { Box, Point } from './placeLabels.ts'

register([Lines, GridSimpleComponent, SVGRenderer])

type Drawing = ReturnType<typeof init>

/** The theme's colours for a drawing that cannot use style sheets. */
function readPalette(_night: boolean): Palette {
  const style = getComputedStyle(document.documentElement)
  return Object.fromEntries(
    colours.map((name) => [name, style.getPropertyValue(`--${name}`).trim()]),
  ) as Palette
}

/**
 * Draws when the figures that came with it are on the screen: a curve holds up neither what is typed nor a page that opens. What
 * was to be drawn before and was not yet is left out.
 */
function useAfterPaint(): (draw: (() => void) | null) => void {
  const wanted = useRef<(() => void) | null>(null)
  const waits = useRef(false)
  return useCallback((draw) => {
    wanted.current = draw
    if (waits.current || !draw) return
    waits.current = true
    void painted().then(() => {
      waits.current = false
      wanted.current?.()
    })
  }, [])
}

/** @param chart as it is, or a source that says when it is another one: then nothing but the drawing follows */
export default function LineChart({ chart }: { chart: Chart | ChartSource }) {
  const [box, width] = useWidth<HTMLDivElement>()
  const over = useRef<SVGSVGElement>(null)
  const drawing = useRef<Drawing | null>(null)
  const hovered = useRef<HTMLDivElement>(null)
  /** What was drawn last, to be read. */
  const read = useRef<{ chart: Chart; toPixel: ToPixel; plots: readonly Box[] } | null>(null)
  usePreferences()
  const night = isNight()

  useEffect(
    () => () => {
      drawing.current?.dispose()
      drawing.current = null
    },
    [],
  )

  // Asking for a style makes the browser lay the page out, so it is done once a theme.
  const palette = useMemo(() => readPalette(night), [night])

  const afterPaint = useAfterPaint()
  useEffect(() => {
    const source = 'subscribe' in chart ? chart : null
    const draw = () => {
      const now = source ? source.get() : (chart as Chart)
      if (!box.current || !now || width === 0) return
      const own = (drawing.current ??= init(box.current, undefined, { renderer: 'svg' }))
      if (own.getWidth() !== width) own.resize()
      // Only what is another one is drawn anew.
      const plots = plotsOf(now, own.getWidth(), own.getHeight())
      own.setOption(optionOf(now, palette, plots), {
        replaceMerge: ['series', 'xAxis', 'yAxis', 'grid'],
      })
      const toPixel = (axis: number, x: number, y: number): Point => {
        const at = { xAxisIndex: now.below ? axis : 0, yAxisIndex: axis }
        const [px = 0, py = 0] = own.convertToPixel(at, [x, y])
        return [px, py]
      }
      over.current?.replaceChildren(...overlayOf(now, toPixel, plots, palette))
      box.current?.setAttribute('aria-label', now.description)
      hovered.current?.replaceChildren()
      read.current = { chart: now, toPixel, plots }
    }
    afterPaint(draw)
    const leave = source?.subscribe(() => afterPaint(draw))
    return () => {
      afterPaint(null)
      leave?.()
    }
  }, [afterPaint, box, chart, palette, width])

  // Until it is drawn; a source names what it draws then.
  const first = 'subscribe' in chart ? chart.get() : chart
  const hover = ({ clientX, clientY, currentTarget }: React.PointerEvent) => {
    if (!read.current) return
    const { left, top } = currentTarget.getBoundingClientRect()
    hovered.current?.replaceChildren(
      ...hoverOf(read.current, [clientX - left, clientY - top], palette),
    )
  }
  return (
    <div
      className="absolute inset-0 contain-strict"
      onPointerMove={hover}
      onPointerDown={hover}
      onPointerLeave={() => hovered.current?.replaceChildren()}
    >
      <div
        ref={box}
        role="img"
        aria-label={first?.description ?? 'Drawing…'}
        className="absolute inset-0"
      />
      <svg ref={over} aria-hidden className="pointer-events-none absolute inset-0 size-full" />
      <div ref={hovered} aria-hidden className="pointer-events-none absolute inset-0" />
    </div>
  )
}
