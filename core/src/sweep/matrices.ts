/** Pieces of the way over all frequencies of a sweep: matrices that are kept until a figure of theirs changes. */
import { newAbcd } from '../stages/twoPort.ts'
import { type Piece, steady, writePart } from './pieces.ts'

/** A, B, C and D on each frequency, real and imaginary. */
const MATRIX = 8
/** V and I on each frequency, real and imaginary, or what a figure gains by them. */
const PAIR = 4

export interface Matrices {
  /** Of the figures that were set last. */
  numbers: Float64Array
  /** Takes the figures of a whole chain; false where its own are as before. */
  set: (figures: ArrayLike<number>) => boolean
  /** What the numbers gain by each own figure; until it is called again. */
  slopes: () => { figure: number; gained: Float64Array }[]
}

/**
 * @param steps of each figure of the chain, over which its slope is taken
 * @param referenceOhm of parts that are known between matched ends
 */
export function matricesOf(
  { own, part }: Piece,
  hz: Float64Array,
  steps: readonly number[],
  referenceOhm: number,
): Matrices {
  const one = newAbcd()
  const write = (values: readonly number[], out: Float64Array) => {
    const written = part(values)
    const same = steady(written)
    if (same) writePart(written, hz[0]!, referenceOhm, one)
    for (let k = 0; k < hz.length; k++) {
      if (!same) writePart(written, hz[k]!, referenceOhm, one)
      for (let i = 0; i < MATRIX; i++) out[MATRIX * k + i] = one[i]!
    }
  }
  const numbers = new Float64Array(MATRIX * hz.length)
  const gained = own.map(() => new Float64Array(MATRIX * hz.length))
  let values = own.map(() => NaN)
  let first = true
  return {
    numbers,
    set(figures) {
      if (!first && own.every((p, i) => figures[p] === values[i])) return false
      first = false
      values = own.map((p) => figures[p]!)
      write(values, numbers)
      return true
    },
    slopes: () =>
      own.map((figure, i) => {
        const step = steps[figure]!
        const by = gained[i]!
        write(values.with(i, values[i]! + step), by)
        for (let at = 0; at < by.length; at++) by[at] = (by[at]! - numbers[at]!) / step
        return { figure, gained: by }
      }),
  }
}

/** V and I in front of matrices, of those behind them, on all frequencies. */
export function inFront(m: Float64Array, behind: Float64Array, out: Float64Array): void {
  for (let at = 0, from = 0; at < out.length; at += PAIR, from += MATRIX) {
    const vRe = behind[at]!
    const vIm = behind[at + 1]!
    const iRe = behind[at + 2]!
    const iIm = behind[at + 3]!
    out[at] = m[from]! * vRe - m[from + 1]! * vIm + m[from + 2]! * iRe - m[from + 3]! * iIm
    out[at + 1] = m[from]! * vIm + m[from + 1]! * vRe + m[from + 2]! * iIm + m[from + 3]! * iRe
    out[at + 2] = m[from + 4]! * vRe - m[from + 5]! * vIm + m[from + 6]! * iRe - m[from + 7]! * iIm
    out[at + 3] = m[from + 4]! * vIm + m[from + 5]! * vRe + m[from + 6]! * iIm + m[from + 7]! * iRe
  }
}

/** What something gains by V and I behind matrices, of what it gains by those in front, written in its place. */
export function gainBehind(gain: Float64Array, m: Float64Array): void {
  for (let at = 0, from = 0; at < gain.length; at += PAIR, from += MATRIX) {
    const vRe = gain[at]!
    const vIm = gain[at + 1]!
    const iRe = gain[at + 2]!
    const iIm = gain[at + 3]!
    gain[at] = vRe * m[from]! - vIm * m[from + 1]! + iRe * m[from + 4]! - iIm * m[from + 5]!
    gain[at + 1] = vRe * m[from + 1]! + vIm * m[from]! + iRe * m[from + 5]! + iIm * m[from + 4]!
    gain[at + 2] = vRe * m[from + 2]! - vIm * m[from + 3]! + iRe * m[from + 6]! - iIm * m[from + 7]!
    gain[at + 3] = vRe * m[from + 3]! + vIm * m[from + 2]! + iRe * m[from + 7]! + iIm * m[from + 6]!
  }
}

/** The sum of gain × pair over V and I on each frequency: real parts first, then imaginary ones, from `to` on. */
export function gainedBy(
  gain: Float64Array,
  pair: Float64Array,
  out: Float64Array,
  to: number,
): void {
  const m = gain.length / PAIR
  for (let k = 0, at = 0; k < m; k++, at += PAIR) {
    const vRe = pair[at]!
    const vIm = pair[at + 1]!
    const iRe = pair[at + 2]!
    const iIm = pair[at + 3]!
    out[to + k] = gain[at]! * vRe - gain[at + 1]! * vIm + gain[at + 2]! * iRe - gain[at + 3]! * iIm
    out[to + m + k] =
      gain[at]! * vIm + gain[at + 1]! * vRe + gain[at + 2]! * iIm + gain[at + 3]! * iRe
  }
}
