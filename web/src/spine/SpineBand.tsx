import type { BandPoint, Leg } from './geometry.ts'

export interface BandShape {
  /** Net watts along the spine, from the transmitter's end to the antenna. */
  net: BandPoint[]
  returned: BandPoint[]
  planes: number[]
  end: number
  /** The transmitter's, and that of every amplifier. */
  legs: Leg[]
  /** Net watts of a chain to compare with. */
  outline?: BandPoint[] | null | undefined
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
  /** What became heat under a leg's level, what never left its source, and its salt line. */
  const legs = shape.legs.map((leg) => {
    const inside = shape.net.filter((p) => p.along >= leg.output && p.along <= leg.end)
    const off = leg.settingW > at.topW * 1.001
    const salt = level(leg.settingW) + (off ? toward * 8 : 0)
    const [from, to] = [along(leg.start), along(leg.end)]
    return {
      heat: [
        ...inside.map((p): Point => [along(p.along), level(p.watts)]),
        [to, level(leg.netW)],
        [along(leg.output), level(leg.netW)],
      ] satisfies Point[],
      held: [
        [from, level(leg.netW)],
        [to, level(leg.netW)],
        [to, level(leg.settingW)],
        [from, level(leg.settingW)],
      ] satisfies Point[],
      salt: line([from, salt], [to, salt]),
      dashes: off ? '6 4 2 4' : '7 4',
    }
  })
  const returnedEdge = (watts: number) => at.returnedBase - toward * watts * at.returnedScale
  const returned: Point[] = [
    ...shape.returned.map((p): Point => [along(p.along), returnedEdge(p.watts)]),
    [end, at.returnedBase],
    [along(shape.legs[0]!.output), at.returnedBase],
  ]
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
      {legs.map(({ heat, held }, k) => (
        <g key={k}>
          <path d={`${path(heat)}Z`} fill="var(--heat-fill)" />
          <path d={`${path(held)}Z`} fill="url(#hatch)" opacity="0.32" />
        </g>
      ))}
      <path d={`${path([...edge, ...floor])}Z`} fill="url(#tide)" />
      <path
        d={path(edge)}
        fill="none"
        stroke="var(--tide)"
        strokeWidth="2.5"
        strokeLinejoin="round"
      />
      {shape.outline && (
        <path
          d={path(shape.outline.map((p): Point => [along(p.along), level(p.watts)]))}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="1.2"
          strokeDasharray="5 3"
          opacity="0.7"
        />
      )}
      <path
        d={line([start, at.base], [end, at.base])}
        stroke="var(--tide)"
        strokeWidth="1"
        opacity="0.5"
      />
      <path d={`${path(returned)}Z`} fill="url(#hatch)" />
      {legs.map(({ salt, dashes }, k) => (
        <path key={k} d={salt} stroke="var(--ink)" strokeWidth="1.6" strokeDasharray={dashes} />
      ))}
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
