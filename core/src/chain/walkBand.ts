/** The walk of a passive chain over many frequencies at once: stage by stage, each in a tight loop over all of them. */
import { emptyLineConstants, lineConstants } from '../line/constants.ts'
import { cableToday, type LineStage } from '../stages/line.ts'
import { LARGE } from './phasors.ts'
import { type Stage, writeStage } from '../stages/stage.ts'
import { hyperbolic, newAbcd } from '../stages/twoPort.ts'

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
  const lines: LineBand[] = []
  for (let k = stages.length - 1; k >= 0; k--) {
    const stage = stages[k]!
    if (stage.bypassed) continue
    if (stage.kind === 'line') throughLine(stage, hz, at, lines)
    else throughAny(stage, hz, referenceOhm, at)
  }
}

/** The constants of a cable on every frequency. */
interface LineBand {
  key: string
  alpha: Float64Array
  beta: Float64Array
  zcRe: Float64Array
  zcIm: Float64Array
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
  }
  const constants = emptyLineConstants()
  for (let i = 0; i < n; i++) {
    lineConstants(cable, hz[i]!, constants)
    band.alpha[i] = constants.alpha
    band.beta[i] = constants.beta
    band.zcRe[i] = constants.zcRe
    band.zcIm[i] = constants.zcIm
  }
  known.push(band)
  return band
}

const hyper = new Float64Array(2)

/** V₁ = V·cosh γℓ + Zc·I·sinh γℓ, Zc·I₁ = V·sinh γℓ + Zc·I·cosh γℓ. */
function throughLine(
  stage: LineStage,
  hz: Float64Array,
  { vRe, vIm, iRe, iIm, log }: BandPhasors,
  known: LineBand[],
): void {
  const { alpha, beta, zcRe, zcIm } = bandOf(stage, hz, known)
  const { lengthM } = stage
  for (let i = 0; i < hz.length; i++) {
    const scale = hyperbolic(alpha[i]! * lengthM, hyper)
    if (scale !== 0) log[i]! += scale
    const cosh = hyper[0]!
    const sinh = hyper[1]!
    const angle = beta[i]! * lengthM
    const cos = Math.cos(angle)
    const sin = Math.sin(angle)
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
    const d = 1 / (zRe * zRe + zIm * zIm)
    iRe[i] = (outRe * zRe + outIm * zIm) * d
    iIm[i] = (outIm * zRe - outRe * zIm) * d
  }
  takeDown(vRe, vIm, iRe, iIm, log)
}

/** Whether a stage is the same at every frequency. */
const isFlat = (stage: Stage): boolean =>
  (stage.kind === 'pad' && stage.atHz === undefined && !stage.points?.length) ||
  ((stage.kind === 'series' || stage.kind === 'shunt') && stage.atHz === undefined)

const abcd = newAbcd()

function throughAny(
  stage: Stage,
  hz: Float64Array,
  referenceOhm: number,
  { vRe, vIm, iRe, iIm, log }: BandPhasors,
): void {
  const flat = isFlat(stage)
  for (let i = 0; i < hz.length; i++) {
    if (i === 0 || !flat) writeStage(stage, hz[i]!, referenceOhm, abcd)
    const v = vRe[i]!
    const w = vIm[i]!
    const c = iRe[i]!
    const d = iIm[i]!
    vRe[i] = abcd[0]! * v - abcd[1]! * w + abcd[2]! * c - abcd[3]! * d
    vIm[i] = abcd[0]! * w + abcd[1]! * v + abcd[2]! * d + abcd[3]! * c
    iRe[i] = abcd[4]! * v - abcd[5]! * w + abcd[6]! * c - abcd[7]! * d
    iIm[i] = abcd[4]! * w + abcd[5]! * v + abcd[6]! * d + abcd[7]! * c
    log[i]! += abcd[8]!
  }
  takeDown(vRe, vIm, iRe, iIm, log)
}

function takeDown(
  vRe: Float64Array,
  vIm: Float64Array,
  iRe: Float64Array,
  iIm: Float64Array,
  log: Float64Array,
): void {
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
