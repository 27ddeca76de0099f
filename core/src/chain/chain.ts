import { type Complex, complex, divide } from '../complex.ts'
import { DB_PER_NEPER, REFERENCE_OHM } from '../constants.ts'
import { InputError } from '../errors.ts'
import { type Load, reflectionAt } from '../load/load.ts'
import { reflectionOf, swrOf } from '../load/reflection.ts'
import {
  type AmplifierState,
  amplifierOutputW,
  amplifierState,
  inputImpedance,
} from '../source/amplifier.ts'
import type { ModeId } from '../source/modes.ts'
import { foldbackAt, type Transmitter } from '../source/transmitter.ts'
import { type Stage, writeStage } from '../stages/stage.ts'
import { type Abcd, newAbcd } from '../stages/twoPort.ts'
import { setTuner, throughTuner, type TunerSetting } from '../tuner/tuner.ts'

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
  /** Amplifiers have ceilings by mode. */
  mode?: ModeId | undefined
  /** Where tuners with knobs were set, if not here. Auto tuners set themselves anew everywhere. */
  tunedHz?: number | undefined
  /** Where tuners stand, if it is not what they would find now: a fault does not wait for them. */
  settings?: TunerSettings | undefined
}

export const referenceOf = (chain: Chain): number => chain.referenceOhm ?? REFERENCE_OHM

/**
 * Voltage and current at every plane, four numbers a plane: V re, V im, I re, I im; behind them one
 * number a plane, the scale s of its phasors: what they stand for is eˢ times as much. A chain may lose
 * hundreds of decibels, and its phasors must not overflow.
 */
export type Phasors = Float64Array

export const newPhasors = (stageCount: number): Phasors => new Float64Array(5 * (stageCount + 1))

const scaleIndex = (phasors: Phasors, plane: number): number => (phasors.length / 5) * 4 + plane

/** Power at one plane over that at another, as far as it lies in the scales of their phasors. */
export function powerScale(phasors: Phasors, plane: number, over: number): number {
  const s = phasors[scaleIndex(phasors, plane)]! - phasors[scaleIndex(phasors, over)]!
  return s === 0 ? 1 : Math.exp(2 * s)
}

/** The same in dB: of powers too far apart for one number. */
export const powerScaleDb = (phasors: Phasors, plane: number, over: number): number =>
  (phasors[scaleIndex(phasors, plane)]! - phasors[scaleIndex(phasors, over)]!) * DB_PER_NEPER

/** Phasors larger than this are taken down to 1, long before their squares overflow. */
const LARGE = 1e60

const abcd: Abcd = newAbcd()
const pair = new Float64Array(4)

/** The setting of every tuner, by its stage's index; empty elsewhere. */
export type TunerSettings = (TunerSetting | undefined)[]

/**
 * Walks from the load to the transmitter and fills in voltage and current at every plane, for one
 * volt of forward wave at the load. Scale is the source's business. Growing toward the source is
 * the numerically safe direction, and an open or shorted load needs no special case. An amplifier
 * begins anew: in front of it, one volt of forward wave at its input.
 *
 * @param settings of the tuners; one that is missing is set for the load it meets, and put in
 */
export function walk(
  stages: readonly Stage[],
  frequencyHz: number,
  referenceOhm: number,
  loadReflection: Complex,
  out: Phasors,
  settings: TunerSettings = [],
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
      writeStage(stage, frequencyHz, referenceOhm, abcd)
      const vRe = out[o + 4]!
      const vIm = out[o + 5]!
      const iRe = out[o + 6]!
      const iIm = out[o + 7]!
      out[o] = abcd[0]! * vRe - abcd[1]! * vIm + abcd[2]! * iRe - abcd[3]! * iIm
      out[o + 1] = abcd[0]! * vIm + abcd[1]! * vRe + abcd[2]! * iIm + abcd[3]! * iRe
      out[o + 2] = abcd[4]! * vRe - abcd[5]! * vIm + abcd[6]! * iRe - abcd[7]! * iIm
      out[o + 3] = abcd[4]! * vIm + abcd[5]! * vRe + abcd[6]! * iIm + abcd[7]! * iRe
      const own = scaleIndex(out, k)
      out[own] = out[own + 1]! + abcd[8]!
      const size =
        Math.abs(out[o]!) +
        Math.abs(out[o + 1]!) +
        (Math.abs(out[o + 2]!) + Math.abs(out[o + 3]!)) * referenceOhm
      if (size > LARGE) {
        for (let i = o; i < o + 4; i++) out[i]! /= size
        out[own]! += Math.log(size)
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

/** Where all tuners of a chain stand at an operating point. */
export function settingsNow(chain: Chain, { frequencyHz }: OperatingPoint): TunerSettings {
  const { stages } = chain
  const settings: TunerSettings = []
  const reference = referenceOf(chain)
  const reflection = reflectionAt(chain.load, frequencyHz, reference)
  walk(stages, frequencyHz, reference, reflection, newPhasors(stages.length), settings)
  return settings
}

/**
 * Settings of the tuners with knobs for another frequency than the one that is looked at; tuners that
 * set themselves are left to do so.
 */
export function settingsFor(chain: Chain, tunedHz: number, phaseRad: number): TunerSettings {
  const { stages } = chain
  const settings: TunerSettings = []
  const turned = (stage: Stage) =>
    stage.kind === 'tuner' && stage.method === 'network' && !stage.automatic
  if (!stages.some((stage) => turned(stage) && !stage.bypassed)) return settings
  const reference = referenceOf(chain)
  const reflection = reflectionAt(chain.load, tunedHz, reference, phaseRad)
  walk(stages, tunedHz, reference, reflection, newPhasors(stages.length), settings)
  return settings.map((setting, k) => (turned(stages[k]!) ? setting : undefined))
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
  const net = (vRe * iRe + vIm * iIm) / referenceOhm
  // A load without resistance takes nothing; rounding must not make it give.
  out.net = net < 0 && net > -1e-9 * out.forward ? 0 : net
  out.rho = Math.sqrt(out.reflected / out.forward)
  return out
}

export const newWaves = (): Waves => ({ forward: 0, reflected: 0, net: 0, rho: 0 })

/**
 * Factor on power that brings the unscaled waves at plane 0 to what the source delivers. 0 where
 * a peaked source meets a load that takes no power at all.
 */
function sourceScale(
  transmitter: Pick<Transmitter, 'behaviour'>,
  settingW: number,
  foldback: number,
  plane0: Waves,
): number {
  const held = transmitter.behaviour === 'levelled' ? plane0.forward : plane0.net
  return held > 1e-12 * plane0.forward ? (settingW * foldback) / held : 0
}

/** What the sources of a chain make of its unscaled waves. */
export interface Drive {
  /** Factor on power for every plane: one value up to an amplifier's input, another behind it. */
  scale: Float64Array
  /** Fraction that the transmitter's foldback leaves. */
  foldback: number
  amplifiers: (AmplifierState | undefined)[]
}

export const newDrive = (stageCount: number): Drive => ({
  scale: new Float64Array(stageCount + 1),
  foldback: 1,
  amplifiers: [],
})

const waves = newWaves()

/** Finds the scale of every leg: the transmitter's drives the first amplifier, and so on. */
export function driveChain(
  chain: Chain,
  phasors: Phasors,
  { powerW, mode }: OperatingPoint,
  out: Drive,
): void {
  const reference = referenceOf(chain)
  const { stages, transmitter } = chain
  wavesAt(phasors, 0, reference, waves)
  out.foldback = foldbackAt(transmitter.foldback, swrOf(waves.rho))
  /** Where the present leg begins, and the factor on power there. */
  let leg = 0
  let scale = sourceScale(transmitter, powerW, out.foldback, waves)
  out.scale[0] = scale
  for (let k = 0; k < stages.length; k++) {
    const stage = stages[k]!
    if (stage.kind === 'amplifier' && !stage.bypassed) {
      const driveW = wavesAt(phasors, k, reference, waves).net * out.scale[k]!
      wavesAt(phasors, k + 1, reference, waves)
      const swr = swrOf(waves.rho)
      const foldback = foldbackAt(stage.foldback, swr)
      scale = sourceScale(stage, amplifierOutputW(stage, driveW), foldback, waves)
      leg = k + 1
      out.amplifiers[k] = amplifierState(stage, {
        driveW,
        mode,
        swr,
        reflectedW: waves.reflected * scale,
        foldback,
      })
    }
    out.scale[k + 1] = scale * powerScale(phasors, k + 1, leg)
  }
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
    } else if (stage.kind === 'amplifier') {
      positive(stage.driveW, 'Drive', 'stages', k, 'driveW')
      positive(stage.fullW, 'Full output', 'stages', k, 'fullW')
      positive(stage.inputOhm.rOhm, 'Input resistance', 'stages', k, 'inputOhm', 'rOhm')
    } else if (stage.kind === 'tuner') {
      if (stage.method === 'given') notNegative(stage.lossDb, 'Loss', 'stages', k, 'lossDb')
      else {
        positive(stage.coilQ, 'Coil Q', 'stages', k, 'coilQ')
        positive(stage.capacitorQ, 'Capacitor Q', 'stages', k, 'capacitorQ')
      }
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
