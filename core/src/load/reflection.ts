/** Reflection, SWR and impedance: three ways to say one thing. Pozar, Microwave Engineering, 2.3. */
import { type Complex, complex, divide, magnitude } from '../complex.ts'

/** ρ = (Z − Z₀)/(Z + Z₀) for a real reference. Takes an open circuit as infinite R. */
export function reflectionOf(impedanceOhm: Complex, referenceOhm: number): Complex {
  if (!Number.isFinite(impedanceOhm.re) || !Number.isFinite(impedanceOhm.im)) return complex(1)
  return divide(
    complex(impedanceOhm.re - referenceOhm, impedanceOhm.im),
    complex(impedanceOhm.re + referenceOhm, impedanceOhm.im),
  )
}

/**
 * Z = Z₀·(1 + ρ)/(1 − ρ). An open circuit (ρ = 1) gives an infinite R.
 *
 * @example impedanceOf({ re: 1 / 3, im: 0 }, 50) // { re: 100, im: 0 }
 */
export function impedanceOf(reflection: Complex, referenceOhm: number): Complex {
  if (reflection.re === 1 && reflection.im === 0) return complex(Infinity)
  const z = divide(
    complex(1 + reflection.re, reflection.im),
    complex(1 - reflection.re, -reflection.im),
  )
  return complex(z.re * referenceOhm, z.im * referenceOhm)
}

/**
 * SWR of |ρ|; infinite from |ρ| = 1 on, NaN for an unknown.
 *
 * @example swrOf(1 / 3) // 2
 */
export const swrOf = (rho: number): number => (rho >= 1 ? Infinity : (1 + rho) / (1 - rho))

/**
 * |ρ| of an SWR ≥ 1.
 *
 * @example rhoOfSwr(3) // 0.5
 */
export const rhoOfSwr = (swr: number): number => (Number.isFinite(swr) ? (swr - 1) / (swr + 1) : 1)

/**
 * Return loss in dB, ≥ 0; infinite for a perfect match.
 *
 * @example returnLossDb(0.1) // 20
 */
export const returnLossDb = (rho: number): number => -20 * Math.log10(rho)

/** What a 50 Ω generator loses to the mismatch, dB: −10·log₁₀(1 − |ρ|²). */
export const mismatchLossDb = (rho: number): number => -10 * Math.log10(1 - rho * rho)

/** The same load seen on another real reference. */
export const renormalise = (reflection: Complex, fromOhm: number, toOhm: number): Complex =>
  fromOhm === toOhm ? reflection : reflectionOf(impedanceOf(reflection, fromOhm), toOhm)

/** SWR of an impedance on a real reference. */
export const swrOfImpedance = (impedanceOhm: Complex, referenceOhm: number): number =>
  swrOf(magnitude(reflectionOf(impedanceOhm, referenceOhm)))
