/** What a sweep from one end of a line says of the places along it. */
import { type Complex, complex } from '../complex.ts'
import type { Chain } from '../chain/chain.ts'
import { referenceOf } from '../chain/chain.ts'
import type { FarEnd } from '../chain/farEnd.ts'
import { newPhasors } from '../chain/phasors.ts'
import { walk } from '../chain/walk.ts'
import { SPEED_OF_LIGHT } from '../constants.ts'
import { InputError, OutOfRangeError } from '../errors.ts'
import { emptyLineConstants, lineConstants } from '../line/constants.ts'
import { phaseUnknown, reflectionAt } from '../load/load.ts'
import { cableToday } from '../stages/line.ts'
import { opaque, type Stage, writeStage } from '../stages/stage.ts'
import { type Abcd, newAbcd } from '../stages/twoPort.ts'
import { evenly, type Reflections } from './evenSweep.ts'
import { endOf, findingsOf, type LineFinding } from './findings.ts'
import { kaiser, widthOf } from './window.ts'

export interface AlongLine {
  /** From the plane of measurement, m along the cables, as they are written down. */
  distanceM: Float64Array
  /** |ρ| at each distance, corrected for the loss of the line. */
  measured: Float64Array
  /** What the chain as it is written down would show in the same sweep. */
  expected: Float64Array
  /** Where each plane lies from the one of measurement on, m. */
  placesM: number[]
  /** Reflections nearer to each other than this are drawn as one, m. */
  resolutionM: number
  /** What reflects further away than this is drawn too near, m. */
  unambiguousM: number
  /**
   * Whether the sweep begins at its own step, so that it is known down to 0 Hz: it tells twice as fine then, and whether
   * an impedance rises or falls.
   */
  lowPass: boolean
  /** False where what the antenna reflects over the sweep is not known: nothing is expected of it then. */
  endKnown: boolean
  findings: LineFinding[]
  /** Of an open or shorted end: where it is found, and how much more the way loses than it should, dB one way. */
  end: { atM: number; extraLossDb: number } | null
  /** |ρ| of that end as it is measured at the plane, with the loss of the way. */
  endHeight: number
}

const BETA = 6
/** Behind so much loss, one way, nothing is seen: correcting for it would draw noise, dB. */
const DEEPEST_DB = 20
/** So much is drawn beyond the end, as a share of the length: an end may lie further out than written down. */
const BEYOND = 0.25
/** The first frequency of a sweep that is known down to 0 Hz is its step, within this share of it. */
const HARMONIC = 0.02
/** Drawn points within a resolution. */
const FINENESS = 5
const MOST_DRAWN = 1500

/**
 * Looks along a chain from one of its planes toward the antenna. Each reflection is put where it is by undoing, frequency by
 * frequency, what the way there and back does to it: the delay of every section at its own velocity, which differs with
 * frequency, and its loss. Without loss and with one velocity it is the inverse Fourier transform of a band-limited sweep.
 *
 * @param plane where the analyser is connected; what lies behind the next tuner or amplifier cannot be seen
 * @throws InputError where a sweep is too short or too long, has a hole, or the plane has no line behind it
 */
export function alongLine(
  chain: Chain,
  plane: number,
  sweep: Reflections,
  farEnd: FarEnd,
): AlongLine {
  const stages = chain.stages.slice(plane)
  const hiding = stages.find(hides)
  if (hiding) throw opaque(hiding)
  const lengthM = stages.reduce((sum, stage) => sum + lengthOf(stage), 0)
  if (!(lengthM > 0))
    throw new InputError('There is no cable between this plane and the antenna.', ['plane'])
  const even = evenly(sweep)
  const { frequencyHz, stepHz } = even
  const n = frequencyHz.length
  const reference = referenceOf(chain)
  const lowPass = Math.abs(frequencyHz[0]! / stepHz - 1) < HARMONIC
  // Known down to 0 Hz it is known below as well: what returns is real, so negative frequencies mirror the positive ones.
  const whole = kaiser(lowPass ? 2 * n + 1 : n, BETA)
  const window = lowPass ? whole.slice(n + 1).map((w) => 2 * w) : whole
  const total = whole.reduce((sum, w) => sum + w, 0)
  const middleHz = (frequencyHz[0]! + frequencyHz[n - 1]!) / 2

  const lines = stages.filter((stage) => lengthOf(stage) > 0)
  // On the slowest cable a metre takes longest: there the eye is sharpest, and reaches least far.
  const speed = (stage: Stage) =>
    (2 * Math.PI * middleHz) / lineConstants(cableToday(stage as Line), middleHz).beta
  const speeds = lines.map(speed)
  const width = widthOf(whole, stepHz)
  const resolutionM = (Math.max(...speeds) * width) / 2
  const unambiguousM = Math.min(...speeds) / (2 * stepHz)

  const { reflections: expectedRho, known } = expectedOf(chain, stages, frequencyHz, farEnd)
  const beyondM = Math.min(Math.max(BEYOND * lengthM, resolutionM), SPEED_OF_LIGHT / stepHz)
  const stepM = Math.max(resolutionM / FINENESS, (lengthM + beyondM) / MOST_DRAWN)
  const weighted = ({ re, im }: { re: Float64Array; im: Float64Array }): Spectrum => ({
    re: re.map((own, k) => (own * window[k]!) / total),
    im: im.map((own, k) => (own * window[k]!) / total),
    atZero: lowPass ? (atZeroHz(re) * whole[n]!) / total : null,
  })
  const { distanceM, heights } = walkOut(stages, frequencyHz, reference, { stepM, beyondM }, [
    weighted(even),
    weighted(expectedRho),
  ])
  const [signed, expectedSigned] = heights
  const [measured, expected] = [signed.map(Math.abs), expectedSigned.map(Math.abs)]
  const placesM = stages.reduce((all, stage) => [...all, all.at(-1)! + lengthOf(stage)], [0])
  const view = { distanceM, measured, expected, placesM, resolutionM }
  return {
    ...view,
    ...{ unambiguousM, lowPass },
    endKnown: known,
    // A load at the end reflects nothing itself, so that a joint there is seen.
    findings: findingsOf(
      view,
      stages,
      farEnd === 'load' ? lengthM + resolutionM : lengthM - resolutionM,
      lowPass ? signed : null,
    ),
    end: farEnd === 'open' || farEnd === 'short' ? endOf(view, lengthM) : null,
    endHeight: heightAtPlane(stages, middleHz, reference),
  }
}

/** 1/S21 = (A + B/R₀ + C·R₀ + D)/2 of a two-port on a reference, Ω. */
function overThrough(abcd: Abcd, reference: number): Complex {
  const [aRe = 0, aIm = 0, bRe = 0, bIm = 0, cRe = 0, cIm = 0, dRe = 0, dIm = 0] = abcd
  return complex(
    (aRe + bRe / reference + cRe * reference + dRe) / 2,
    (aIm + bIm / reference + cIm * reference + dIm) / 2,
  )
}

/** What an open end at the far end still is at the plane: one, less the loss there and back. */
function heightAtPlane(stages: readonly Stage[], hz: number, reference: number): number {
  let height = 1
  const abcd = newAbcd()
  for (const stage of stages) {
    if (stage.bypassed) continue
    writeStage(stage, hz, reference, abcd)
    const { re, im } = overThrough(abcd, reference)
    height /= re * re + im * im
  }
  return height
}

type Line = Extract<Stage, { kind: 'line' }>
const lengthOf = (stage: Stage): number =>
  stage.kind === 'line' && !stage.bypassed ? stage.lengthM : 0

export const ENDS = { open: complex(1), short: complex(-1), load: complex(0) }

/**
 * What a sweep at a plane should show: the chain as it is written down, with what stands at its end.
 *
 * @throws InputError where a tuner or an amplifier lies behind the plane
 */
export const expectedSweep = (
  chain: Chain,
  plane: number,
  frequencyHz: Float64Array,
  farEnd: FarEnd,
): { frequencyHz: Float64Array; re: Float64Array; im: Float64Array } => {
  const stages = chain.stages.slice(plane)
  const hiding = stages.find(hides)
  if (hiding) throw opaque(hiding)
  return { frequencyHz, ...expectedOf(chain, stages, frequencyHz, farEnd).reflections }
}

/** Behind these nothing is seen. */
export const hides = ({ kind, bypassed }: Stage): boolean =>
  !bypassed && (kind === 'tuner' || kind === 'amplifier')

/** What the chain itself reflects at its plane, with what stands at its end; matched where nobody knows it. */
function expectedOf(
  chain: Chain,
  stages: readonly Stage[],
  frequencyHz: Float64Array,
  farEnd: FarEnd,
) {
  const reference = referenceOf(chain)
  const n = frequencyHz.length
  const re = new Float64Array(n)
  const im = new Float64Array(n)
  const phasors = newPhasors(stages.length)
  const antenna = antennaOver(chain, frequencyHz)
  for (let k = 0; k < n; k++) {
    const load = farEnd === 'antenna' ? (antenna?.[k] ?? complex(0)) : ENDS[farEnd]
    walk(stages, frequencyHz[k]!, reference, load, phasors)
    const seen = reflectionInFront(phasors, reference)
    re[k] = seen.re
    im[k] = seen.im
  }
  return { reflections: { re, im }, known: farEnd !== 'antenna' || antenna !== null }
}

/** (V − I·R₀)/(V + I·R₀) at the first plane of phasors that were walked. */
export function reflectionInFront(phasors: ArrayLike<number>, reference: number): Complex {
  const [vRe, vIm] = [phasors[0]!, phasors[1]!]
  const [iRe, iIm] = [phasors[2]! * reference, phasors[3]! * reference]
  const size = (vRe + iRe) ** 2 + (vIm + iIm) ** 2
  return complex(
    ((vRe - iRe) * (vRe + iRe) + (vIm - iIm) * (vIm + iIm)) / size,
    ((vIm - iIm) * (vRe + iRe) - (vRe - iRe) * (vIm + iIm)) / size,
  )
}

/** The antenna's reflection on every frequency; null where it is not known on all of them, with its phase. */
export function antennaOver(
  { load, ...chain }: Chain,
  frequencyHz: Float64Array,
): Complex[] | null {
  if (phaseUnknown(load)) return null
  try {
    return Array.from(frequencyHz, (hz) => reflectionAt(load, hz, referenceOf({ ...chain, load })))
  } catch (error) {
    if (error instanceof OutOfRangeError) return null
    throw error
  }
}

/** Weighted reflections over frequency. */
interface Spectrum {
  re: Float64Array
  im: Float64Array
  /** That of 0 Hz, which no way turns; null where it is not known. */
  atZero: number | null
}

/** The real part at 0 Hz, from the first two at once and twice a step: it is even there. */
const atZeroHz = (re: Float64Array): number => Math.max(-1, Math.min(1, (4 * re[0]! - re[1]!) / 3))

/**
 * Turns each frequency of two spectra by a complex number of its own, in place, again and again. Frequency by frequency, so that
 * what is turned stays at hand.
 *
 * @returns after each turn the sum of both: the size of it, or with its sign where it is known down to 0 Hz
 */
function turn(
  one: Spectrum,
  two: Spectrum,
  byRe: Float64Array,
  byIm: Float64Array,
  times: number,
): [one: Float64Array, two: Float64Array] {
  const sums = () => new Float64Array(times)
  const [oneRe, oneIm, twoRe, twoIm] = [sums(), sums(), sums(), sums()]
  const signed = one.atZero !== null
  for (let k = 0; k < byRe.length; k++) {
    const cos = byRe[k]!
    const sin = byIm[k]!
    let aRe = one.re[k]!
    let aIm = one.im[k]!
    let bRe = two.re[k]!
    let bIm = two.im[k]!
    for (let i = 0; i < times; i++) {
      const aTurned = aRe * cos - aIm * sin
      aIm = aRe * sin + aIm * cos
      aRe = aTurned
      const bTurned = bRe * cos - bIm * sin
      bIm = bRe * sin + bIm * cos
      bRe = bTurned
      oneRe[i]! += aRe
      twoRe[i]! += bRe
      if (signed) continue
      oneIm[i]! += aIm
      twoIm[i]! += bIm
    }
    one.re[k] = aRe
    one.im[k] = aIm
    two.re[k] = bRe
    two.im[k] = bIm
  }
  const heights = ({ atZero }: Spectrum, re: Float64Array, im: Float64Array) =>
    re.map((own, i) => (atZero === null ? Math.hypot(own, im[i]!) : atZero + own))
  return [heights(one, oneRe, oneIm), heights(two, twoRe, twoIm)]
}

/** Walks from the plane outward: at every place, how high spectra stand that are turned back by the way to it. */
function walkOut(
  stages: readonly Stage[],
  frequencyHz: Float64Array,
  reference: number,
  { stepM, beyondM }: { stepM: number; beyondM: number },
  [one, two]: readonly [Spectrum, Spectrum],
): { distanceM: Float64Array; heights: [Float64Array, Float64Array] } {
  const n = frequencyHz.length
  const byRe = new Float64Array(n).fill(1)
  const byIm = new Float64Array(n)
  /** By how much the way to here makes what comes from it larger. */
  const grown = new Float64Array(n).fill(1)
  const distanceM = [0]
  const heights = turn(one, two, byRe, byIm, 1).map((own) => [...own]) as [number[], number[]]
  const constants = emptyLineConstants()
  const along = (line: Line, lengthM: number, lossy: boolean) => {
    const cable = cableToday(line)
    const count = Math.max(1, Math.round(lengthM / stepM))
    const dM = lengthM / count
    for (let k = 0; k < n; k++) {
      const { alpha, beta } = lineConstants(cable, frequencyHz[k]!, constants)
      const grow = lossy ? Math.exp(2 * alpha * dM) : 1
      byRe[k] = grow * Math.cos(2 * beta * dM)
      byIm[k] = grow * Math.sin(2 * beta * dM)
      grown[k]! *= grow ** count
    }
    const fromM = distanceM.at(-1)!
    for (let i = 1; i <= count; i++) distanceM.push(fromM + i * dM)
    turn(one, two, byRe, byIm, count).forEach((own, i) => heights[i]!.push(...own))
  }
  const walked = () => ({
    distanceM: Float64Array.from(distanceM),
    heights: heights.map((own) => Float64Array.from(own)) as [Float64Array, Float64Array],
  })
  const abcd = newAbcd()
  let last: Line | null = null
  for (const stage of stages) {
    if (lengthOf(stage) > 0) along((last = stage as Line), lengthOf(stage), true)
    else if (!stage.bypassed) {
      for (let k = 0; k < n; k++) {
        writeStage(stage, frequencyHz[k]!, reference, abcd)
        const { re, im } = overThrough(abcd, reference)
        // There and back it is squared.
        byRe[k] = re * re - im * im
        byIm[k] = 2 * re * im
        grown[k]! *= re * re + im * im
      }
      turn(one, two, byRe, byIm, 1)
    }
    // Corrected for more it is the noise of the analyser that is drawn.
    if (grown.some((own) => own > 10 ** (DEEPEST_DB / 10))) return walked()
  }
  // Beyond the end, as if the last cable went on: there an end is found that is further away than written down.
  if (last) along(last, beyondM, false)
  return walked()
}
