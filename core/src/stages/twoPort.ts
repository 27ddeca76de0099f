/**
 * A two-port as its ABCD matrix at one frequency: [Are, Aim, Bre, Bim, Cre, Cim, Dre, Dim, s], with
 * V₁ = eˢ·(A·V₂ + B·I₂) and I₁ = eˢ·(C·V₂ + D·I₂); B in ohms, C in siemens. Pozar, Microwave
 * Engineering, 4.4. The scale s is 0 but on parts so lossy that their matrix would overflow.
 */
export type Abcd = Float64Array

/**
 * Room for one matrix.
 *
 * @internal
 */
export const newAbcd = (): Abcd => new Float64Array(9)

/** A plain through connection. */
export const writeThrough = (out: Abcd): void => writeReal(out, 1, 0, 0, 1)

/** A two-port of real A, B, C and D. */
export function writeReal(out: Abcd, a: number, b: number, c: number, d: number): void {
  // One by one: on eight numbers `fill` costs more than the circuit does.
  out[0] = a
  out[1] = 0
  out[2] = b
  out[3] = 0
  out[4] = c
  out[5] = 0
  out[6] = d
  out[7] = 0
  out[8] = 0
}

/** The same with R + jX in series behind it: multiplied by [1, Z; 0, 1]. */
export function thenSeries(m: Abcd, rOhm: number, xOhm: number): void {
  for (const [to, from] of [
    [2, 0],
    [6, 4],
  ] as const) {
    m[to]! += m[from]! * rOhm - m[from + 1]! * xOhm
    m[to + 1]! += m[from]! * xOhm + m[from + 1]! * rOhm
  }
}

/** The same with G + jB across behind it: multiplied by [1, 0; Y, 1]. */
export function thenShunt(m: Abcd, gSiemens: number, bSiemens: number): void {
  for (const [to, from] of [
    [0, 2],
    [4, 6],
  ] as const) {
    m[to]! += m[from]! * gSiemens - m[from + 1]! * bSiemens
    m[to + 1]! += m[from]! * bSiemens + m[from + 1]! * gSiemens
  }
}

/** The same with an ideal transformer behind it that makes n times the voltage: multiplied by [1/n, 0; 0, n]. */
export function thenRatio(m: Abcd, n: number): void {
  m[0]! /= n
  m[1]! /= n
  m[4]! /= n
  m[5]! /= n
  m[2]! *= n
  m[3]! *= n
  m[6]! *= n
  m[7]! *= n
}

/**
 * The reactance of a part at another frequency than the one it was stated at: a coil (X > 0) grows
 * with f, a capacitor (X < 0) falls. Without `atHz` it is the same everywhere.
 */
export function reactanceAt(xOhm: number, atHz: number | undefined, frequencyHz: number): number {
  if (atHz === undefined) return xOhm
  return xOhm >= 0 ? (xOhm * frequencyHz) / atHz : (xOhm * atHz) / frequencyHz
}

/** From here on e⁻ˣ is nothing beside eˣ in double precision: cosh = sinh = eˣ/2. */
const ONE_WAY_NEPER = 20
/** Up to here seven terms of sinh are exact. */
const SERIES = 0.7

/**
 * cosh x and sinh x for x ≥ 0, exact also for small x, where (eˣ − e⁻ˣ)/2 would lose its digits: there by the series of
 * sinh, which costs less than an exponential. Written into `out` as [cosh, sinh], both divided by eˢ.
 *
 * @returns s: 0, or x where the exponential would grow out of hand
 */
export function hyperbolic(x: number, out: Float64Array): number {
  if (x > ONE_WAY_NEPER) {
    out[0] = 0.5
    out[1] = 0.5
    return x
  }
  if (x < SERIES) {
    const q = x * x
    const sinh =
      x *
      (1 +
        (q / 6) *
          (1 + (q / 20) * (1 + (q / 42) * (1 + (q / 72) * (1 + (q / 110) * (1 + q / 156))))))
    out[0] = Math.sqrt(1 + sinh * sinh)
    out[1] = sinh
    return 0
  }
  const e = Math.exp(x)
  out[0] = (e + 1 / e) / 2
  out[1] = (e - 1 / e) / 2
  return 0
}
