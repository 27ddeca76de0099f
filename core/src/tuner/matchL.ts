/** The L network in closed form, with the losses of its parts. */
import { type Complex, complex, divide, multiply, subtract } from '../complex.ts'
import { type NetworkElement, seriesUnit, shuntUnit } from './element.ts'

/** Sizes of the two reactances: |X| in series, Ω, and 1/|X| across, S. */
export interface LMatch {
  seriesOhm: number
  shuntSiemens: number
}

export interface LForm {
  series: NetworkElement['part']
  shunt: NetworkElement['part']
  /** Whether the shunt part is on the antenna's side of the series part, or on the transmitter's. */
  shuntAt: 'antenna' | 'transmitter'
}

const conjugateProduct = (a: Complex, b: Complex): Complex =>
  complex(a.re * b.re + a.im * b.im, a.im * b.re - a.re * b.im)

/**
 * All settings of an L network that turn a load into `targetOhm` exactly, losses included; none, one or
 * two.
 *
 * With the shunt at the antenna, (R − x·u)(Y + b·w) = 1; with it at the transmitter,
 * (G − b·w)(Z + x·u) = 1, u and w the directions of the two lossy reactances. Solving for b (or x)
 * leaves a complex quotient N/D, N and D straight in the other, whose imaginary part must vanish:
 * a quadratic.
 */
export function matchL(
  form: LForm,
  load: Complex,
  targetOhm: number,
  loss: { series: number; shunt: number },
): LMatch[] {
  const u = seriesUnit(form.series, loss.series)
  const w = shuntUnit(form.shunt, loss.shunt)
  const one = complex(1)
  const atAntenna = form.shuntAt === 'antenna'
  const [target, far, moving, fixed] = atAntenna
    ? [complex(targetOhm), divide(one, load), u, w]
    : [complex(1 / targetOhm), load, w, u]
  // other = (1 − target·far + t·moving·far) / (fixed·(target − t·moving)), t the free size.
  const n0 = subtract(one, multiply(target, far))
  const n1 = multiply(moving, far)
  const d0 = multiply(fixed, target)
  const d1 = multiply(fixed, complex(-moving.re, -moving.im))
  const imag = (a: Complex, b: Complex): number => conjugateProduct(a, b).im
  const sizes = quadratic(imag(n1, d1), imag(n0, d1) + imag(n1, d0), imag(n0, d0))
  return sizes.flatMap((t) => {
    const n = complex(n0.re + t * n1.re, n0.im + t * n1.im)
    const d = complex(d0.re + t * d1.re, d0.im + t * d1.im)
    const other = divide(n, d).re
    if (!(t >= 0 && other >= 0 && Number.isFinite(other))) return []
    return atAntenna
      ? [{ seriesOhm: t, shuntSiemens: other }]
      : [{ seriesOhm: other, shuntSiemens: t }]
  })
}

/** Real roots of a·t² + b·t + c. */
export function quadratic(a: number, b: number, c: number): number[] {
  if (Math.abs(a) < 1e-15 * Math.max(Math.abs(b), Math.abs(c))) return b === 0 ? [] : [-c / b]
  const d = b * b - 4 * a * c
  if (d < 0) return []
  // The form that loses no digits where the two roots are far apart.
  const q = -0.5 * (b + Math.sign(b || 1) * Math.sqrt(d))
  return q === 0 ? [0] : [q / a, c / q]
}
