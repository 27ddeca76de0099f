/** What a sweep from one end of a line says of the places along it. */
import { type Complex, complex } from '../complex.ts'
import type { Chain } from '../chain/chain.ts'
import { referenceOf } from '../chain/chain.ts'
import { newPhasors } from '../chain/phasors.ts'
import { walk } from '../chain/walk.ts'
import { SPEED_OF_LIGHT } from '../constants.ts'
import { InputError, OutOfRangeError } from '../errors.ts'
import { emptyLineConstants, lineConstants } from '../line/constants.ts'
import { phaseUnknown, reflectionAt } from '../load/load.ts'
import { cableToday } from '../stages/line.ts'
import { opaque, type Stage, writeStage } from '../stages/stage.ts'
import { newAbcd } from '../stages/twoPort.ts'
import { formatFrequency } from '../units/format.ts'
import { kaiser, widthOf } from './window.ts'

/** Complex reflection on the chain's reference at rising frequencies, Hz. */
export interface Reflections {
  frequencyHz: ArrayLike<number>
  re: ArrayLike<number>
  im: ArrayLike<number>
}

/** What the far end of the line was while it was swept. */
export type FarEnd = 'antenna' | 'open' | 'short' | 'load'

export interface AlongLine {
  /** From the plane of measurement, m along the cables, as they are written down. */
  distanceM: Float64Array
  /** |ρ| that is there, the loss of the way there and back made good. */
  measured: Float64Array
  /** What the chain as it is written down would show in the same sweep. */
  expected: Float64Array
  /** Where each plane lies from the one of measurement on, m. */
  placesM: number[]
  /** Reflections nearer to each other than this are drawn as one, m. */
  resolutionM: number
  /** What reflects further away than this is drawn too near, m. */
  unambiguousM: number
  /** False where what the antenna reflects over the sweep is not known: nothing is expected of it then. */
  endKnown: boolean
  findings: LineFinding[]
  /** Of an open or shorted end: where it is found, and how much more the way loses than it should, dB one way. */
  end: { atM: number; extraLossDb: number } | null
}

/** A place where more comes back than should. */
export interface LineFinding {
  atM: number
  measured: number
  expected: number
  /** The stage it lies in, from the plane of measurement on; or whose joint it is, where a plane is as near as can be told. */
  stage: number
  /** True where it is at the plane in front of that stage. */
  atJoint: boolean
}

const BETA = 6
const LEAST_POINTS = 16
const MOST_POINTS = 20_001
/** A hole in a sweep is a step this much wider than the others. */
const HOLE = 3
/** No analyser tells less than this from nothing: |ρ| of a usual directivity, 40 dB, and what a good joint reflects. */
const LEAST_FOUND = 0.03
/** Behind so much loss, one way, nothing is seen: it would be noise that is made good, dB. */
const DEEPEST_DB = 20
const MOST_FINDINGS = 3
/** Drawn points within a resolution. */
const FINENESS = 8
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
  const hiding = stages.find(
    ({ kind, bypassed }) => !bypassed && (kind === 'tuner' || kind === 'amplifier'),
  )
  if (hiding) throw opaque(hiding)
  const lengthM = stages.reduce((sum, stage) => sum + lengthOf(stage), 0)
  if (!(lengthM > 0))
    throw new InputError('There is no cable between this plane and the antenna.', ['plane'])
  const even = evenly(sweep)
  const { frequencyHz, stepHz } = even
  const n = frequencyHz.length
  const reference = referenceOf(chain)
  const window = kaiser(n, BETA)
  const middleHz = (frequencyHz[0]! + frequencyHz[n - 1]!) / 2

  const lines = stages.filter((stage) => lengthOf(stage) > 0)
  // On the slowest cable a metre takes longest: there the eye is sharpest, and reaches least far.
  const speed = (stage: Stage) =>
    (2 * Math.PI * middleHz) / lineConstants(cableToday(stage as Line), middleHz).beta
  const speeds = lines.map(speed)
  const width = widthOf(window, stepHz)
  const resolutionM = (Math.max(...speeds) * width) / 2
  const unambiguousM = Math.min(...speeds) / (2 * stepHz)

  const { reflections: expectedRho, known } = expectedOf(chain, stages, frequencyHz, farEnd)
  const beyondM = Math.min(Math.max(0.1 * lengthM, resolutionM), SPEED_OF_LIGHT / stepHz)
  const stepM = Math.max(resolutionM / FINENESS, (lengthM + beyondM) / MOST_DRAWN)
  const points = walkOut(stages, frequencyHz, reference, { stepM, beyondM })
  const total = window.reduce((sum, w) => sum + w, 0)
  const heights = (re: ArrayLike<number>, im: ArrayLike<number>): Float64Array =>
    Float64Array.from(points, ({ backRe, backIm }) => {
      let sumRe = 0
      let sumIm = 0
      for (let k = 0; k < n; k++) {
        sumRe += window[k]! * (re[k]! * backRe[k]! - im[k]! * backIm[k]!)
        sumIm += window[k]! * (re[k]! * backIm[k]! + im[k]! * backRe[k]!)
      }
      return Math.hypot(sumRe, sumIm) / total
    })
  const measured = heights(even.re, even.im)
  const expected = heights(expectedRho.re, expectedRho.im)
  const distanceM = Float64Array.from(points, ({ atM }) => atM)
  const placesM = stages.reduce((all, stage) => [...all, all.at(-1)! + lengthOf(stage)], [0])
  const view = { distanceM, measured, expected, placesM, resolutionM }
  return {
    ...view,
    unambiguousM,
    endKnown: known,
    findings: findingsOf(view, stages, lengthM),
    end: farEnd === 'open' || farEnd === 'short' ? endOf(view, lengthM) : null,
  }
}

type Line = Extract<Stage, { kind: 'line' }>
const lengthOf = (stage: Stage): number =>
  stage.kind === 'line' && !stage.bypassed ? stage.lengthM : 0

/** The same sweep at equal steps, rising. @throws InputError */
function evenly({ frequencyHz, re, im }: Reflections) {
  const order = Array.from(frequencyHz, (_, i) => i).sort(
    (a, b) => frequencyHz[a]! - frequencyHz[b]!,
  )
  const n = order.length
  const say = (message: string) => new InputError(message, ['sweep'])
  if (n < LEAST_POINTS)
    throw say(
      `A sweep of ${n} points says nothing of distance. Take ${LEAST_POINTS} or more; 201 are usual.`,
    )
  if (n > MOST_POINTS) throw say(`A sweep of ${n} points is more than ${MOST_POINTS}. Take fewer.`)
  const hz = order.map((i) => frequencyHz[i]!)
  const first = hz[0]!
  const last = hz[n - 1]!
  if (!(first > 0 && Number.isFinite(last))) throw say('Frequencies must be above 0 Hz.')
  const steps = hz.slice(1).map((value, i) => value - hz[i]!)
  const usual = steps.toSorted((a, b) => a - b)[Math.floor(steps.length / 2)]!
  const hole = steps.findIndex((step) => step > HOLE * usual)
  if (!(usual > 0)) throw say('The sweep has several points on one frequency. Export it anew.')
  if (hole >= 0)
    throw say(
      `The sweep has a hole from ${formatFrequency(hz[hole]!)} to ${formatFrequency(hz[hole + 1]!)}. Sweep in equal steps.`,
    )
  for (const i of order)
    if (!(Math.hypot(re[i]!, im[i]!) <= 1.02))
      throw say(
        `At ${formatFrequency(frequencyHz[i]!)} more comes back than went out. Check the analyser’s calibration.`,
      )
  const stepHz = (last - first) / (n - 1)
  const out = {
    stepHz,
    frequencyHz: Float64Array.from(order, (_, k) => first + k * stepHz),
    re: new Float64Array(n),
    im: new Float64Array(n),
  }
  let below = 0
  for (let k = 0; k < n; k++) {
    const at = out.frequencyHz[k]!
    while (below < n - 2 && hz[below + 1]! <= at) below++
    const t = Math.min(1, Math.max(0, (at - hz[below]!) / (hz[below + 1]! - hz[below]!)))
    const [a, b] = [order[below]!, order[below + 1]!]
    out.re[k] = (1 - t) * re[a]! + t * re[b]!
    out.im[k] = (1 - t) * im[a]! + t * im[b]!
  }
  return out
}

const ENDS = { open: complex(1), short: complex(-1), load: complex(0) }

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
    const [vRe, vIm] = [phasors[0]!, phasors[1]!]
    const [iRe, iIm] = [phasors[2]! * reference, phasors[3]! * reference]
    const size = (vRe + iRe) ** 2 + (vIm + iIm) ** 2
    re[k] = ((vRe - iRe) * (vRe + iRe) + (vIm - iIm) * (vIm + iIm)) / size
    im[k] = ((vIm - iIm) * (vRe + iRe) - (vRe - iRe) * (vIm + iIm)) / size
  }
  return { reflections: { re, im }, known: farEnd !== 'antenna' || antenna !== null }
}

/** The antenna's reflection on every frequency; null where it is not known on all of them, with its phase. */
function antennaOver({ load, ...chain }: Chain, frequencyHz: Float64Array): Complex[] | null {
  if (phaseUnknown(load)) return null
  try {
    return Array.from(frequencyHz, (hz) => reflectionAt(load, hz, referenceOf({ ...chain, load })))
  } catch (error) {
    if (error instanceof OutOfRangeError) return null
    throw error
  }
}

/** A place, and by what a reflection from there is to be multiplied on each frequency to be as it is there. */
interface Place {
  atM: number
  backRe: Float64Array
  backIm: Float64Array
}

/** Walks from the plane outward, and keeps what undoes the way there and back. */
function walkOut(
  stages: readonly Stage[],
  frequencyHz: Float64Array,
  reference: number,
  { stepM, beyondM }: { stepM: number; beyondM: number },
): Place[] {
  const n = frequencyHz.length
  const places: Place[] = []
  const re = new Float64Array(n).fill(1)
  const im = new Float64Array(n)
  let atM = 0
  const keep = () => places.push({ atM, backRe: re.slice(), backIm: im.slice() })
  const turn = (k: number, byRe: number, byIm: number) => {
    const own = re[k]! * byRe - im[k]! * byIm
    im[k] = re[k]! * byIm + im[k]! * byRe
    re[k] = own
  }
  const constants = emptyLineConstants()
  const along = (line: Line, lengthM: number, lossy: boolean) => {
    const cable = cableToday(line)
    const count = Math.max(1, Math.round(lengthM / stepM))
    const dM = lengthM / count
    const byRe = new Float64Array(n)
    const byIm = new Float64Array(n)
    for (let k = 0; k < n; k++) {
      const { alpha, beta } = lineConstants(cable, frequencyHz[k]!, constants)
      const grow = lossy ? Math.exp(2 * alpha * dM) : 1
      byRe[k] = grow * Math.cos(2 * beta * dM)
      byIm[k] = grow * Math.sin(2 * beta * dM)
    }
    for (let i = 0; i < count; i++) {
      for (let k = 0; k < n; k++) turn(k, byRe[k]!, byIm[k]!)
      atM += dM
      keep()
    }
  }
  const abcd = newAbcd()
  keep()
  let last: Line | null = null
  for (const stage of stages) {
    if (lengthOf(stage) > 0) along((last = stage as Line), lengthOf(stage), true)
    else if (!stage.bypassed)
      for (let k = 0; k < n; k++) {
        writeStage(stage, frequencyHz[k]!, reference, abcd)
        const [aRe = 0, aIm = 0, bRe = 0, bIm = 0, cRe = 0, cIm = 0, dRe = 0, dIm = 0] = abcd
        // 1/S21 = (A + B/R₀ + C·R₀ + D)/2; there and back it is squared.
        const gRe = (aRe + bRe / reference + cRe * reference + dRe) / 2
        const gIm = (aIm + bIm / reference + cIm * reference + dIm) / 2
        turn(k, gRe * gRe - gIm * gIm, 2 * gRe * gIm)
      }
    // Made good beyond this it is the noise of the analyser that is drawn.
    const deepest = re.reduce((most, own, k) => Math.max(most, Math.hypot(own, im[k]!)), 0)
    if (deepest > 10 ** (DEEPEST_DB / 10)) return places
  }
  // Beyond the end, as if the last cable went on: there an end is found that is further away than written down.
  if (last) along(last, beyondM, false)
  return places
}

type View = Pick<AlongLine, 'distanceM' | 'measured' | 'expected' | 'placesM' | 'resolutionM'>

/** The highest of some heights within a distance of a place. */
function highestNear(
  { distanceM }: View,
  heights: Float64Array,
  atM: number,
  withinM: number,
): number {
  let most = 0
  for (let i = 0; i < heights.length; i++)
    if (Math.abs(distanceM[i]! - atM) <= withinM) most = Math.max(most, heights[i]!)
  return most
}

/** Peaks that stand above what is expected anywhere near, before the end of the line. */
function findingsOf(view: View, stages: readonly Stage[], lengthM: number): LineFinding[] {
  const { distanceM, measured, placesM, resolutionM } = view
  const found: LineFinding[] = []
  for (let i = 1; i < measured.length - 1; i++) {
    const atM = distanceM[i]!
    if (atM > lengthM - resolutionM) break
    if (!(measured[i]! >= measured[i - 1]! && measured[i]! > measured[i + 1]!)) continue
    // Lengths and velocities are known to some per cent: what is expected may lie a little beside.
    const expected = highestNear(view, view.expected, atM, resolutionM + 0.03 * atM)
    if (measured[i]! < Math.max(LEAST_FOUND, 1.5 * expected + LEAST_FOUND / 2)) continue
    const nearest = placesM.reduce(
      (best, place, k) => (Math.abs(place - atM) < Math.abs(placesM[best]! - atM) ? k : best),
      0,
    )
    const atJoint = Math.abs(placesM[nearest]! - atM) <= resolutionM / 2 && nearest < stages.length
    const inside = placesM.findLastIndex((place) => place <= atM)
    found.push({
      atM,
      measured: measured[i]!,
      expected,
      stage: atJoint ? nearest : Math.min(inside, stages.length - 1),
      atJoint,
    })
  }
  // A side lobe, or the flank of something stronger within the resolution, is no finding of its own.
  return found
    .sort((a, b) => b.measured - a.measured)
    .filter((own, i, all) =>
      all
        .slice(0, i)
        .every(
          ({ atM, measured }) => Math.abs(atM - own.atM) > resolutionM || own.measured > measured,
        ),
    )
    .slice(0, MOST_FINDINGS)
    .sort((a, b) => a.atM - b.atM)
}

/** Where the open or shorted end is found, and what the way loses beyond what it should; null where none is seen. */
function endOf(view: View, lengthM: number): AlongLine['end'] {
  const { distanceM, measured, expected } = view
  const peakOf = (heights: Float64Array) => {
    let best = -1
    for (let i = 1; i < heights.length - 1; i++)
      if (distanceM[i]! > 0.8 * lengthM && heights[i]! > (heights[best] ?? 0)) best = i
    if (best < 0) return null
    // The top of the parabola through the highest three.
    const [a, b, c] = [heights[best - 1]!, heights[best]!, heights[best + 1]!]
    const bend = a - 2 * b + c
    const off = bend < 0 ? Math.max(-1, Math.min(1, (a - c) / (2 * bend))) : 0
    const step =
      off < 0 ? distanceM[best]! - distanceM[best - 1]! : distanceM[best + 1]! - distanceM[best]!
    return { atM: distanceM[best]! + off * step, height: b - ((a - c) * off) / 4 }
  }
  const [own, due] = [peakOf(measured), peakOf(expected)]
  if (!own || !due || !(own.height > LEAST_FOUND)) return null
  return { atM: own.atM, extraLossDb: -10 * Math.log10(own.height / due.height) }
}
