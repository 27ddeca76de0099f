import type { BandPoint } from './geometry.ts'

export interface BandShape {
  /** Net watts along the spine, from the transmitter's end to the antenna. */
  net: BandPoint[]
  returned: BandPoint[]
  planes: number[]
  end: number
  /** Where the transmitter meets plane 0. */
  output: number
  settingW: number
}

/** Turns spine coordinates into the picture's: lying or running downward. */
export interface Projection {
  vertical: boolean
  /** Pixels per watt. */
  scale: number
  /** Watts at the far edge of the band's field. */
  topW: number
  /** Place of zero watts, and of the first pixel along. */
  base: number
  origin: number
  /** Where the returning current starts, and how many pixels a watt of it takes. */
  returnedBase: number
  returnedScale: number
}

type Point = [along: number, across: number]

/** The drawn band: delivered, turned to heat, held back, returned, and the salt line over it. */
export function SpineBand({
  shape,
  at,
  ticks,
}: {
  shape: BandShape
  at: Projection
  ticks: number[]
}) {
  const clip = (watts: number) => Math.min(watts, at.topW)
  const xy = ([along, across]: Point): string =>
    at.vertical
      ? `${across.toFixed(1)},${along.toFixed(1)}`
      : `${along.toFixed(1)},${across.toFixed(1)}`
  const toward = at.vertical ? 1 : -1
  const level = (watts: number): number => at.base + toward * clip(watts) * at.scale
  const along = (px: number): number => at.origin + px
  const path = (points: Point[]): string => `M${points.map(xy).join('L')}`
  const line = (a: Point, b: Point): string => path([a, b])

  const edge: Point[] = shape.net.map((p) => [along(p.along), level(p.watts)])
  const start = along(0)
  const end = along(shape.end)
  const floor: Point[] = [
    [end, at.base],
    [start, at.base],
  ]
  const net0 = shape.net[0]?.watts ?? 0
  const heat: Point[] = [...edge, [end, level(net0)], [along(shape.output), level(net0)]]
  const held: Point[] = [
    [start, level(net0)],
    [end, level(net0)],
    [end, level(shape.settingW)],
    [start, level(shape.settingW)],
  ]
  const returnedEdge = (watts: number) => at.returnedBase - toward * watts * at.returnedScale
  const returned: Point[] = [
    ...shape.returned.map((p): Point => [along(p.along), returnedEdge(p.watts)]),
    [end, at.returnedBase],
    [along(shape.output), at.returnedBase],
  ]
  const saltOffScale = shape.settingW > at.topW * 1.001
  const salt = level(shape.settingW) + (saltOffScale ? toward * 8 : 0)
  return (
    <g>
      <defs>
        <pattern
          id="hatch"
          width="6"
          height="6"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <path d="M0 0V6" stroke="var(--returned)" strokeWidth="2.5" />
        </pattern>
        <linearGradient
          id="tide"
          {...(at.vertical ? { x1: 1, x2: 0, y1: 0, y2: 0 } : { x1: 0, x2: 0, y1: 0, y2: 1 })}
        >
          <stop offset="0" stopColor="var(--tide-fill)" />
          <stop offset="1" stopColor="var(--tide-fill-deep)" />
        </linearGradient>
      </defs>
      {ticks.slice(1).map((w) => (
        <path
          key={w}
          d={line([start, level(w)], [end, level(w)])}
          stroke="var(--rule)"
          strokeWidth="1"
          opacity="0.6"
        />
      ))}
      <path d={`${path(heat)}Z`} fill="var(--heat-fill)" />
      <path d={`${path(held)}Z`} fill="url(#hatch)" opacity="0.32" />
      <path d={`${path([...edge, ...floor])}Z`} fill="url(#tide)" />
      <path
        d={path(edge)}
        fill="none"
        stroke="var(--tide)"
        strokeWidth="2.5"
        strokeLinejoin="round"
      />
      <path
        d={line([start, at.base], [end, at.base])}
        stroke="var(--tide)"
        strokeWidth="1"
        opacity="0.5"
      />
      <path d={`${path(returned)}Z`} fill="url(#hatch)" />
      <path
        d={line([start, salt], [end, salt])}
        stroke="var(--ink)"
        strokeWidth="1.6"
        strokeDasharray={saltOffScale ? '6 4 2 4' : '7 4'}
      />
      {shape.planes.map((p, k) => (
        <path
          key={k}
          d={line(
            [along(p), level(netAt(shape.net, p))],
            [along(p), returnedEdge(0) - toward * 14],
          )}
          stroke="var(--ink)"
          strokeWidth="1"
          strokeDasharray="1 3"
          opacity="0.75"
        />
      ))}
    </g>
  )
}

/** Net watts at a plane, which always has a point of its own. */
export const netAt = (net: readonly BandPoint[], along: number): number =>
  net.reduce((best, p) => (Math.abs(p.along - along) < Math.abs(best.along - along) ? p : best))
    .watts
