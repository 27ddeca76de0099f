/** Touchstone one-port files: an antenna's sweep. */
import { complex } from '../complex.ts'
import { reflectionOf, renormalise } from '../load/reflection.ts'
import { readRecords, unitOf } from './touchstoneRecords.ts'

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
    re[i] = rho.re
    im[i] = rho.im
  })
  return { referenceOhm, frequencyHz: Float64Array.from(frequencyHz), re, im, comments }
}

/** Writes a one-port sweep as Touchstone version 1: Hz, real and imaginary part. */
export function writeTouchstone(sweep: OnePortSweep): string {
  const head = sweep.comments.map((comment) => `! ${comment}`)
  const rows = Array.from(sweep.frequencyHz, (hz, i) => `${hz} ${sweep.re[i]} ${sweep.im[i]}`)
  return [...head, `# Hz S RI R ${sweep.referenceOhm}`, ...rows, ''].join('\n')
}
