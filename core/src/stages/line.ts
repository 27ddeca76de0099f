import { cableRatings } from './rating.ts'
import { heatPerMetreStress, powerStress, voltageStress } from './stress.ts'
import type { Cable } from '../line/cable.ts'
import { emptyLineConstants, type LineConstants, lineConstants } from '../line/constants.ts'
import { half } from '../statistics/random.ts'
import type { Tolerances } from '../chain/tolerances.ts'
import type { Checks, StageModel } from './model.ts'
import { type Abcd, hyperbolic, sinCos } from './twoPort.ts'

/** A section of coaxial cable. */
export interface LineStage {
  kind: 'line'
  lengthM: number
  cable: Cable
  /** Loss over that of a new cable, ≥ 1; water and corrosion raise it. */
  ageing?: { factor: number } | undefined
  /** Temperature of the conductors, °C; 20 unless given. */
  temperatureC?: number | undefined
  /** How well its own loss is known from a measurement, as a share; the chain’s tolerance of cables unless given. */
  lossKnown?: { share: number } | undefined
}

/** Conductor loss rises 0.2 % per K: resistivity 0.39 % per K, under the root of skin effect. */
const CONDUCTOR_LOSS_PER_K = 0.002

/** The cable of a section as it is today: aged, and at its temperature. */
export function cableToday(stage: LineStage): Cable {
  const { cable, ageing, temperatureC } = stage
  if (!ageing && temperatureC === undefined) return cable
  const factor = ageing?.factor ?? 1
  const warm = 1 + CONDUCTOR_LOSS_PER_K * ((temperatureC ?? 20) - 20)
  return {
    ...cable,
    k1DbPer100m: cable.k1DbPer100m * factor * warm,
    k2DbPer100m: cable.k2DbPer100m * factor,
  }
}

const scratch = emptyLineConstants()
const hyper = new Float64Array(2)
const angle = new Float64Array(2)

/** What `scratch` holds the constants of: runs of one cable follow each other, and often share a frequency. */
const held = { hz: NaN, z0: 0, velocity: 0, k1: 0, k2: 0 }

function constantsOf(cable: Cable, hz: number): LineConstants {
  if (
    hz !== held.hz ||
    cable.k1DbPer100m !== held.k1 ||
    cable.k2DbPer100m !== held.k2 ||
    cable.z0Ohm !== held.z0 ||
    cable.velocityFactor !== held.velocity
  ) {
    lineConstants(cable, hz, scratch)
    held.hz = hz
    held.k1 = cable.k1DbPer100m
    held.k2 = cable.k2DbPer100m
    held.z0 = cable.z0Ohm
    held.velocity = cable.velocityFactor
  }
  return scratch
}

/** [cosh γℓ, Zc·sinh γℓ; sinh γℓ/Zc, cosh γℓ], without the exponential of a very lossy length. */
export function writeLine(stage: LineStage, frequencyHz: number, out: Abcd): void {
  const { alpha, beta, zcRe, zcIm } = constantsOf(cableToday(stage), frequencyHz)
  out[8] = hyperbolic(alpha * stage.lengthM, hyper)
  const cosh = hyper[0]!
  const sinh = hyper[1]!
  sinCos(beta * stage.lengthM, angle)
  const sin = angle[0]!
  const cos = angle[1]!
  const coshRe = cosh * cos
  const coshIm = sinh * sin
  const sinhRe = sinh * cos
  const sinhIm = cosh * sin
  const zc2 = zcRe * zcRe + zcIm * zcIm
  out[0] = coshRe
  out[1] = coshIm
  out[2] = zcRe * sinhRe - zcIm * sinhIm
  out[3] = zcRe * sinhIm + zcIm * sinhRe
  out[4] = (sinhRe * zcRe + sinhIm * zcIm) / zc2
  out[5] = (sinhIm * zcRe - sinhRe * zcIm) / zc2
  out[6] = coshRe
  out[7] = coshIm
}

/** Refuses a cable that no line can be; `path` leads to it. */
export function checkCable(cable: Cable, { positive, notNegative }: Checks): void {
  positive(cable.z0Ohm, 'Impedance', 'cable', 'z0Ohm')
  positive(cable.velocityFactor, 'Velocity factor', 'cable', 'velocityFactor')
  notNegative(cable.k1DbPer100m, 'k₁', 'cable', 'k1DbPer100m')
  notNegative(cable.k2DbPer100m, 'k₂', 'cable', 'k2DbPer100m')
}

/** The same cable if it took nothing. */
export const losslessCable = (cable: Cable): Cable => ({
  ...cable,
  k1DbPer100m: 0,
  k2DbPer100m: 0,
})

/** Where cables are taken as they are given, a measured one is too. */
export const lossTolerance = ({ lossKnown }: LineStage, { cable }: Tolerances): number =>
  cable === 0 ? 0 : (lossKnown?.share ?? cable)

/**
 * Checks, matrix and tolerances of a length of cable.
 *
 * @internal
 */
export const lineModel: StageModel<LineStage> = {
  check: ({ lengthM, ageing, cable, lossKnown }, checks) => {
    checks.notNegative(lengthM, 'Length', 'lengthM')
    if (ageing) checks.positive(ageing.factor, 'Ageing factor', 'ageing', 'factor')
    if (lossKnown) checks.notNegative(lossKnown.share, 'Share', 'lossKnown', 'share')
    checkCable(cable, checks)
  },
  write: (stage, hz, _reference, out) => writeLine(stage, hz, out),
  varied: {
    copy: (stage) => ({ ...stage, cable: { ...stage.cable } }),
    draw: (from, to, tolerances, random) => {
      to.lengthM = from.lengthM * Math.max(0, 1 + half(random) * tolerances.length)
      const loss = Math.max(0, 1 + half(random) * lossTolerance(from, tolerances))
      to.cable.k1DbPer100m = from.cable.k1DbPer100m * loss
      to.cable.k2DbPer100m = from.cable.k2DbPer100m * loss
    },
  },
  stresses: ({ cable, lengthM }, at) => {
    const { maxVoltageRms, maxHeatWPerM, matchedLossDb } = at.state.line!
    const heat =
      matchedLossDb > 0 || lengthM === 0
        ? heatPerMetreStress(at, cable, maxHeatWPerM.value)
        : // A cable given without loss has no heat to judge: its rating is then held against the power.
          powerStress(at, at.before, at.behind)
    return [
      { ...voltageStress(at, maxVoltageRms.value), fromLoadM: maxVoltageRms.fromLoadM },
      { ...heat, fromLoadM: maxHeatWPerM.fromLoadM },
    ]
  },
  ratings: ({ cable }) => cableRatings(cable),
  lossless: ({ ageing: _, ...stage }) => ({ ...stage, cable: losslessCable(stage.cable) }),
}
