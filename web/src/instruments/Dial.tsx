import { useId, useRef } from 'react'

/** From the lowest to the highest setting a dial turns by so much, degrees. */
const TURN = 270
/** So many pixels of dragging turn it all the way. */
const TRAVEL_PX = 320

/** A knob: dragged, turned with the wheel, or stepped with the arrow keys. */
export function Dial({
  label,
  value,
  least,
  most,
  step,
  onChange,
}: {
  label: string
  value: number
  least: number
  most: number
  step: number
  onChange: (value: number) => void
}) {
  const id = useId()
  const from = useRef<{ y: number; x: number; value: number } | null>(null)
  const share = (value - least) / (most - least)
  const degrees = (share - 0.5) * TURN
  const turn = (to: number) => onChange(Math.min(most, Math.max(least, to)))
  const jumps: Record<string, number> = {
    ArrowUp: step,
    ArrowRight: step,
    ArrowDown: -step,
    ArrowLeft: -step,
    PageUp: 10 * step,
    PageDown: -10 * step,
    Home: least - value,
    End: most - value,
  }
  const arc = (r: number, a: number, b: number) => {
    const at = (d: number) => {
      const angle = (d / 180) * Math.PI
      return `${(40 + r * Math.sin(angle)).toFixed(2)},${(40 - r * Math.cos(angle)).toFixed(2)}`
    }
    return `M${at(a)}A${r},${r} 0 ${b - a > 180 ? 1 : 0} 1 ${at(b)}`
  }
  return (
    <div className="flex flex-col items-center">
      <div
        role="slider"
        tabIndex={0}
        aria-labelledby={id}
        aria-valuemin={least}
        aria-valuemax={most}
        aria-valuenow={value}
        className="cursor-grab touch-none rounded-full select-none active:cursor-grabbing"
        onKeyDown={(event) => {
          const by = jumps[event.key]
          if (by === undefined) return
          event.preventDefault()
          turn(value + by * (event.shiftKey ? 10 : 1))
        }}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId)
          from.current = { x: event.clientX, y: event.clientY, value }
        }}
        onPointerMove={(event) => {
          const start = from.current
          if (!start) return
          const moved = event.clientX - start.x - (event.clientY - start.y)
          turn(start.value + (moved / TRAVEL_PX) * (most - least))
        }}
        onPointerUp={() => (from.current = null)}
        onPointerCancel={() => (from.current = null)}
        onWheel={(event) => turn(value - Math.sign(event.deltaY) * step)}
      >
        <svg viewBox="0 0 80 80" className="block size-[76px]" aria-hidden>
          <path d={arc(35, -135, 135)} fill="none" stroke="var(--rule)" strokeWidth={4} />
          {share > 0 && (
            <path d={arc(35, -135, degrees)} fill="none" stroke="var(--tide)" strokeWidth={4} />
          )}
          <circle cx={40} cy={40} r={25} fill="var(--paper)" stroke="var(--edge)" />
          <path
            d="M40,32L40,17"
            transform={`rotate(${degrees} 40 40)`}
            stroke="var(--ink)"
            strokeWidth={3}
            strokeLinecap="round"
          />
        </svg>
      </div>
      <span id={id} className="max-w-26 text-center text-xs text-muted">
        {label}
      </span>
      <span className="font-bold tabular-nums" aria-hidden>
        {value}
      </span>
    </div>
  )
}
