import type { Face } from '@saltline/core'
import { useEffect, useRef, useState } from 'react'

/** Half the sweep of a scale, in radians from upright. */
const SWEEP = 0.94
const R = 150
const CENTRE = { x: 190, y: 196 }

const pointAt = (share: number, radius: number) => {
  const angle = (share * 2 - 1) * SWEEP
  return { x: CENTRE.x + radius * Math.sin(angle), y: CENTRE.y - radius * Math.cos(angle) }
}

/** Figures on a scale: four or five, round ones. */
function scaleFigures(full: number): number[] {
  const raw = full / 5
  const magnitude = 10 ** Math.floor(Math.log10(raw))
  const step = [1, 2, 2.5, 5, 10].map((m) => m * magnitude).find((s) => s >= raw * 0.999)!
  const figures: number[] = []
  for (let v = 0; v <= full * 1.0001; v += step) figures.push(Number(v.toPrecision(6)))
  return figures
}

/** To half a division, as an eye reads it: for those who hear the scale. */
const readOff = (value: number, { full, divisions }: Face): number => {
  const half = full / divisions / 2
  return Number((Math.round(value / half) * half).toPrecision(4))
}

const calm = matchMedia('(prefers-reduced-motion: reduce)')

/** How often the scale is said aloud, and how often a needle moves that must not glide, ms. */
const SAID_MS = 500

/** A scale with a needle that takes its time. */
export function Needle({
  face,
  valueAt,
  lively,
}: {
  face: Face
  /** Where the needle stands now, in the scale's unit. */
  valueAt: () => number
  /** Changes whenever something was done: the needle then moves until it has come to rest. */
  lively: unknown
}) {
  const needle = useRef<SVGGElement>(null)
  const [said, setSaid] = useState(0)
  const { full, divisions, label, unit } = face
  useEffect(() => {
    let frame = 0
    let lastSaid = -Infinity
    let still = 0
    let last = NaN
    const draw = (now: number) => {
      const value = valueAt()
      const due = now - lastSaid > SAID_MS
      if (!calm.matches || due) {
        const share = Math.max(-0.02, Math.min(1.04, value / full))
        const degrees = (((share * 2 - 1) * SWEEP) / Math.PI) * 180
        needle.current?.setAttribute(
          'transform',
          `rotate(${degrees.toFixed(2)} ${CENTRE.x} ${CENTRE.y})`,
        )
      }
      if (due) {
        setSaid(value)
        lastSaid = now
      }
      still = Math.abs(value - last) < full * 1e-5 ? still + 1 : 0
      last = value
      // Half a second without a move, and said once more: it rests until something is done.
      if (still < 40) frame = requestAnimationFrame(draw)
      else setSaid(value)
    }
    frame = requestAnimationFrame(draw)
    return () => cancelAnimationFrame(frame)
  }, [valueAt, full, lively])
  const figures = scaleFigures(full)
  const line = (share: number, inner: number, outer: number) => {
    const [a, b] = [pointAt(share, inner), pointAt(share, outer)]
    return `M${a.x.toFixed(1)},${a.y.toFixed(1)}L${b.x.toFixed(1)},${b.y.toFixed(1)}`
  }
  const [from, to] = [pointAt(0, R), pointAt(1, R)]
  const shown = readOff(said, face)
  return (
    <svg
      viewBox="0 0 380 210"
      className="w-full"
      role="meter"
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={full}
      aria-valuenow={Math.max(0, Math.min(full, shown))}
      aria-valuetext={shown > full ? `beyond ${full} ${unit}` : `${shown} ${unit}`}
    >
      <path
        d={`M${from.x},${from.y}A${R},${R} 0 0 1 ${to.x},${to.y}`}
        fill="none"
        stroke="var(--edge)"
      />
      {Array.from({ length: divisions + 1 }, (_, i) => (
        <path
          key={i}
          d={line(i / divisions, R, R + (i % 5 === 0 ? 9 : 5))}
          stroke="var(--ink)"
          strokeWidth={i % 5 === 0 ? 1.4 : 0.8}
        />
      ))}
      {figures.map((value) => {
        const at = pointAt(value / full, R + 24)
        return (
          <g key={value}>
            <path d={line(value / full, R, R + 12)} stroke="var(--ink)" strokeWidth={2} />
            <text
              x={at.x}
              y={at.y + 5}
              textAnchor="middle"
              fontSize={15}
              fill="var(--ink)"
              className="tabular-nums"
            >
              {value}
            </text>
          </g>
        )
      })}
      <text x={14} y={200} fontSize={15} fill="var(--muted)">
        {label}
      </text>
      <text x={366} y={200} textAnchor="end" fontSize={22} fontWeight={700} fill="var(--ink)">
        {unit}
      </text>
      <g ref={needle} transform={`rotate(${(-SWEEP / Math.PI) * 180} ${CENTRE.x} ${CENTRE.y})`}>
        <path
          d={`M${CENTRE.x},${CENTRE.y - 22}L${CENTRE.x},${CENTRE.y - R - 6}`}
          stroke="var(--heat)"
          strokeWidth={2.6}
          strokeLinecap="round"
        />
      </g>
      <path
        d={`M${CENTRE.x - 22},${CENTRE.y}a22,22 0 0 1 44,0z`}
        fill="var(--paper)"
        stroke="var(--edge)"
      />
    </svg>
  )
}
