/** Touchstone one-port files: an antenna's sweep. */
import { complex } from '../complex.ts'
import { reflectionOf, renormalise } from '../load/reflection.ts'
import { formatFrequency } from '../units/format.ts'
import { readRecords, TouchstoneError, unitOf } from './touchstoneRecords.ts'

/** What an analyser's calibration explains of a reflection of more than everything. */
const MOST_RHO = 1.02

/** A one-port sweep on one reference; frequencies rise strictly. */
export interface OnePortSweep {
  referenceOhm: number
  frequencyHz: Float64Array
  re: Float64Array
  im: Float64Array
  /** Comment lines, without the exclamation mark. */
  comments: string[]
}

/**
 * Reads a one-port file and states its reflection on `referenceOhm`, whatever the file's own.
 * Understands RI, MA and DB pairs, Hz to GHz, S, Z and Y parameters, comments, CRLF.
 *
 * @throws TouchstoneError with the line; nothing is half-read
 * @example readTouchstone('# MHz S RI R 50\n7 0.2 0\n8 0.3 0', 50).re // [0.2, 0.3]
 */
export function readTouchstone(text: string, referenceOhm: number): OnePortSweep {
  const records = readRecords(text, 1)
  const { options, frequencyHz, rows, comments } = records
  const unit = unitOf(records)
  const n = frequencyHz.length
  const re = new Float64Array(n)
  const im = new Float64Array(n)
  rows.forEach(([value], i) => {
    let own = value!
    if (options.parameter !== 'S') {
      const rho = reflectionOf(own, unit)
      own = options.parameter === 'Z' ? rho : complex(-rho.re, -rho.im)
    }
    const rho = renormalise(own, options.referenceOhm, referenceOhm)
    const size = Math.hypot(rho.re, rho.im)
    if (!(size <= MOST_RHO))
      throw new TouchstoneError(
        `at ${formatFrequency(frequencyHz[i]!)} |ρ| is ${size > 1e6 || Number.isNaN(size) ? 'beyond all bounds' : size.toPrecision(4)}: an antenna returns no more than it gets. Check the option line (MA, DB or RI) and the analyser’s calibration.`,
        records.lines[i]!,
      )
    // A calibration that is a little off: what comes back is all there is.
    const shrink = size > 1 ? 1 / size : 1
    re[i] = rho.re * shrink
    im[i] = rho.im * shrink
  })
  return { referenceOhm, frequencyHz: Float64Array.from(frequencyHz), re, im, comments }
}

/**
 * Writes a one-port sweep as Touchstone version 1: Hz, real and imaginary part.
 *
 * @example writeTouchstone({ referenceOhm: 50, frequencyHz: [7e6], re: [0.2], im: [0], comments: [] }).slice(0, 14)
 *   // '# Hz S RI R 50'
 */
export function writeTouchstone(sweep: OnePortSweep): string {
  const head = sweep.comments.map((comment) => `! ${comment}`)
  const rows = Array.from(sweep.frequencyHz, (hz, i) => `${hz} ${sweep.re[i]} ${sweep.im[i]}`)
  return [...head, `# Hz S RI R ${sweep.referenceOhm}`, ...rows, ''].join('\n')
}
