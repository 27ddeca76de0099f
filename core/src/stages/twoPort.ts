/**
 * A two-port as its ABCD matrix at one frequency: [Are, Aim, Bre, Bim, Cre, Cim, Dre, Dim, s], with
 * V₁ = eˢ·(A·V₂ + B·I₂) and I₁ = eˢ·(C·V₂ + D·I₂); B in ohms, C in siemens. Pozar, Microwave
 * Engineering, 4.4. The scale s is 0 but on parts so lossy that their matrix would overflow.
 */
export type Abcd = Float64Array

/** How many numbers a matrix is. */
export const ABCD_NUMBERS = 9

/**
 * Room for one matrix.
 *
 * @internal
 */
export const newAbcd = (): Abcd => new Float64Array(ABCD_NUMBERS)

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
    // 1/3!, 1/5!, … 1/13!
    const sinh =
      x *
      (1 +
        q *
          (1 / 6 +
            q *
              (1 / 120 +
                q * (1 / 5040 + q * (1 / 362880 + q * (1 / 39916800 + q * (1 / 6227020800)))))))
    out[0] = Math.sqrt(1 + sinh * sinh)
    out[1] = sinh
    return 0
  }
  const e = Math.exp(x)
  out[0] = (e + 1 / e) / 2
  out[1] = (e - 1 / e) / 2
  return 0
}

/** The first 33 bits of π/2, so that a few thousand quarter turns of it are exact, and the rest. */
const QUARTER = 1.5707963267341256
const QUARTER_REST = 6.077100506506192e-11
/** Beyond this the quarter turns are no longer exact, rad. */
const MOST_ANGLE = 1e5

/**
 * Sine and cosine of an angle at once, to the last digit: by their series within an eighth of a turn (Cody & Waite 1980).
 * Written into `out` as [sin, cos].
 *
 * @param x rad
 */
export function sinCos(x: number, out: Float64Array): void {
  if (!(x < MOST_ANGLE && x > -MOST_ANGLE)) {
    out[0] = Math.sin(x)
    out[1] = Math.cos(x)
    return
  }
  const turns = Math.floor(x * (2 / Math.PI) + 0.5)
  const r = x - turns * QUARTER - turns * QUARTER_REST
  const q = r * r
  // 1/3!, 1/5!, … 1/15! and 1/2!, 1/4!, … 1/16!
  const sin =
    r -
    r *
      q *
      (1 / 6 -
        q *
          (1 / 120 -
            q *
              (1 / 5040 -
                q *
                  (1 / 362880 -
                    q * (1 / 39916800 - q * (1 / 6227020800 - q * (1 / 1307674368000)))))))
  const cos =
    1 -
    q *
      (1 / 2 -
        q *
          (1 / 24 -
            q *
              (1 / 720 -
                q *
                  (1 / 40320 -
                    q *
                      (1 / 3628800 -
                        q * (1 / 479001600 - q * (1 / 87178291200 - q * (1 / 20922789888000))))))))
  switch (turns & 3) {
    case 0:
      out[0] = sin
      out[1] = cos
      return
    case 1:
      out[0] = cos
      out[1] = -sin
      return
    case 2:
      out[0] = -sin
      out[1] = -cos
      return
    default:
      out[0] = -cos
      out[1] = sin
  }
}
