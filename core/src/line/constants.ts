import { DB_PER_NEPER, NEPER_PER_M, SPEED_OF_LIGHT } from '../constants.ts'
import { type Cable, conductorDbPer100m, dielectricDbPer100m } from './cable.ts'

/** Distributed constants of a lossy line at one frequency. */
export interface LineConstants {
  /** Series resistance, Ω/m. */
  rPerM: number
  /** Shunt conductance, S/m. */
  gPerM: number
  /** Propagation constant γ = α + jβ: nepers and radians per metre. */
  alpha: number
  beta: number
  /** Characteristic impedance Zc, Ω; complex, and that matters on thin cable at low frequency. */
  zcRe: number
  zcIm: number
}

/**
 * Room for the constants of a line, to be filled without allocating.
 *
 * @internal
 */
export const emptyLineConstants = (): LineConstants => ({
  rPerM: 0,
  gPerM: 0,
  alpha: 0,
  beta: 0,
  zcRe: 0,
  zcIm: 0,
})

/**
 * R, G, γ and Zc of a cable at a frequency, written into `out`.
 *
 * R = 2·R₀·α_c, G = 2·α_d/R₀, C = 1/(R₀·v), and L = R₀/v + R/ω: under skin effect the internal
 * reactance of the conductors equals their resistance (Ramo, Whinnery & Van Duzer, 3.16).
 * γ = √((R + jωL)(G + jωC)), Zc = (R + jωL)/γ.
 *
 * @example lineConstants(cable, 10e6)
 *   // { rPerM: 0.7281, gPerM: 0.00000921, alpha: 0.007354, beta: 0.3248, zcRe: 51.15, zcIm: -1.084 }
 */
export function lineConstants(
  cable: Cable,
  frequencyHz: number,
  out: LineConstants = emptyLineConstants(),
): LineConstants {
  const omega = 2 * Math.PI * frequencyHz
  const v = cable.velocityFactor * SPEED_OF_LIGHT
  const r = 2 * cable.z0Ohm * conductorDbPer100m(cable, frequencyHz) * NEPER_PER_M
  const g = (2 * dielectricDbPer100m(cable, frequencyHz) * NEPER_PER_M) / cable.z0Ohm
  const x = (omega * cable.z0Ohm) / v + r
  const b = omega / (cable.z0Ohm * v)

  const squaredRe = r * g - x * b
  const squaredIm = r * b + x * g
  // β first: the real part would be a difference of two nearly equal numbers on a low-loss line.
  const size = Math.sqrt(squaredRe * squaredRe + squaredIm * squaredIm)
  const beta = Math.sqrt((size - squaredRe) / 2)
  const alpha = squaredIm / (2 * beta)
  const d = alpha * alpha + beta * beta

  out.rPerM = r
  out.gPerM = g
  out.alpha = alpha
  out.beta = beta
  out.zcRe = (r * alpha + x * beta) / d
  out.zcIm = (x * alpha - r * beta) / d
  return out
}

/**
 * Loss of a line that is terminated in its own Zc, dB.
 *
 * @example matchedLossDb(lineConstants(cable, 10e6), 30) // 1.916
 */
export const matchedLossDb = (constants: LineConstants, lengthM: number): number =>
  constants.alpha * lengthM * DB_PER_NEPER
