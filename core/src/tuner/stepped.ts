/** Setting an auto tuner: every relay position is tried. */
import type { Complex } from '../complex.ts'
import { swrOf } from '../load/reflection.ts'
import { formatCapacitance, formatInductance } from '../units/format.ts'
import { lossFactor, type NetworkElement, throughElements } from './element.ts'
import type { SteppedTuner, TunerSetting } from './kinds.ts'

/** Settings whose SWR is within this of the least are near-equal; among them the loss decides. */
const NEAR = 0.05

let rhoSquared = new Float64Array(0)

/**
 * Searches all settings, 2 × 2ⁿ × 2ᵐ, for the least SWR, then for the least loss among the near-equal.
 * The coil is in line, the capacitor across on either side of it.
 */
export function setStepped(
  tuner: SteppedTuner,
  load: Complex,
  frequencyHz: number,
  referenceOhm: number,
): TunerSetting {
  const coils = 2 ** tuner.coilBits
  const capacitors = 2 ** tuner.capacitorBits
  const omega = 2 * Math.PI * frequencyHz
  const xStep = omega * tuner.coilStepH
  const bStep = omega * tuner.capacitorStepF
  const coilLoss = lossFactor('coil', tuner, frequencyHz)
  const capLoss = lossFactor('capacitor', tuner, frequencyHz)
  const gStep = (bStep * capLoss) / (1 + capLoss * capLoss)
  const sStep = bStep / (1 + capLoss * capLoss)
  const g0 = 1 / referenceOhm
  if (rhoSquared.length < 2 * coils * capacitors)
    rhoSquared = new Float64Array(2 * coils * capacitors)
  const { re: rl, im: xl } = load
  const zz = rl * rl + xl * xl
  const gl = rl / zz
  const bl = -xl / zz
  let best = Infinity
  let at = 0
  for (let i = 0; i < coils; i++) {
    const x = i * xStep
    const r = x * coilLoss
    // Capacitor at the transmitter: the admittance behind it does not depend on the capacitor.
    const sr = rl + r
    const sx = xl + x
    const ss = sr * sr + sx * sx
    const gs = sr / ss
    const bs = -sx / ss
    for (let j = 0; j < capacitors; j++) {
      // Capacitor at the antenna.
      const g = gl + j * gStep
      const b = bl + j * sStep
      const yy = g * g + b * b
      const zr = g / yy + r
      const zx = x - b / yy
      const antenna =
        ((zr - referenceOhm) * (zr - referenceOhm) + zx * zx) /
        ((zr + referenceOhm) * (zr + referenceOhm) + zx * zx)
      const yr = gs + j * gStep
      const yi = bs + j * sStep
      const transmitter = ((g0 - yr) * (g0 - yr) + yi * yi) / ((g0 + yr) * (g0 + yr) + yi * yi)
      rhoSquared[at++] = antenna
      rhoSquared[at++] = transmitter
      if (antenna < best) best = antenna
      if (transmitter < best) best = transmitter
    }
  }
  const enough = swrOf(Math.sqrt(best)) + NEAR
  const limit = ((enough - 1) / (enough + 1)) ** 2
  let chosen: { elements: NetworkElement[]; lossDb: number; rho: number } | null = null
  for (let k = 0; k < at; k++) {
    if (!(rhoSquared[k]! <= limit)) continue
    const j = (k >> 1) % capacitors
    const i = ((k >> 1) - j) / capacitors
    const coil: NetworkElement = { place: 'series', part: 'coil', value: i * tuner.coilStepH }
    const cap: NetworkElement = {
      place: 'shunt',
      part: 'capacitor',
      value: j * tuner.capacitorStepF,
    }
    const elements = k % 2 === 0 ? [coil, cap] : [cap, coil]
    const lossDb = lossOf(elements, tuner, load, frequencyHz)
    if (!chosen || lossDb < chosen.lossDb)
      chosen = { elements, lossDb, rho: Math.sqrt(rhoSquared[k]!) }
  }
  if (!chosen)
    return {
      elements: [],
      rho: 1,
      lossDb: 0,
      matched: false,
      reason: 'the load takes no power at all',
    }
  const swr = swrOf(chosen.rho)
  const matched = swr <= tuner.contentSwr
  return {
    ...chosen,
    matched,
    ...(!matched && {
      reason: `the nearest of its steps is SWR ${swr.toPrecision(3)}; it has up to ${formatInductance((coils - 1) * tuner.coilStepH)} and ${formatCapacitance((capacitors - 1) * tuner.capacitorStepF)}`,
    }),
  }
}

const pair = new Float64Array(4)

function lossOf(
  elements: readonly NetworkElement[],
  tuner: SteppedTuner,
  load: Complex,
  hz: number,
): number {
  pair[0] = load.re
  pair[1] = load.im
  pair[2] = 1
  pair[3] = 0
  throughElements(elements, tuner, hz, pair)
  return 10 * Math.log10((pair[0] * pair[2] + pair[1] * pair[3]) / load.re)
}
