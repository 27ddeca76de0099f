import { type Complex, complex, divide } from '../complex.ts'
import { reflectionOf } from '../load/reflection.ts'
import { inputImpedance } from '../source/amplifier.ts'
import { type Stage, writeStage } from '../stages/stage.ts'
import { ABCD_NUMBERS } from '../stages/twoPort.ts'
import { setTuner, throughTuner } from '../tuner/tuner.ts'
import type { TunerSettings } from './chain.ts'
import { LARGE, newWaves, type Phasors, scaleIndex, wavesAt } from './phasors.ts'

const pair = new Float64Array(4)

const waves = newWaves()

/**
 * The matrices of all stages on one frequency, one behind the other. They do not depend on the load: who walks a chain for
 * many loads makes them once. Stages that set or drive themselves have none.
 */
export function matricesOf(
  stages: readonly Stage[],
  frequencyHz: number,
  referenceOhm: number,
): Float64Array {
  const all = new Float64Array(ABCD_NUMBERS * stages.length)
  stages.forEach((stage, k) => writeMatrix(stage, frequencyHz, referenceOhm, matrixAt(all, k)))
  return all
}

/**
 * The matrix of one of the stages among those of all, to read or to write.
 *
 * @internal
 */
export const matrixAt = (all: Float64Array, k: number): Float64Array =>
  all.subarray(ABCD_NUMBERS * k, ABCD_NUMBERS * (k + 1))

/**
 * Writes a stage's matrix; of one that sets or drives itself, nothing.
 *
 * @internal
 */
export function writeMatrix(
  stage: Stage,
  frequencyHz: number,
  referenceOhm: number,
  out: Float64Array,
): void {
  if (stage.bypassed || (stage.kind !== 'tuner' && stage.kind !== 'amplifier'))
    writeStage(stage, frequencyHz, referenceOhm, out)
}

/**
 * Walks from the load to the transmitter and fills in voltage and current at every plane, for one
 * volt of forward wave at the load. Scale is the source's business. Growing toward the source is
 * the numerically safe direction, and an open or shorted load needs no special case. An amplifier
 * begins anew: in front of it, one volt of forward wave at its input.
 *
 * @param settings of the tuners; one that is missing is set for the load it meets, and put in
 * @param m of the stages, as `matricesOf` gives them
 */
export function walk(
  stages: readonly Stage[],
  frequencyHz: number,
  referenceOhm: number,
  loadReflection: Complex,
  out: Phasors,
  settings: TunerSettings = [],
  m = matricesOf(stages, frequencyHz, referenceOhm),
): void {
  startAt(out, stages.length, loadReflection, referenceOhm)
  for (let k = stages.length - 1; k >= 0; k--) {
    const stage = stages[k]!
    const o = 4 * k
    if (stage.kind === 'amplifier' && !stage.bypassed) {
      const input = reflectionOf(inputImpedance(stage, frequencyHz), referenceOhm)
      startAt(out, k, input, referenceOhm)
    } else if (stage.kind === 'tuner' && !stage.bypassed) {
      for (let i = 0; i < 4; i++) pair[i] = out[o + 4 + i]!
      const setting = (settings[k] ??= setTuner(
        stage,
        divide(complex(pair[0]!, pair[1]), complex(pair[2]!, pair[3])),
        frequencyHz,
        referenceOhm,
      ))
      if (setting.presents) presentAt(out, k, setting.presents, setting.lossDb, referenceOhm)
      else {
        throughTuner(stage, setting, frequencyHz, referenceOhm, pair)
        out.set(pair, o)
        out[scaleIndex(out, k)] = out[scaleIndex(out, k + 1)]!
      }
    } else {
      const a = ABCD_NUMBERS * k
      const vRe = out[o + 4]!
      const vIm = out[o + 5]!
      const iRe = out[o + 6]!
      const iIm = out[o + 7]!
      out[o] = m[a]! * vRe - m[a + 1]! * vIm + m[a + 2]! * iRe - m[a + 3]! * iIm
      out[o + 1] = m[a]! * vIm + m[a + 1]! * vRe + m[a + 2]! * iIm + m[a + 3]! * iRe
      out[o + 2] = m[a + 4]! * vRe - m[a + 5]! * vIm + m[a + 6]! * iRe - m[a + 7]! * iIm
      out[o + 3] = m[a + 4]! * vIm + m[a + 5]! * vRe + m[a + 6]! * iIm + m[a + 7]! * iRe
      const own = scaleIndex(out, k)
      out[own] = out[own + 1]! + m[a + 8]!
      const size =
        Math.abs(out[o]) +
        Math.abs(out[o + 1]!) +
        (Math.abs(out[o + 2]!) + Math.abs(out[o + 3]!)) * referenceOhm
      if (size > LARGE) {
        for (let i = o; i < o + 4; i++) out[i]! /= size
        out[own] += Math.log(size)
      }
    }
  }
}

/** One volt of forward wave at a plane, and what comes back of it. */
function startAt(out: Phasors, plane: number, reflection: Complex, referenceOhm: number): void {
  const o = 4 * plane
  out[o] = 1 + reflection.re
  out[o + 1] = reflection.im
  out[o + 2] = (1 - reflection.re) / referenceOhm
  out[o + 3] = -reflection.im / referenceOhm
  out[scaleIndex(out, plane)] = 0
}

/** At a plane: a reflection, and so much more net power than at the plane behind it. */
function presentAt(
  out: Phasors,
  plane: number,
  reflection: Complex,
  lossDb: number,
  referenceOhm: number,
): void {
  const net = wavesAt(out, plane + 1, referenceOhm, waves).net * 10 ** (lossDb / 10)
  // What takes no power at all is not matched by anything: it is seen as it is.
  if (!(net > 0)) {
    out.copyWithin(4 * plane, 4 * plane + 4, 4 * plane + 8)
    out[scaleIndex(out, plane)] = out[scaleIndex(out, plane + 1)]!
    return
  }
  startAt(out, plane, reflection, referenceOhm)
  const scale = Math.sqrt(net / wavesAt(out, plane, referenceOhm, waves).net)
  for (let i = 4 * plane; i < 4 * plane + 4; i++) out[i]! *= scale
  out[scaleIndex(out, plane)] = out[scaleIndex(out, plane + 1)]!
}
