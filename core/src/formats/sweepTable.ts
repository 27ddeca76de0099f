/** Reads a table of an antenna over frequency, as instruments and spreadsheets save it. */
import { InputError } from '../errors.ts'
import { conversionOf } from '../units/dimensions.ts'
import {
  type CellNumber,
  cellNumber,
  cellProblem,
  decimalSign,
  linesOf,
  splitBy,
  isBeyond,
} from './cells.ts'
import { MOST_FIGURE, MOST_ROWS } from './bounds.ts'
import { headingUnit } from './headings.ts'

/** Columns of numbers, with their headings and the line each row stood on (counted from 1). */
export interface SweepTable {
  headings: string[]
  columns: number[][]
  lines: number[]
}

/** Units of frequency, each in Hz. */
export const frequencyUnits = { Hz: 1, kHz: 1e3, MHz: 1e6, GHz: 1e9 } as const
export type FrequencyUnit = keyof typeof frequencyUnits

/** An angle may be in degrees or radians. */
export type AngleUnit = 'degrees' | 'radians'

/** What the columns beside the frequency may say; the first two numbers of a row make ρ. */
export const sweepForms = {
  rx: { label: 'R and X', columns: ['R, Ω', 'X, Ω'], phase: true },
  zPolar: { label: '|Z| and phase', columns: ['|Z|, Ω', 'phase, degrees'], phase: true },
  polar: { label: '|ρ| and phase', columns: ['|ρ|', 'phase, degrees'], phase: true },
  parts: { label: 'real and imaginary part of ρ', columns: ['real', 'imaginary'], phase: true },
  swr: { label: 'SWR', columns: ['SWR'], phase: false },
  returnLoss: { label: 'return loss, dB', columns: ['return loss, dB'], phase: false },
} as const
export type SweepForm = keyof typeof sweepForms

export interface ColumnMapping {
  frequency: number
  unit: FrequencyUnit
  form: SweepForm
  /** The columns that `sweepForms[form].columns` names, in that order. */
  values: number[]
  /** Of a phase; degrees unless given. */
  angle?: AngleUnit | undefined
}

const separators = ['\t', ';', ',', ' '] as const
type Separator = (typeof separators)[number]

/** A line that is no row: empty, or a remark. */
const silent = (line: string): boolean => line.trim() === '' || /^\s*(#|!|\/\/|%)/.test(line)

/** Longer than any row of numbers. */
const MOST_LINE = 10_000

/** How many of the first lines to look at when guessing what separates the columns. */
const SAMPLE = 200

/**
 * Reads lines of numbers split by tabs, semicolons, commas or spaces, with decimal points or commas.
 * What stands before the first row is taken as headings.
 *
 * @throws InputError naming the line
 * @example readSweepTable('MHz,SWR\n7,1.5\n7.1,1.3').headings // ['MHz', 'SWR']
 */
export function readSweepTable(text: string): SweepTable {
  const lines = linesOf(text)
  const sample = lines.filter((line) => !silent(line)).slice(0, SAMPLE)
  const { separator, sign } = conventionOf(sample)
  let headings: string[] = []
  const columns: number[][] = []
  const at: number[] = []
  lines.forEach((raw, index) => {
    if (silent(raw)) return
    if (raw.length > MOST_LINE)
      throw new InputError(`Line ${index + 1}: longer than any row of numbers.`, [index])
    const words = splitBy(raw, separator)
    const results = words.map((cell) => cellNumber(cell, sign))
    const either = results.findIndex((result) => !result.ok && result.why === 'either')
    if (either >= 0)
      throw new InputError(
        `Line ${index + 1}: ${cellProblem(words[either]!, results[either] as CellNumber & { ok: false })}`,
        [index],
      )
    const beyond = words.find(isBeyond)
    if (beyond !== undefined && results.some(({ ok }) => ok))
      throw new InputError(
        `Line ${index + 1}: “${beyond.trim().slice(0, 40)}” is a bound, not a figure: leave the line out, or write what was read.`,
        [index],
      )
    const cells = results.map((result) => (result.ok ? result.value : NaN))
    if (numeric(cells)) {
      if (at.length > 0 && cells.length !== columns.length)
        throw new InputError(
          `Line ${index + 1}: ${cells.length} numbers, where line ${at[0]} has ${columns.length}.`,
          [index],
        )
      const huge = cells.findIndex((value) => Math.abs(value) > MOST_FIGURE)
      if (huge >= 0)
        throw new InputError(
          `Line ${index + 1}: ${words[huge]!.trim().slice(0, 40)} is more than anything measures.`,
          [index],
        )
      if (at.length >= MOST_ROWS)
        throw new InputError(`More than ${MOST_ROWS} rows: save it with fewer points.`, [index])
      cells.forEach((value, c) => (columns[c] ??= []).push(value))
      at.push(index + 1)
    } else if (at.length === 0) headings = words.map((word) => word.trim())
    else {
      const bad = words[cells.findIndex((cell) => !Number.isFinite(cell))]
      throw new InputError(
        `Line ${index + 1}: “${(bad ?? raw).trim().slice(0, 40)}” is not a number.`,
        [index],
      )
    }
  })
  const named = headings.length === columns.length
  return {
    headings: columns.map((_, c) => (named && headings[c]) || `column ${c + 1}`),
    columns,
    lines: at,
  }
}

const numeric = (cells: readonly number[]): boolean =>
  cells.length >= 2 && cells.every(Number.isFinite)

/** What separates the columns and what the decimal sign is: by which most of the first rows are numbers. */
function conventionOf(sample: readonly string[]): { separator: Separator; sign: ',' | '.' | null } {
  let best: { separator: Separator; sign: ',' | '.' | null; count: number } | null = null
  for (const separator of separators) {
    const rows = sample.map((line) => splitBy(line, separator))
    // Where commas separate, they cannot be decimal signs too.
    const sign = separator === ',' ? '.' : decimalSign(rows.flat())
    const count = rows.filter(
      (cells) =>
        cells.length >= 2 &&
        cells.every((cell) => {
          const result = cellNumber(cell, sign)
          return result.ok || result.why === 'either'
        }),
    ).length
    if (!best || count > best.count) best = { separator, sign, count }
  }
  if (!best || best.count === 0)
    throw new InputError(
      'No row of numbers was found: expected lines of a frequency and one or more figures, split by tabs, semicolons, commas or spaces.',
    )
  return best
}

/** What the columns probably are, from their headings and the size of their numbers. */
export function guessMapping({ headings, columns }: SweepTable): ColumnMapping {
  const find = (pattern: RegExp) => headings.findIndex((heading) => pattern.test(heading.trim()))
  const frequency = Math.max(0, find(/freq|hz\b/i))
  const unit = unitOf(headings[frequency]!, columns[frequency]!)
  const found: Record<SweepForm, number[]> = {
    rx: [
      find(/^(re\(?z\)?|rs?|resist\w*|z.?re\w*)\b/i),
      find(/^(im\(?z\)?|xs?|react\w*|z.?im\w*)\b/i),
    ],
    zPolar: [
      find(/^\|?z\|?(\s*(mag\w*|abs\w*))?\s*([([,].*|ohm.*|Ω.*)?$|^(mag\w* of )?impedance/i),
      find(/phase|angle|deg|°|θ|phi|φ/i),
    ],
    polar: [
      find(/^\|?(rho|ρ|gamma|γ|s11|refl\w*)\|?\s*(mag\w*)?$|mag/i),
      find(/phase|angle|deg|°|θ/i),
    ],
    parts: [find(/^re(al)?\b/i), find(/^im(ag\w*)?\b/i)],
    swr: [find(/swr/i)],
    returnLoss: [find(/return|^rl\b|s11.*db|db/i)],
  }
  for (const form of Object.keys(found) as SweepForm[])
    if (found[form].every((c) => c >= 0 && c !== frequency))
      return {
        frequency,
        unit,
        form,
        values: found[form],
        ...(form.endsWith('olar') &&
          /rad/i.test(headings[found[form][1]!]!) && { angle: 'radians' as const }),
      }
  const others = columns.map((_, c) => c).filter((c) => c !== frequency)
  // R and X by their order alone only where they could be: a phase swings, an R is not negative.
  if (others.length >= 2 && columns[others[0]!]!.every((value) => value >= 0))
    return { frequency, unit, form: 'rx', values: others.slice(0, 2) }
  const form = columns[others[0]!]!.every((value) => value >= 1) ? 'swr' : 'returnLoss'
  return { frequency, unit, form, values: others.slice(0, 1) }
}

function unitOf(heading: string, values: readonly number[]): FrequencyUnit {
  const { unit } = headingUnit(heading, 'frequency')
  if (unit) {
    const hz = conversionOf('frequency', unit)!.toOwn(1)
    for (const name of Object.keys(frequencyUnits) as FrequencyUnit[])
      if (frequencyUnits[name] === hz) return name
  }
  const top = values.reduce((most, value) => Math.max(most, value), 0)
  return top > 1e5 ? 'Hz' : top > 6000 ? 'kHz' : 'MHz'
}
