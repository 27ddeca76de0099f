/** A chain behind a plane as a curve over frequency, of figures that may be other than written down. */
import { type AnalyserErrors, below } from './analyserErrors.ts'
import { type Complex, complex, divide, multiply, subtract } from '../complex.ts'
import { type Chain, referenceOf } from '../chain/chain.ts'
import { LEAST_REFLECTION, mostOf } from '../chain/drawStation.ts'
import type { Tolerances } from '../chain/tolerances.ts'
import { type Load, reflectionAt } from '../load/load.ts'
import { newAbcd } from '../stages/twoPort.ts'
import type { Curve } from '../statistics/curveFit.ts'
import { antennaOver, ENDS, type FarEnd } from './alongLine.ts'
import type { Reflections } from './evenSweep.ts'
import { type Figure, type NewFigure, piecesOf, scaled, writePart } from './pieces.ts'

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

  const n = pieces.length
  const steps = figures.map(({ deviation }) => STEP * deviation)
  const matrices = pieces.map(newAbcd)
  const beside = newAbcd()
  /** V and I behind each piece on one frequency, and the matrix of all that is in front of it. */
  const behind = new Float64Array(4 * (n + 1))
  const front = new Float64Array(8 * (n + 1))
  const pair = new Float64Array(4)
  const errors = new Float64Array(6)
  const own = { re: 0, im: 0 }
  const seen = { re: 0, im: 0 }

  let slopes: Float64Array | null = null
  const keep = (p: number, k: number, byRe: number, byIm: number) => {
    slopes![2 * m * p + k] = byRe
    slopes![2 * m * p + m + k] = byIm
  }
  /** What is seen of V and I behind a piece, where a figure is a little other than it is. */
  const keepSeen = (p: number, piece: number, k: number, byRho: Complex) => {
    transfer(front, 8 * piece, pair, 0, pair, 0)
    reflected(pair, reference, seen)
    const byRe = (seen.re - own.re) / steps[p]!
    const byIm = (seen.im - own.im) / steps[p]!
    keep(p, k, byRho.re * byRe - byRho.im * byIm, byRho.re * byIm + byRho.im * byRe)
  }
  /** An error of the analyser, real and imaginary, in the middle of the sweep and toward its ends. */
  const keepBoth = (p: number, k: number, along: number, byRe: number, byIm: number) => {
    keep(p, k, byRe, byIm)
    keep(p + 1, k, -byIm, byRe)
    keep(p + 6, k, along * byRe, along * byIm)
    keep(p + 7, k, -along * byIm, along * byRe)
  }

  return {
    ...{ figures, middleHz, referenceOhm: reference, count: 2 * m },
    deviations: figures.map(({ deviation }) => deviation),
    // What is wrong is looked for in the line: a calibrated analyser is no more off than it is said to be.
    firm: figures.map(({ kind }) => kind === 'analyser'),
    compare(values, residuals, wanted) {
      slopes = wanted
      const of = (own: readonly number[], moved?: number) =>
        own.map((p) => values[p]! + (p === moved ? steps[p]! : 0))
      const as = pieces.map(({ own, part }) => part(of(own)))
      const ofLoad = figures.slice(loadFrom, analyserFrom).map((_, i) => loadFrom + i)
      const loads = antenna(of(ofLoad))
      // One figure a little other than it is, all others as they are.
      const changed = wanted && {
        pieces: pieces.map(({ own, part }) => own.map((p) => ({ p, part: part(of(own, p)) }))),
        loads: ofLoad.map((p) => ({ p, loads: antenna(of(ofLoad, p)) })),
      }
      const ofAnalyser = values.subarray(analyserFrom)
      for (let k = 0; k < m; k++) {
        atLoad(loads[k]!, reference, behind, 4 * n)
        for (let j = n - 1; j >= 0; j--) {
          writePart(as[j]!, hz[k]!, reference, matrices[j]!)
          transfer(matrices[j]!, 0, behind, 4 * (j + 1), behind, 4 * j)
        }
        reflected(behind, reference, own)
        const along = (2 * k) / (m - 1) - 1
        for (let i = 0; i < 6; i++) errors[i] = ofAnalyser[i]! + along * ofAnalyser[6 + i]!
        const shown = showing(errors, own)
        residuals[k] = re[k]! - shown.re
        residuals[m + k] = im[k]! - shown.im
        if (!changed) continue
        identity(front)
        for (let j = 0; j < n; j++) inFront(front, 8 * j, matrices[j]!)
        for (let j = 0; j < n; j++)
          for (const { p, part } of changed.pieces[j]!) {
            writePart(part, hz[k]!, reference, beside)
            transfer(beside, 0, behind, 4 * (j + 1), pair, 0)
            keepSeen(p, j, k, shown.byRho)
          }
        for (const { p, loads: moved } of changed.loads) {
          atLoad(moved[k]!, reference, pair, 0)
          keepSeen(p, n, k, shown.byRho)
        }
        keepBoth(analyserFrom, k, along, 1, 0)
        keepBoth(analyserFrom + 2, k, along, shown.byTracking.re, shown.byTracking.im)
        keepBoth(analyserFrom + 4, k, along, shown.byMatch.re, shown.byMatch.im)
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
function atLoad({ re, im }: Complex, reference: number, out: Float64Array, at: number): void {
  out[at] = 1 + re
  out[at + 1] = im
  out[at + 2] = (1 - re) / reference
  out[at + 3] = -im / reference
}

/** V and I in front of a two-port, of those behind it. */
function transfer(
  m: Float64Array,
  from: number,
  v: Float64Array,
  at: number,
  out: Float64Array,
  to: number,
): void {
  const vRe = v[at]!
  const vIm = v[at + 1]!
  const iRe = v[at + 2]!
  const iIm = v[at + 3]!
  out[to] = m[from]! * vRe - m[from + 1]! * vIm + m[from + 2]! * iRe - m[from + 3]! * iIm
  out[to + 1] = m[from]! * vIm + m[from + 1]! * vRe + m[from + 2]! * iIm + m[from + 3]! * iRe
  out[to + 2] = m[from + 4]! * vRe - m[from + 5]! * vIm + m[from + 6]! * iRe - m[from + 7]! * iIm
  out[to + 3] = m[from + 4]! * vIm + m[from + 5]! * vRe + m[from + 6]! * iIm + m[from + 7]! * iRe
}

function reflected(v: Float64Array, reference: number, out: { re: number; im: number }): void {
  const iRe = v[2]! * reference
  const iIm = v[3]! * reference
  const aRe = v[0]! - iRe
  const aIm = v[1]! - iIm
  const bRe = v[0]! + iRe
  const bIm = v[1]! + iIm
  const size = bRe * bRe + bIm * bIm
  out.re = (aRe * bRe + aIm * bIm) / size
  out.im = (aIm * bRe - aRe * bIm) / size
}

function identity(out: Float64Array): void {
  out.fill(0, 0, 8)
  out[0] = out[6] = 1
}

/** From the matrix of all in front of a piece, that of the piece too, which stands behind it. */
function inFront(front: Float64Array, at: number, m: Float64Array): void {
  for (let row = at; row <= at + 4; row += 4) {
    const aRe = front[row]!
    const aIm = front[row + 1]!
    const bRe = front[row + 2]!
    const bIm = front[row + 3]!
    for (let column = 0; column <= 2; column += 2) {
      const to = row + 8 + column
      front[to] =
        aRe * m[column]! - aIm * m[column + 1]! + bRe * m[column + 4]! - bIm * m[column + 5]!
      front[to + 1] =
        aRe * m[column + 1]! + aIm * m[column]! + bRe * m[column + 5]! + bIm * m[column + 4]!
    }
  }
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
    byRho: divide(divide(gain, below), below),
    byTracking: bent,
    byMatch: multiply(straight, bent),
  }
}
