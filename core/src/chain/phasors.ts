/** Voltage and current at the planes of a chain, and the waves they are. */
import { DB_PER_NEPER } from '../constants.ts'

/**
 * Voltage and current at every plane, four numbers a plane: V re, V im, I re, I im; behind them one
 * number a plane, the scale s of its phasors: what they stand for is eˢ times as much. A chain may lose
 * hundreds of decibels, and its phasors must not overflow.
 */
export type Phasors = Float64Array

/** Phasors larger than this are taken down to 1, long before their squares overflow. */
export const LARGE = 1e60

/**
 * Room for voltage, current and scale at each plane of so many stages.
 *
 * @internal
 */
export const newPhasors = (stageCount: number): Phasors => new Float64Array(5 * (stageCount + 1))

/**
 * Where the logarithm of a plane's scale stands.
 *
 * @internal
 */
export const scaleIndex = (phasors: Phasors, plane: number): number =>
  (phasors.length / 5) * 4 + plane

/** Power at one plane over that at another, as far as it lies in the scales of their phasors. */
export function powerScale(phasors: Phasors, plane: number, over: number): number {
  const s = phasors[scaleIndex(phasors, plane)]! - phasors[scaleIndex(phasors, over)]!
  return s === 0 ? 1 : Math.exp(2 * s)
}

/** The same in dB: of powers too far apart for one number. */
export const powerScaleDb = (phasors: Phasors, plane: number, over: number): number =>
  (phasors[scaleIndex(phasors, plane)]! - phasors[scaleIndex(phasors, over)]!) * DB_PER_NEPER

/** Forward, reflected and net power at one plane of unscaled phasors, and |ρ|. */
export interface Waves {
  forward: number
  reflected: number
  net: number
  rho: number
}

/**
 * Forward, reflected and net power at one plane of unscaled phasors, and |ρ|, on a reference impedance (Ω).
 *
 * @internal
 */
export function wavesAt(phasors: Phasors, plane: number, referenceOhm: number, out: Waves): Waves {
  const o = 4 * plane
  return wavesOf(phasors[o]!, phasors[o + 1]!, phasors[o + 2]!, phasors[o + 3]!, referenceOhm, out)
}

/**
 * The same of a voltage and a current.
 *
 * @internal
 */
export function wavesOf(
  vRe: number,
  vIm: number,
  currentRe: number,
  currentIm: number,
  referenceOhm: number,
  out: Waves,
): Waves {
  const iRe = currentRe * referenceOhm
  const iIm = currentIm * referenceOhm
  const quarter = 1 / (4 * referenceOhm)
  out.forward = ((vRe + iRe) ** 2 + (vIm + iIm) ** 2) * quarter
  out.reflected = ((vRe - iRe) ** 2 + (vIm - iIm) ** 2) * quarter
  const net = (vRe * iRe + vIm * iIm) / referenceOhm
  // A load without resistance takes nothing; rounding must not make it give.
  out.net = net < 0 && net > -1e-9 * out.forward ? 0 : net
  out.rho = Math.sqrt(out.reflected / out.forward)
  return out
}

/**
 * Room for the waves at one plane.
 *
 * @internal
 */
export const newWaves = (): Waves => ({ forward: 0, reflected: 0, net: 0, rho: 0 })
