/** A chain behind a plane as a curve over frequency, of figures that may be other than written down. */
import { type AnalyserErrors, below } from './analyserErrors.ts'
import { type Complex, complex, divide, multiply, subtract } from '../complex.ts'
import { type Chain, referenceOf } from '../chain/chain.ts'
import { LEAST_REFLECTION, mostOf } from '../chain/drawStation.ts'
import type { Tolerances } from '../chain/tolerances.ts'
import { type Load, reflectionAt } from '../load/load.ts'
import type { Curve } from '../statistics/curveFit.ts'
import { antennaOver, ENDS } from './alongLine.ts'
import type { FarEnd } from '../chain/farEnd.ts'
import type { Reflections } from './evenSweep.ts'
import { gainBehind, gainedBy, inFront, matricesOf } from './matrices.ts'
import { type Figure, type NewFigure, piecesOf, scaled } from './pieces.ts'

/** By so much an antenna’s resonance moves with weather and what grows near it, its Q and its resistance, as shares. */
const ANTENNA = { shift: 0.01, q: 0.1, ohm: 0.1 }
/** What an analyser adds changes from the middle of a sweep to its ends by this share of it. */
const ANALYSER_SLOPE = 0.4
/** Derivatives are differences over this share of a deviation: a coarser one bends, and tells apart what nothing tells apart. */
const STEP = 1e-5

/** An antenna over the frequencies of a sweep, of its own figures. */
type Antenna = (values: ArrayLike<number>) => ArrayLike<Complex>

export interface Cascade extends Curve {
  figures: Figure[]
  middleHz: number
  referenceOhm: number
}

/**
 * @param sweep rising
 * @param analyser how far it may be off
 * @returns null where what the antenna reflects over the sweep is not known
 */
export function cascade(
  chain: Chain,
  plane: number,
  { frequencyHz, re, im }: Reflections,
  farEnd: FarEnd,
  tolerances: Tolerances,
  analyser: AnalyserErrors,
): Cascade | null {
  const hz = Float64Array.from(frequencyHz)
  const m = hz.length
  const middleHz = (hz[0]! + hz[m - 1]!) / 2
  const reference = referenceOf(chain)
  const figures: Figure[] = []
  const figure: NewFigure = (kind, stage, deviation) =>
    figures.push({ kind, stage, deviation: Math.max(deviation, 1e-9) }) - 1

  const pieces = piecesOf(chain.stages.slice(plane), tolerances, middleHz, figure)
  const loadFrom = figures.length
  const antenna =
    farEnd === 'antenna'
      ? antennaOf(chain, hz, tolerances.reflection, figure)
      : () => Array.from(hz, () => ENDS[farEnd])
  if (!antenna) return null
  const analyserFrom = figures.length
  // Directivity, tracking, source match, real and imaginary: its calibration leaves tracking as good as directivity. Leads turn
  // them a little over the sweep.
  const leak = below(analyser.directivityDb)
  for (const share of [1, ANALYSER_SLOPE])
    for (const error of [
      leak,
      leak,
      leak,
      leak,
      ...[1, 1].map(() => below(analyser.sourceMatchDb)),
    ])
      figure('analyser', null, (share * error) / Math.SQRT2)

  const steps = figures.map(({ deviation }) => STEP * deviation)
  const matrices = pieces.map((piece) => matricesOf(piece, hz, steps, reference))
  /** V and I in front of each piece, and at the load. */
  const pairs = [...pieces, null].map(() => new Float64Array(4 * m))
  const last = pieces.length
  const ofLoad = figures.slice(loadFrom, analyserFrom).map((_, i) => loadFrom + i)
  const loadsOf = (values: ArrayLike<number>, moved?: number) =>
    antenna(ofLoad.map((p) => values[p]! + (p === moved ? steps[p]! : 0)))
  let atLoad: number[] | null = null
  let loads: ArrayLike<Complex> = []
  /** Takes the figures of the antenna; false where they are as before. */
  const setLoads = (values: ArrayLike<number>): boolean => {
    if (atLoad && ofLoad.every((p, i) => values[p] === atLoad![i])) return false
    atLoad = ofLoad.map((p) => values[p]!)
    loads = loadsOf(values)
    for (let k = 0; k < m; k++) writeLoad(loads[k]!, reference, pairs[last]!, 4 * k)
    return true
  }
  const errors = new Float64Array(6)
  const own = { re: 0, im: 0 }
  /** What is seen gains by V and I: at the analyser first, then behind one piece after the other. */
  const gain = new Float64Array(4 * m)

  return {
    ...{ figures, middleHz, referenceOhm: reference, count: 2 * m },
    deviations: figures.map(({ deviation }) => deviation),
    // What is wrong is looked for in the line: a calibrated analyser is no more off than it is said to be.
    firm: figures.map(({ kind }) => kind === 'analyser'),
    compare(values, residuals, slopes) {
      const changed = matrices.map(({ set }) => set(values))
      const from = setLoads(values) ? last - 1 : changed.lastIndexOf(true)
      for (let j = from; j >= 0; j--) inFront(matrices[j]!.numbers, pairs[j + 1]!, pairs[j]!)
      const ofAnalyser = values.subarray(analyserFrom)
      /** An error of the analyser, real and imaginary, in the middle of the sweep and toward its ends. */
      const keepBoth = (i: number, k: number, along: number, by: Complex) => {
        for (const [p, re, im] of [
          [i, by.re, by.im],
          [i + 1, -by.im, by.re],
          [i + 6, along * by.re, along * by.im],
          [i + 7, -along * by.im, along * by.re],
        ] as const) {
          slopes![2 * m * (analyserFrom + p) + k] = re
          slopes![2 * m * (analyserFrom + p) + m + k] = im
        }
      }
      for (let k = 0; k < m; k++) {
        reflected(pairs[0]!, 4 * k, reference, own)
        const along = (2 * k) / (m - 1) - 1
        for (let i = 0; i < 6; i++) errors[i] = ofAnalyser[i]! + along * ofAnalyser[6 + i]!
        const shown = showing(errors, own)
        residuals[k] = re[k]! - shown.re
        residuals[m + k] = im[k]! - shown.im
        if (!slopes) continue
        writeGain(pairs[0]!, 4 * k, reference, shown.byRho(), gain)
        keepBoth(0, k, along, complex(1))
        keepBoth(2, k, along, shown.byTracking)
        keepBoth(4, k, along, shown.byMatch())
      }
      if (!slopes) return
      const pair = new Float64Array(4 * m)
      for (let j = 0; j < last; j++) {
        for (const { figure: p, gained } of matrices[j]!.slopes()) {
          inFront(gained, pairs[j + 1]!, pair)
          gainedBy(gain, pair, slopes, 2 * m * p)
        }
        gainBehind(gain, matrices[j]!.numbers)
      }
      for (const p of ofLoad) {
        const moved = loadsOf(values, p)
        for (let k = 0; k < m; k++) {
          const by = subtract(moved[k]!, loads[k]!)
          pair[4 * k] = by.re / steps[p]!
          pair[4 * k + 1] = by.im / steps[p]!
          pair[4 * k + 2] = -by.re / steps[p]! / reference
          pair[4 * k + 3] = -by.im / steps[p]! / reference
        }
        gainedBy(gain, pair, slopes, 2 * m * p)
      }
    },
  }
}

/** Null where its reflection is not known on all frequencies, with its phase. */
function antennaOf(
  chain: Chain,
  hz: Float64Array,
  tolerance: number,
  figure: NewFigure,
): Antenna | null {
  const written = antennaOver(chain, hz)
  if (!written) return null
  const { load } = chain
  const reference = referenceOf(chain)
  const moved = movedLoad(load)
  const kinds = moved
    ? (['shift', ...(load.kind === 'resonator' ? (['q', 'ohm'] as const) : [])] as const)
    : []
  for (const kind of kinds) figure(kind, null, ANTENNA[kind])
  const size = written.reduce((sum, { re, im }) => sum + Math.hypot(re, im), 0) / written.length
  const spread = tolerance === 0 ? 0 : Math.max(LEAST_REFLECTION, size * tolerance)
  figure('offRe', null, spread / 2)
  figure('offIm', null, spread / 2)
  return (values) => {
    const own = moved?.(Array.from(values).slice(0, kinds.length))
    const off = complex(values[kinds.length]!, values[kinds.length + 1])
    return Array.from(hz, (each, k) => {
      const rho = own ? reflectionAt(own.load, own.at(each), reference) : written[k]!
      return passive(complex(rho.re + off.re, rho.im + off.im), rho)
    })
  }
}

/**
 * A reflection that gives back no more than there is, `from` being the one without what was added. Where it comes near the most it
 * bends: at an edge a fit would stop.
 */
function passive(rho: Complex, from: Complex): Complex {
  const size = Math.hypot(rho.re, rho.im)
  const before = Math.hypot(from.re, from.im)
  if (size <= before) return rho
  const room = mostOf(from) - before
  const bent = room > 0 ? before + room * Math.tanh((size - before) / room) : before
  return complex((rho.re * bent) / size, (rho.im * bent) / size)
}

/** An antenna whose frequencies, Q and resistance are other than written down; null of one that has no resonance. */
function movedLoad(
  load: Load,
): ((values: number[]) => { load: Load; at: (hz: number) => number }) | null {
  if (load.kind === 'resonator')
    return ([shift, q, ohm]) => ({
      load: {
        ...load,
        resonanceHz: load.resonanceHz * scaled(shift!),
        q: load.q * scaled(q!),
        rOhm: load.rOhm * scaled(ohm!),
      },
      at: (hz) => hz,
    })
  if (load.kind === 'sweep') {
    const [low, high] = [load.frequencyHz[0]!, load.frequencyHz[load.frequencyHz.length - 1]!]
    return ([shift]) => ({
      load,
      at: (hz) => Math.min(high, Math.max(low, hz / scaled(shift!))),
    })
  }
  return null
}

/** One volt of forward wave at the load, and what comes back of it, as V and I. */
function writeLoad({ re, im }: Complex, reference: number, out: Float64Array, at: number): void {
  out[at] = 1 + re
  out[at + 1] = im
  out[at + 2] = (1 - re) / reference
  out[at + 3] = -im / reference
}

/** (V − Z₀·I)/(V + Z₀·I). */
function reflected(
  pair: Float64Array,
  at: number,
  reference: number,
  out: { re: number; im: number },
): void {
  const iRe = pair[at + 2]! * reference
  const iIm = pair[at + 3]! * reference
  const aRe = pair[at]! - iRe
  const aIm = pair[at + 1]! - iIm
  const bRe = pair[at]! + iRe
  const bIm = pair[at + 1]! + iIm
  const size = bRe * bRe + bIm * bIm
  out.re = (aRe * bRe + aIm * bIm) / size
  out.im = (aIm * bRe - aRe * bIm) / size
}

/** What is seen gains by V, 2·Z₀·I/(V + Z₀·I)², and by I, −2·Z₀·V/(V + Z₀·I)², of what it gains by ρ. */
function writeGain(
  pair: Float64Array,
  at: number,
  reference: number,
  byRho: Complex,
  out: Float64Array,
): void {
  const v = complex(pair[at]!, pair[at + 1])
  const i = complex(pair[at + 2]!, pair[at + 3])
  const b = complex(v.re + reference * i.re, v.im + reference * i.im)
  const by = divide(divide(byRho, b), b)
  const [byV, byI] = [multiply(by, i), multiply(by, v)]
  out[at] = 2 * reference * byV.re
  out[at + 1] = 2 * reference * byV.im
  out[at + 2] = -2 * reference * byI.re
  out[at + 3] = -2 * reference * byI.im
}

/** What an analyser makes of ρ: (1 + t)·ρ/(1 − s·ρ) + d; and what that gains by ρ and by d, t and s. */
function showing(errors: Float64Array, rho: Complex) {
  const below = subtract(complex(1), multiply(complex(errors[4]!, errors[5]), rho))
  const bent = divide(rho, below)
  const gain = complex(1 + errors[2]!, errors[3])
  const straight = multiply(gain, bent)
  return {
    re: straight.re + errors[0]!,
    im: straight.im + errors[1]!,
    byRho: () => divide(divide(gain, below), below),
    byTracking: bent,
    byMatch: () => multiply(straight, bent),
  }
}
