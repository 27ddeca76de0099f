/** A sweep from the columns of a table. */
import { complex } from '../complex.ts'
import { InputError } from '../errors.ts'
import { reflectionOf, rhoOfSwr } from '../load/reflection.ts'
import { MOST_FILE_HZ } from './bounds.ts'
import {
  type ColumnMapping,
  frequencyUnits,
  type SweepForm,
  sweepForms,
  type SweepTable,
} from './sweepTable.ts'
import type { OnePortSweep } from './touchstone.ts'

/** A sweep made from a table; where the phase is not known, `re` holds |ρ| and `im` is 0. */
export interface TableSweep {
  sweep: OnePortSweep
  phaseKnown: boolean
  /** Points that stood there twice with the same figures, and count once. */
  merged: number
}

/**
 * Makes a sweep of a table. Rows may come in any order.
 *
 * @throws InputError naming the line where a figure cannot be
 */
export function sweepFromTable(
  table: SweepTable,
  mapping: ColumnMapping,
  referenceOhm: number,
): TableSweep {
  const { columns, lines, headings } = table
  const { phase: phaseKnown } = sweepForms[mapping.form]
  const factor = frequencyUnits[mapping.unit]
  const [first, second] = mapping.values
  if (mapping.values.length !== sweepForms[mapping.form].columns.length)
    throw new InputError(`Say which columns hold ${sweepForms[mapping.form].label}.`)
  const used = [mapping.frequency, ...mapping.values]
  if (new Set(used).size < used.length)
    throw new InputError('Each column can stand for one thing only: choose different ones.')
  const wrong = (row: number, what: string): never => {
    throw new InputError(`Line ${lines[row]}: ${what}`, [lines[row]! - 1])
  }
  const points = lines.map((_, row) => {
    const hz = columns[mapping.frequency]![row]! * factor
    if (!(hz > 0 && hz <= MOST_FILE_HZ))
      wrong(row, `the frequency must be more than 0 and under 1000 GHz.`)
    const a = columns[first!]![row]!
    let b = second === undefined ? 0 : columns[second]![row]!
    if (mapping.angle === 'radians') b *= 180 / Math.PI
    const { re, im } = reflectionFrom(mapping.form, a, b, referenceOhm, (what) => wrong(row, what))
    return { hz, re, im, row }
  })
  points.sort((p, q) => p.hz - q.hz)
  const once = points.filter((point, i) => {
    const before = points[i - 1]
    if (before?.hz !== point.hz) return true
    if (before.re !== point.re || before.im !== point.im)
      wrong(
        point.row,
        `the frequency stands there twice, with other figures; line ${lines[before.row]} has it too.`,
      )
    return false
  })
  const merged = points.length - once.length
  return {
    phaseKnown,
    merged,
    sweep: {
      referenceOhm,
      frequencyHz: Float64Array.from(once, ({ hz }) => hz),
      re: Float64Array.from(once, ({ re }) => re),
      im: Float64Array.from(once, ({ im }) => im),
      comments: [
        `from a table: ${mapping.values.map((c) => headings[c]).join(', ')}`,
        ...(merged > 0 ? [`${merged} identical ${merged === 1 ? 'point' : 'points'} merged`] : []),
      ],
    },
  }
}

/** dB; the best calibration kits end near 60. */
const MOST_RETURN_LOSS = 120

function reflectionFrom(
  form: SweepForm,
  a: number,
  b: number,
  referenceOhm: number,
  wrong: (what: string) => never,
) {
  switch (form) {
    case 'rx':
      if (a < 0) wrong(`R is ${a} Ω; an antenna’s resistance is not negative.`)
      return reflectionOf(complex(a, b), referenceOhm)
    case 'zPolar': {
      const z = complex(a * Math.cos((b * Math.PI) / 180), a * Math.sin((b * Math.PI) / 180))
      if (a < 0) wrong(`|Z| is ${a} Ω; it is not negative.`)
      if (z.re < -1e-9 * a)
        wrong(`at a phase of ${b}° the resistance would be negative; an antenna’s is not.`)
      return reflectionOf(complex(Math.max(0, z.re), z.im), referenceOhm)
    }
    case 'polar':
      if (a < 0 || a > 1) wrong(`|ρ| is ${a}; it lies between 0 and 1.`)
      return complex(a * Math.cos((b * Math.PI) / 180), a * Math.sin((b * Math.PI) / 180))
    case 'parts':
      if (Math.hypot(a, b) > 1)
        wrong('|ρ| is more than 1; an antenna returns no more than it gets.')
      return complex(a, b)
    case 'swr':
      if (a < 1) wrong(`SWR is ${a}; it is 1 or more.`)
      return complex(rhoOfSwr(a))
    case 'returnLoss':
      if (Math.abs(a) > MOST_RETURN_LOSS)
        wrong(`a return loss of ${a} dB is more than anything measures; is this another column?`)
      // Instruments show it with either sign; a mismatch is meant both times.
      return complex(10 ** (-Math.abs(a) / 20))
  }
}
