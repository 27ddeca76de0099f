/**
 * A two-port as its ABCD matrix at one frequency: [Are, Aim, Bre, Bim, Cre, Cim, Dre, Dim], with
 * V₁ = A·V₂ + B·I₂ and I₁ = C·V₂ + D·I₂; B in ohms, C in siemens. Pozar, Microwave Engineering, 4.4.
 */
export type Abcd = Float64Array

export const newAbcd = (): Abcd => new Float64Array(8)

/** A plain through connection. */
export function writeThrough(out: Abcd): void {
  out.fill(0)
  out[0] = 1
  out[6] = 1
}

/**
 * The reactance of a part at another frequency than the one it was stated at: a coil (X > 0) grows
 * with f, a capacitor (X < 0) falls. Without `atHz` it is the same everywhere.
 */
export function reactanceAt(xOhm: number, atHz: number | undefined, frequencyHz: number): number {
  if (atHz === undefined) return xOhm
  return xOhm >= 0 ? (xOhm * frequencyHz) / atHz : (xOhm * atHz) / frequencyHz
}
