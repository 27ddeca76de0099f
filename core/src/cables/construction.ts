import { DB_PER_NEPER, SPEED_OF_LIGHT } from '../constants.ts'
import { InputError } from '../errors.ts'
import type { Cable } from '../line/cable.ts'

/** What a coaxial cable is made of. */
export interface CableConstruction {
  /** Diameter of the inner conductor, mm; of strands, the effective one. */
  innerMm: number
  /** Diameter over the dielectric, mm. */
  dielectricMm: number
  epsilonR: number
  tanDelta: number
  /** Resistance over that of smooth solid copper: stranding or plating of the inner conductor … */
  innerFactor: number
  /** … and the braid or foil of the outer one. */
  outerFactor: number
}

/** Surface resistance of copper at 1 MHz, Ω (ρ = 1.724e-8 Ω·m). */
const COPPER_RS_1MHZ = Math.sqrt(Math.PI * 1e6 * 4e-7 * Math.PI * 1.724e-8)

/**
 * The electrical class that follows from a construction. Z₀ = 60/√εr·ln(D/d), VF = 1/√εr, α_c from
 * the surface resistance of both conductors, α_d = 27.3·√εr·tan δ/λ₀ dB per metre.
 * Source: Pozar, Microwave Engineering, 2.2 and 2.7.
 *
 * @throws InputError where the inner conductor does not fit into the dielectric
 * @example cableFromConstruction({ innerMm: 2.26, dielectricMm: 7.25, epsilonR: 2.26, tanDelta: 2e-4, innerFactor: 1.1, outerFactor: 1.2 }).z0Ohm
 *   // 46.52
 */
export function cableFromConstruction(made: CableConstruction): Cable {
  const { innerMm, dielectricMm, epsilonR, tanDelta, innerFactor, outerFactor } = made
  if (!(innerMm > 0))
    throw new InputError('The inner conductor must be thicker than 0 mm.', ['innerMm'])
  if (!(dielectricMm > innerMm)) {
    throw new InputError('The dielectric must be thicker than the inner conductor.', [
      'dielectricMm',
    ])
  }
  if (!(epsilonR >= 1)) throw new InputError('The permittivity εr must be 1 or more.', ['epsilonR'])
  const z0Ohm = (60 / Math.sqrt(epsilonR)) * Math.log(dielectricMm / innerMm)
  const ohmPerM =
    (COPPER_RS_1MHZ / Math.PI) *
    (innerFactor / (innerMm / 1000) + outerFactor / (dielectricMm / 1000))
  return {
    z0Ohm,
    velocityFactor: 1 / Math.sqrt(epsilonR),
    k1DbPer100m: (ohmPerM / (2 * z0Ohm)) * DB_PER_NEPER * 100,
    k2DbPer100m: ((27.3 * Math.sqrt(epsilonR) * tanDelta * 1e6) / SPEED_OF_LIGHT) * 100,
  }
}

/** Capacitance per metre, pF: 1/(Z₀·v). */
export const capacitancePfPerM = ({ z0Ohm, velocityFactor }: Cable): number =>
  1e12 / (z0Ohm * velocityFactor * SPEED_OF_LIGHT)
