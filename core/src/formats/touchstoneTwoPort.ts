/** Touchstone two-port files: a stage that was measured instead of described. */
import { type Complex, add, complex, divide, multiply, subtract } from '../complex.ts'
import { InputError } from '../errors.ts'
import { CALIBRATION, mostOut } from '../stages/measured.ts'
import { formatFrequency } from '../units/format.ts'
import { readRecords, unitOf } from './touchstoneRecords.ts'

/**
 * S-parameters over frequency on one reference. `s` holds eight numbers a frequency: real and
 * imaginary part of S11, S21, S12 and S22.
 */
export interface TwoPortSweep {
  referenceOhm: number
  frequencyHz: number[]
  s: number[]
}

type Quad = [s11: Complex, s21: Complex, s12: Complex, s22: Complex]

const ONE = complex(1)
const plus1 = (a: Complex): Complex => add(a, ONE)
const minus1 = (a: Complex): Complex => subtract(a, ONE)
const twice = ({ re, im }: Complex): Complex => complex(2 * re, 2 * im)
const negative = ({ re, im }: Complex): Complex => complex(-re, -im)

/** S from normalised Z. Pozar, Microwave Engineering, table 4.2. */
function fromZ([z11, z21, z12, z22]: Quad): Quad {
  const cross = multiply(z12, z21)
  const d = subtract(multiply(plus1(z11), plus1(z22)), cross)
  return [
    divide(subtract(multiply(minus1(z11), plus1(z22)), cross), d),
    divide(twice(z21), d),
    divide(twice(z12), d),
    divide(subtract(multiply(plus1(z11), minus1(z22)), cross), d),
  ]
}

/** S from normalised Y: the dual, with every S negative and the same signs across. */
const fromY = (y: Quad): Quad => {
  const [s11, s21, s12, s22] = fromZ(y)
  return [negative(s11), negative(s21), negative(s12), negative(s22)]
}

/** S on another reference r times the first: both ports change alike. */
function onOther([s11, s21, s12, s22]: Quad, ratio: number): Quad {
  // To normalised Z and back would fail on an ideal through; this form holds there too.
  const g = (ratio - 1) / (ratio + 1)
  const G = complex(g)
  const cross = multiply(s12, s21)
  const a = subtract(ONE, multiply(G, s11))
  const b = subtract(ONE, multiply(G, s22))
  const d = subtract(multiply(a, b), multiply(complex(g * g), cross))
  const through = (s: Complex) => divide(multiply(s, complex(1 - g * g)), d)
  return [
    divide(add(multiply(subtract(s11, G), b), multiply(G, cross)), d),
    through(s21),
    through(s12),
    divide(add(multiply(subtract(s22, G), a), multiply(G, cross)), d),
  ]
}

/**
 * Reads a two-port file and states its S-parameters on `referenceOhm`.
 *
 * @throws TouchstoneError with the line; InputError where the part gives out more than it gets, or
 *   lets nothing through
 */
export function readTwoPort(text: string, referenceOhm: number): TwoPortSweep {
  const records = readRecords(text, 2)
  const { options, order12first, frequencyHz, rows } = records
  const unit = complex(unitOf(records))
  const s: number[] = []
  rows.forEach((row, i) => {
    const [a, b, c, d] = row as Quad
    const inOrder: Quad = order12first ? [a, c, b, d] : [a, b, c, d]
    const normal = inOrder.map((value) => divide(value, unit)) as Quad
    const own =
      options.parameter === 'S'
        ? inOrder
        : options.parameter === 'Z'
          ? fromZ(normal)
          : fromY(normal)
    const quad =
      options.referenceOhm === referenceOhm
        ? own
        : onOther(own, referenceOhm / options.referenceOhm)
    const at = formatFrequency(frequencyHz[i]!)
    const numbers = quad.flatMap(({ re, im }) => [re, im])
    if (!(mostOut(numbers) <= CALIBRATION))
      throw new InputError(
        `At ${at} more comes out than goes in. A stage of a chain is passive; check the analyser’s calibration, or whether this is an amplifier.`,
      )
    if (!(Math.hypot(quad[1].re, quad[1].im) >= 1e-6))
      throw new InputError(`At ${at} nothing gets through (S21 is 0). Are the ports connected?`)
    s.push(...numbers)
  })
  return { referenceOhm, frequencyHz, s }
}

/** Writes a two-port as Touchstone version 1: Hz, real and imaginary parts, 11 21 12 22. */
export function writeTwoPort({ referenceOhm, frequencyHz, s }: TwoPortSweep): string {
  const rows = frequencyHz.map((hz, i) => [hz, ...s.slice(8 * i, 8 * i + 8)].join(' '))
  return [`# Hz S RI R ${referenceOhm}`, ...rows, ''].join('\n')
}

/** A two-port with fewer points, and how far it is from the measured one: the largest |ΔS|. */
export interface Thinned {
  sweep: TwoPortSweep
  worst: number
}

/** A doubt of 0.0002 in S is 0.002 dB through a good part: less than any analyser's own. */
const FINEST = 2e-4

/**
 * Leaves out the points that straight lines between the others give back, so that a chain document
 * can carry the part whole. The tolerance doubles until at most `most` points are left. O(n·log n): each
 * line is drawn as far as it holds, found by doubling its reach.
 */
export function thinTwoPort(sweep: TwoPortSweep, most: number): Thinned {
  for (let tolerance = FINEST; ; tolerance *= 2) {
    const { kept, worst } = keep(sweep, tolerance)
    if (kept.length > most && most >= 2 && tolerance < 100) continue
    return {
      worst,
      sweep: {
        referenceOhm: sweep.referenceOhm,
        frequencyHz: kept.map((i) => sweep.frequencyHz[i]!),
        s: kept.flatMap((i) => sweep.s.slice(8 * i, 8 * i + 8)),
      },
    }
  }
}

/** The largest |ΔS| of the points between two, from the straight line that joins them. */
function offLine(
  { frequencyHz, s }: TwoPortSweep,
  from: number,
  to: number,
  enough: number,
): number {
  const span = frequencyHz[to]! - frequencyHz[from]!
  let distance = 0
  for (let i = from + 1; i < to && distance <= enough; i++) {
    const t = (frequencyHz[i]! - frequencyHz[from]!) / span
    for (let k = 0; k < 8; k += 2) {
      const re = s[8 * i + k]! - (s[8 * from + k]! + t * (s[8 * to + k]! - s[8 * from + k]!))
      const im =
        s[8 * i + k + 1]! - (s[8 * from + k + 1]! + t * (s[8 * to + k + 1]! - s[8 * from + k + 1]!))
      distance = Math.max(distance, Math.hypot(re, im))
    }
  }
  return distance
}

function keep(sweep: TwoPortSweep, tolerance: number) {
  const last = sweep.frequencyHz.length - 1
  const holds = (from: number, to: number) => offLine(sweep, from, to, tolerance) <= tolerance
  const kept = [0]
  let worst = 0
  let from = 0
  while (from < last) {
    let reach = 1
    while (from + 2 * reach <= last && holds(from, from + 2 * reach)) reach *= 2
    let low = from + reach
    let high = Math.min(last, from + 2 * reach)
    while (low < high) {
      const middle = Math.ceil((low + high) / 2)
      if (holds(from, middle)) low = middle
      else high = middle - 1
    }
    worst = Math.max(worst, offLine(sweep, from, low, Infinity))
    kept.push(low)
    from = low
  }
  return { kept, worst }
}
