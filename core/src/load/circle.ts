import { type Complex, complex } from '../complex.ts'

/** A circle of reflections at the feed point, any of which may be the antenna's: its middle, and how far they lie from it. */
export interface ReflectionCircle {
  re: number
  im: number
  radius: number
}

/**
 * The reflection at an angle of a circle, seen from its middle; nothing passive sends back more than it gets.
 *
 * @param phaseRad rad
 * @example onCircle({ re: 0.1, im: 0, radius: 0.2 }, 0) // { re: 0.3, im: 0 }
 */
export function onCircle({ re, im, radius }: ReflectionCircle, phaseRad: number): Complex {
  const at = complex(re + radius * Math.cos(phaseRad), im + radius * Math.sin(phaseRad))
  const size = Math.hypot(at.re, at.im)
  return size <= 1 ? at : complex(at.re / size, at.im / size)
}

/**
 * The circle through three reflections.
 *
 * @returns null where they lie on a line
 * @example circleThrough([complex(1), complex(0, 1), complex(-1)]) // { re: 0, im: 0, radius: 1 }
 */
export function circleThrough([a, b, c]: readonly [
  Complex,
  Complex,
  Complex,
]): ReflectionCircle | null {
  const [bx, by] = [b.re - a.re, b.im - a.im]
  const [cx, cy] = [c.re - a.re, c.im - a.im]
  const area = 2 * (bx * cy - by * cx)
  const [bb, cc] = [bx * bx + by * by, cx * cx + cy * cy]
  const [x, y] = [(cy * bb - by * cc) / area, (bx * cc - cx * bb) / area]
  return Number.isFinite(x + y) ? { re: a.re + x, im: a.im + y, radius: Math.hypot(x, y) } : null
}
