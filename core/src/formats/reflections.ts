/** Reflections over frequency, whatever kind of file an analyser has saved them in. */
import { InputError } from '../errors.ts'
import { sweepFromTable } from './sweepFromTable.ts'
import { guessMapping, readSweepTable, sweepForms } from './sweepTable.ts'
import { type OnePortSweep, readTouchstone } from './touchstone.ts'
import { readTwoPort } from './touchstoneTwoPort.ts'

const OPTION_LINE = /^[ \t]*(#[ \t]*([kMG]?Hz|[SYZ]|MA|DB|RI|R)\b|\[version\])/im
const TWO_PORTS = /^[ \t]*\[number of ports\][ \t]*2\b/im
/** A frequency and four pairs. */
const TWO_PORT_ROW = /^[ \t]*[-+.\d]\S*([ \t]+[-+.\d]\S*){8}[ \t]*(!.*)?$/m

/** Whether a Touchstone file is of two ports: what is seen at the first has the second one’s load at its far end. */
export const ofTwoPorts = (text: string): boolean =>
  OPTION_LINE.test(text) && (TWO_PORTS.test(text) || TWO_PORT_ROW.test(text))

/**
 * Reads a Touchstone file of one port, the first port of one of two, or a table with a frequency and what makes a reflection
 * with its phase: R and X, |Z| or |ρ| and an angle, real and imaginary part.
 *
 * @throws TouchstoneError with the line; InputError for a table, with the line or what is missing
 * @example readReflections('MHz,R,X\n7,50,0\n8,50,10', 50).re[0] // 0
 */
export function readReflections(text: string, referenceOhm: number): OnePortSweep {
  if (!OPTION_LINE.test(text)) return fromTable(text, referenceOhm)
  if (!ofTwoPorts(text)) return readTouchstone(text, referenceOhm)
  const { frequencyHz, s } = readTwoPort(text, referenceOhm)
  const first = (part: 0 | 1) => Float64Array.from(frequencyHz, (_, k) => s[8 * k + part]!)
  return {
    ...{ referenceOhm, re: first(0), im: first(1), comments: [] },
    frequencyHz: Float64Array.from(frequencyHz),
  }
}

function fromTable(text: string, referenceOhm: number): OnePortSweep {
  const table = readSweepTable(text)
  const mapping = guessMapping(table)
  if (!sweepForms[mapping.form].phase)
    throw new InputError(
      `This table has ${sweepForms[mapping.form].label} alone. To look along a line the phase is needed: save R and X, or a .s1p file.`,
    )
  return sweepFromTable(table, mapping, referenceOhm).sweep
}
