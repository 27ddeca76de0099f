import type { TransmitterDocument } from '@saltline/contract'
import { foldbackAt, formatPercent, formatSwr } from '@saltline/core'
import { useRef } from 'react'

type Points = TransmitterDocument['foldback']

const WIDTH = 272
const HEIGHT = 116
const LEFT = 34
const BOTTOM = 20
const TOP = 8
const MOST_SWR = 10
const TICKS = [1, 1.5, 2, 3, 5, 10]

/** SWR on a logarithmic axis, since the difference between 1.5 and 2 matters more than 8 to 9. */
const xOf = (swr: number): number =>
  LEFT + (Math.log(Math.min(swr, MOST_SWR)) / Math.log(MOST_SWR)) * (WIDTH - LEFT - 8)
const yOf = (fraction: number): number => TOP + (1 - fraction) * (HEIGHT - BOTTOM - TOP)
const swrAt = (x: number): number => MOST_SWR ** ((x - LEFT) / (WIDTH - LEFT - 8))
const fractionAt = (y: number): number => 1 - (y - TOP) / (HEIGHT - BOTTOM - TOP)

/** Power left over SWR; its points can be dragged. The fields below say the same in numbers. */
export function FoldbackChart({
  points,
  here,
  onChange,
}: {
  points: Points
  /** The SWR that the source sees now. */
  here: number | null
  onChange: (points: Points) => void
}) {
  const svg = useRef<SVGSVGElement>(null)
  const drag = (i: number) => (event: React.PointerEvent) => {
    if (!event.currentTarget.hasPointerCapture(event.pointerId)) return
    const box = svg.current!.getBoundingClientRect()
    const scale = WIDTH / box.width
    const low = (points[i - 1]?.[0] ?? 0.99) + 0.01
    const high = (points[i + 1]?.[0] ?? 1000.01) - 0.01
    const swr = Math.min(high, Math.max(low, 1, swrAt((event.clientX - box.left) * scale)))
    const fraction = Math.min(1, Math.max(0, fractionAt((event.clientY - box.top) * scale)))
    onChange(points.with(i, [Math.round(swr * 100) / 100, Math.round(fraction * 100) / 100]))
  }
  const line = [[1, foldbackAt(points, 1)], ...points, [MOST_SWR, foldbackAt(points, MOST_SWR)]]
    .filter(([swr]) => swr! <= MOST_SWR)
    .map(([swr, fraction]) => `${xOf(swr!).toFixed(1)} ${yOf(fraction!).toFixed(1)}`)
    .join('L')
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block w-full"
      role="img"
      aria-label="Power left over SWR"
      fontSize="12"
    >
      {[0, 0.5, 1].map((fraction) => (
        <g key={fraction}>
          <path d={`M${LEFT} ${yOf(fraction)}H${WIDTH - 8}`} stroke="var(--rule)" />
          <text x={LEFT - 5} y={yOf(fraction) + 4} textAnchor="end" fill="var(--muted)">
            {fraction * 100}
          </text>
        </g>
      ))}
      {TICKS.map((swr) => (
        <text key={swr} x={xOf(swr)} y={HEIGHT - 4} textAnchor="middle" fill="var(--muted)">
          {swr}
        </text>
      ))}
      {here !== null && here <= MOST_SWR && (
        <path
          d={`M${xOf(here)} ${TOP}V${HEIGHT - BOTTOM}`}
          stroke="var(--ink)"
          strokeDasharray="2 3"
        />
      )}
      <path d={`M${line}`} fill="none" stroke="var(--returned)" strokeWidth="2" />
      {points.map(([swr, fraction], i) =>
        swr > MOST_SWR ? null : (
          <circle
            key={i}
            cx={xOf(swr)}
            cy={yOf(fraction)}
            r="6"
            fill="var(--sheet)"
            stroke="var(--returned)"
            strokeWidth="2"
            className="cursor-grab touch-none active:cursor-grabbing"
            data-point={i}
            onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
            onPointerMove={drag(i)}
          >
            <title>{`SWR ${formatSwr(swr)}: ${formatPercent(fraction)}`}</title>
          </circle>
        ),
      )}
    </svg>
  )
}
