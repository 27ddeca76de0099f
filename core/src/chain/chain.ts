import type { Complex } from '../complex.ts'
import { REFERENCE_OHM } from '../constants.ts'
import { InputError } from '../errors.ts'
import type { Load } from '../load/load.ts'
import type { Transmitter } from '../source/transmitter.ts'
import { type Stage, writeStage } from '../stages/stage.ts'
import { type Abcd, newAbcd } from '../stages/twoPort.ts'

/** One path from a transmitter to an antenna. Stage k sits between plane k and plane k + 1. */
export interface Chain {
  transmitter: Transmitter
  stages: readonly Stage[]
  load: Load
  /** Impedance on which forward, reflected and SWR are stated, Ω; 50 unless given. */
  referenceOhm?: number | undefined
}

/** Where on the air, and with how much set power (PEP). */
export interface OperatingPoint {
  frequencyHz: number
  powerW: number
}

export const referenceOf = (chain: Chain): number => chain.referenceOhm ?? REFERENCE_OHM

/** Voltage and current at every plane, four numbers a plane: V re, V im, I re, I im. */
export type Phasors = Float64Array

export const newPhasors = (stageCount: number): Phasors => new Float64Array(4 * (stageCount + 1))

const abcd: Abcd = newAbcd()

/**
 * Walks from the load to the transmitter and fills in voltage and current at every plane, for one
 * volt of forward wave at the load. Scale is the source's business. Growing toward the source is
 * the numerically safe direction, and an open or shorted load needs no special case.
 */
export function walk(
  stages: readonly Stage[],
  frequencyHz: number,
  referenceOhm: number,
  loadReflection: Complex,
  out: Phasors,
): void {
  let o = 4 * stages.length
  out[o] = 1 + loadReflection.re
  out[o + 1] = loadReflection.im
  out[o + 2] = (1 - loadReflection.re) / referenceOhm
  out[o + 3] = -loadReflection.im / referenceOhm
  for (let k = stages.length - 1; k >= 0; k--) {
    writeStage(stages[k]!, frequencyHz, referenceOhm, abcd)
    const vRe = out[o]!
    const vIm = out[o + 1]!
    const iRe = out[o + 2]!
    const iIm = out[o + 3]!
    o -= 4
    out[o] = abcd[0]! * vRe - abcd[1]! * vIm + abcd[2]! * iRe - abcd[3]! * iIm
    out[o + 1] = abcd[0]! * vIm + abcd[1]! * vRe + abcd[2]! * iIm + abcd[3]! * iRe
    out[o + 2] = abcd[4]! * vRe - abcd[5]! * vIm + abcd[6]! * iRe - abcd[7]! * iIm
    out[o + 3] = abcd[4]! * vIm + abcd[5]! * vRe + abcd[6]! * iIm + abcd[7]! * iRe
  }
}

/** Forward, reflected and net power at one plane of unscaled phasors, and |ρ|. */
export interface Waves {
  forward: number
  reflected: number
  net: number
  rho: number
}

export function wavesAt(phasors: Phasors, plane: number, referenceOhm: number, out: Waves): Waves {
  const o = 4 * plane
  const vRe = phasors[o]!
  const vIm = phasors[o + 1]!
  const iRe = phasors[o + 2]! * referenceOhm
  const iIm = phasors[o + 3]! * referenceOhm
  const quarter = 1 / (4 * referenceOhm)
  out.forward = ((vRe + iRe) ** 2 + (vIm + iIm) ** 2) * quarter
  out.reflected = ((vRe - iRe) ** 2 + (vIm - iIm) ** 2) * quarter
  out.net = (vRe * iRe + vIm * iIm) / referenceOhm
  out.rho = Math.sqrt(out.reflected / out.forward)
  return out
}

export const newWaves = (): Waves => ({ forward: 0, reflected: 0, net: 0, rho: 0 })

/**
 * Factor on power that brings the unscaled waves at plane 0 to what the source delivers. 0 where
 * a peaked source meets a load that takes no power at all.
 */
export function sourceScale(
  transmitter: Transmitter,
  settingW: number,
  foldback: number,
  plane0: Waves,
): number {
  const held = transmitter.behaviour === 'levelled' ? plane0.forward : plane0.net
  return held > 1e-12 * plane0.forward ? (settingW * foldback) / held : 0
}

/** Refuses what no circuit can be: the path names the field. */
export function checkChain(chain: Chain, at: OperatingPoint): void {
  const positive = (value: number, what: string, ...path: (string | number)[]) => {
    if (!(value > 0 && Number.isFinite(value)))
      throw new InputError(`${what} must be more than 0, not ${value}.`, path)
  }
  const notNegative = (value: number, what: string, ...path: (string | number)[]) => {
    if (!(value >= 0 && Number.isFinite(value)))
      throw new InputError(`${what} must be 0 or more, not ${value}.`, path)
  }
  positive(at.frequencyHz, 'Frequency', 'frequencyHz')
  notNegative(at.powerW, 'Power', 'powerW')
  chain.stages.forEach((stage, k) => {
    if (stage.kind === 'line') {
      notNegative(stage.lengthM, 'Length', 'stages', k, 'lengthM')
      if (stage.ageing)
        positive(stage.ageing.factor, 'Ageing factor', 'stages', k, 'ageing', 'factor')
      positive(stage.cable.z0Ohm, 'Impedance', 'stages', k, 'cable', 'z0Ohm')
      positive(
        stage.cable.velocityFactor,
        'Velocity factor',
        'stages',
        k,
        'cable',
        'velocityFactor',
      )
      notNegative(stage.cable.k1DbPer100m, 'k₁', 'stages', k, 'cable', 'k1DbPer100m')
      notNegative(stage.cable.k2DbPer100m, 'k₂', 'stages', k, 'cable', 'k2DbPer100m')
    } else if (stage.kind === 'pad') {
      notNegative(stage.lossDb, 'Loss', 'stages', k, 'lossDb')
      stage.points?.forEach(([hz, db], i) => {
        positive(hz, 'Frequency', 'stages', k, 'points', i, 0)
        notNegative(db, 'Loss', 'stages', k, 'points', i, 1)
      })
    } else if (stage.kind === 'measured') {
      if (stage.frequencyHz.length === 0 || stage.s.length !== 8 * stage.frequencyHz.length)
        throw new InputError('A measured part needs eight numbers a frequency.', ['stages', k, 's'])
    } else {
      notNegative(stage.rOhm, 'Resistance', 'stages', k, 'rOhm')
      if (stage.kind === 'shunt' && stage.rOhm === 0 && stage.xOhm === 0)
        throw new InputError('A shunt of 0 Ω is a short circuit: nothing gets past it.', [
          'stages',
          k,
          'rOhm',
        ])
    }
  })
  if (chain.load.kind === 'fixed') notNegative(chain.load.rOhm, 'Resistance', 'load', 'rOhm')
  if (chain.load.kind === 'swr' && !(chain.load.swr >= 1))
    throw new InputError(`SWR must be 1 or more, not ${chain.load.swr}.`, ['load', 'swr'])
}
