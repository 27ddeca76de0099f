import { type PointerEvent as ReactPointerEvent, useState } from 'react'

/** Less is a press that trembled, px. */
const STARTS_AT = 6

export interface Drag {
  from: number
  /** How far the pointer has gone along the row, px. */
  dx: number
}

/** Where in the row a piece comes to lie: before the first other one whose middle it has not passed. */
export function landsAt(widths: readonly number[], { from, dx }: Drag): number {
  const startOf = (k: number) => widths.slice(0, k).reduce((sum, width) => sum + width, 0)
  const middle = startOf(from) + dx + widths[from]! / 2
  const passed = widths.filter((width, k) => {
    if (k === from) return false
    const own = startOf(k) + width / 2
    return k < from ? middle > own : middle >= own
  })
  return passed.length
}

/** How far each piece of the row stands from its place while one is dragged, px. */
export function shiftsOf(widths: readonly number[], drag: Drag | null): number[] {
  if (!drag) return widths.map(() => 0)
  const to = landsAt(widths, drag)
  const own = widths[drag.from]!
  return widths.map((_, k) => {
    if (k === drag.from) return drag.dx
    if (k > drag.from && k <= to) return -own
    if (k < drag.from && k >= to) return own
    return 0
  })
}

/**
 * Drags one piece of a row to another place by mouse, pen or finger; Escape puts it back. The keyboard has keys of its own
 * for it.
 */
export function useRowDrag(
  widths: readonly number[],
  onMove: (from: number, to: number) => void,
): { drag: Drag | null; begin: (k: number, event: ReactPointerEvent<HTMLElement>) => void } {
  const [drag, setDrag] = useState<Drag | null>(null)
  const begin = (from: number, down: ReactPointerEvent<HTMLElement>) => {
    if (down.button !== 0) return
    const ends = new AbortController()
    const { signal } = ends
    let now: Drag | null = null
    const end = () => {
      ends.abort()
      setDrag(null)
    }
    const on = <E extends keyof WindowEventMap>(
      type: E,
      then: (event: WindowEventMap[E]) => void,
    ) => addEventListener(type, then, { signal })
    on('pointermove', ({ clientX, pointerId }) => {
      const dx = clientX - down.clientX
      if (pointerId !== down.pointerId || (!now && Math.abs(dx) < STARTS_AT)) return
      now = { from, dx }
      setDrag(now)
    })
    on('pointerup', () => {
      const dropped = now
      end()
      if (!dropped) return
      // What is let go was not pressed: the click that may follow at once is not one.
      const letGo = new AbortController()
      addEventListener('click', (click) => click.stopPropagation(), {
        capture: true,
        signal: letGo.signal,
      })
      setTimeout(() => letGo.abort())
      const to = landsAt(widths, dropped)
      if (to !== from) onMove(from, to)
    })
    on('pointercancel', end)
    on('keydown', ({ key }) => {
      if (key === 'Escape') end()
    })
  }
  return { drag, begin }
}
