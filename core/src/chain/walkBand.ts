/** The walk of a passive chain over many frequencies at once: stage by stage, each in a tight loop over all of them. */
import { emptyLineConstants, lineConstants } from '../line/constants.ts'
import { cableToday, type LineStage } from '../stages/line.ts'
import { LARGE } from './phasors.ts'
import { modelOf, type Stage, writeStage } from '../stages/stage.ts'
import { hyperbolic, newAbcd, sinCos } from '../stages/twoPort.ts'

/** Voltage and current at one plane on n frequencies, unscaled: what they stand for is e^log as much. */
export interface BandPhasors {
  vRe: Float64Array
  vIm: Float64Array
  iRe: Float64Array
  iIm: Float64Array
  log: Float64Array
}

/** Room for them at n frequencies. */
export const newBandPhasors = (n: number): BandPhasors => ({
  vRe: new Float64Array(n),
  vIm: new Float64Array(n),
  iRe: new Float64Array(n),
  iIm: new Float64Array(n),
  log: new Float64Array(n),
})

/** Whether a chain can be walked so: nothing in it sets itself, nothing amplifies. */
export const isPassive = (stages: readonly Stage[]): boolean =>
  stages.every(({ kind, bypassed }) => bypassed || (kind !== 'tuner' && kind !== 'amplifier'))

/** Carries the phasors at the load to the transmitter, in place. */
export function walkBand(
  stages: readonly Stage[],
  hz: Float64Array,
  referenceOhm: number,
  at: BandPhasors,
): void {
  if (hz.length === 0) return
  const lines: LineBand[] = []
  for (let k = stages.length - 1; k >= 0; k--) {
    const stage = stages[k]!
    if (stage.bypassed) continue
    if (stage.kind === 'line') throughLine(stage, hz, at, lines)
    else if (modelOf(stage).flat?.(stage)) {
      writeStage(stage, hz[0]!, referenceOhm, abcd)
      throughMatrix(at, 0, hz.length)
    } else throughAny(stage, hz, referenceOhm, at)
    takeDown(at)
  }
}

/** The constants of a cable on every frequency. */
interface LineBand {
  key: string
  alpha: Float64Array
  beta: Float64Array
  zcRe: Float64Array
  zcIm: Float64Array
  /** 1/Zc. */
  ycRe: Float64Array
  ycIm: Float64Array
}

function bandOf(stage: LineStage, hz: Float64Array, known: LineBand[]): LineBand {
  const cable = cableToday(stage)
  const { z0Ohm, velocityFactor, k1DbPer100m, k2DbPer100m } = cable
  const key = `${z0Ohm} ${velocityFactor} ${k1DbPer100m} ${k2DbPer100m}`
  const before = known.find((band) => band.key === key)
  if (before) return before
  const n = hz.length
  const band: LineBand = {
    key,
    alpha: new Float64Array(n),
    beta: new Float64Array(n),
    zcRe: new Float64Array(n),
    zcIm: new Float64Array(n),
    ycRe: new Float64Array(n),
    ycIm: new Float64Array(n),
  }
  const constants = emptyLineConstants()
  for (let i = 0; i < n; i++) {
    lineConstants(cable, hz[i]!, constants)
    band.alpha[i] = constants.alpha
    band.beta[i] = constants.beta
    band.zcRe[i] = constants.zcRe
    band.zcIm[i] = constants.zcIm
    const d = 1 / (constants.zcRe * constants.zcRe + constants.zcIm * constants.zcIm)
    band.ycRe[i] = constants.zcRe * d
    band.ycIm[i] = -constants.zcIm * d
  }
  known.push(band)
  return band
}

const hyper = new Float64Array(2)
const angle = new Float64Array(2)

/** V₁ = V·cosh γℓ + Zc·I·sinh γℓ, Zc·I₁ = V·sinh γℓ + Zc·I·cosh γℓ. */
function throughLine(
  stage: LineStage,
  hz: Float64Array,
  { vRe, vIm, iRe, iIm, log }: BandPhasors,
  known: LineBand[],
): void {
  const { alpha, beta, zcRe, zcIm, ycRe, ycIm } = bandOf(stage, hz, known)
  const { lengthM } = stage
  for (let i = 0; i < hz.length; i++) {
    const scale = hyperbolic(alpha[i]! * lengthM, hyper)
    if (scale !== 0) log[i]! += scale
    const cosh = hyper[0]!
    const sinh = hyper[1]!
    sinCos(beta[i]! * lengthM, angle)
    const sin = angle[0]!
    const cos = angle[1]!
    const chRe = cosh * cos
    const chIm = sinh * sin
    const shRe = sinh * cos
    const shIm = cosh * sin
    const zRe = zcRe[i]!
    const zIm = zcIm[i]!
    const v = vRe[i]!
    const w = vIm[i]!
    const ziRe = zRe * iRe[i]! - zIm * iIm[i]!
    const ziIm = zRe * iIm[i]! + zIm * iRe[i]!
    vRe[i] = v * chRe - w * chIm + ziRe * shRe - ziIm * shIm
    vIm[i] = v * chIm + w * chRe + ziRe * shIm + ziIm * shRe
    const outRe = v * shRe - w * shIm + ziRe * chRe - ziIm * chIm
    const outIm = v * shIm + w * shRe + ziRe * chIm + ziIm * chRe
    const yRe = ycRe[i]!
    const yIm = ycIm[i]!
    iRe[i] = outRe * yRe - outIm * yIm
    iIm[i] = outRe * yIm + outIm * yRe
  }
}

const abcd = newAbcd()

/** A stage whose matrix is written anew at every frequency. */
function throughAny(stage: Stage, hz: Float64Array, referenceOhm: number, at: BandPhasors): void {
  for (let i = 0; i < hz.length; i++) {
    writeStage(stage, hz[i]!, referenceOhm, abcd)
    throughMatrix(at, i, i + 1)
  }
}

/** Carries the phasors of some frequencies through the matrix that was written last. */
function throughMatrix({ vRe, vIm, iRe, iIm, log }: BandPhasors, from: number, to: number): void {
  // Read once: nobody knows that what is written below does not change it.
  const [aRe, aIm, bRe, bIm] = [abcd[0]!, abcd[1]!, abcd[2]!, abcd[3]!]
  const [cRe, cIm, dRe, dIm] = [abcd[4]!, abcd[5]!, abcd[6]!, abcd[7]!]
  const scale = abcd[8]!
  for (let i = from; i < to; i++) {
    const v = vRe[i]!
    const w = vIm[i]!
    const x = iRe[i]!
    const y = iIm[i]!
    vRe[i] = aRe * v - aIm * w + bRe * x - bIm * y
    vIm[i] = aRe * w + aIm * v + bRe * y + bIm * x
    iRe[i] = cRe * v - cIm * w + dRe * x - dIm * y
    iIm[i] = cRe * w + cIm * v + dRe * y + dIm * x
    if (scale !== 0) log[i]! += scale
  }
}

function takeDown({ vRe, vIm, iRe, iIm, log }: BandPhasors): void {
  for (let i = 0; i < vRe.length; i++) {
    const size = Math.abs(vRe[i]!) + Math.abs(vIm[i]!)
    if (!(size > LARGE)) continue
    vRe[i]! /= size
    vIm[i]! /= size
    iRe[i]! /= size
    iIm[i]! /= size
    log[i]! += Math.log(size)
  }
}
