/** The L network in closed form, with the losses of its parts. */
import { type Complex, complex, divide } from '../complex.ts'
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
  const atAntenna = form.shuntAt === 'antenna'
  const u = seriesUnit(form.series, loss.series)
  const w = shuntUnit(form.shunt, loss.shunt)
  const target = atAntenna ? targetOhm : 1 / targetOhm
  const far = atAntenna ? divide(complex(1), load) : load
  const [moving, fixed] = atAntenna ? [u, w] : [w, u]
  // other = (1 − target·far + t·moving·far) / (fixed·(target − t·moving)), t the free size.
  const n0Re = 1 - target * far.re
  const n0Im = -target * far.im
  const n1Re = moving.re * far.re - moving.im * far.im
  const n1Im = moving.re * far.im + moving.im * far.re
  const d0Re = fixed.re * target
  const d0Im = fixed.im * target
  const d1Re = fixed.im * moving.im - fixed.re * moving.re
  const d1Im = -fixed.re * moving.im - fixed.im * moving.re
  // The imaginary part of N·D*.
  const sizes = quadratic(
    n1Im * d1Re - n1Re * d1Im,
    n0Im * d1Re - n0Re * d1Im + n1Im * d0Re - n1Re * d0Im,
    n0Im * d0Re - n0Re * d0Im,
  )
  const matches: LMatch[] = []
  for (const t of sizes) {
    const dRe = d0Re + t * d1Re
    const dIm = d0Im + t * d1Im
    const other = ((n0Re + t * n1Re) * dRe + (n0Im + t * n1Im) * dIm) / (dRe * dRe + dIm * dIm)
    if (!(t >= 0 && other >= 0 && Number.isFinite(other))) continue
    matches.push(
      atAntenna ? { seriesOhm: t, shuntSiemens: other } : { seriesOhm: other, shuntSiemens: t },
    )
  }
  return matches
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
