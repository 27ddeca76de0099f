/** Reads a pasted data-sheet table of attenuation over frequency. */
import type { SheetPoints } from '../cables/cableClass.ts'
import { InputError } from '../errors.ts'
import { conversionOf } from '../units/dimensions.ts'
import { cellNumber, cellProblem, decimalSign, linesOf } from './cells.ts'
import { headingLossPer, type LossPer, lossLengths } from './headings.ts'

export interface SheetTable {
  /** [MHz, dB per 100 m]. */
  points: SheetPoints
  /** What a heading said, or what was assumed. */
  per: LossPer
  unit: 'kHz' | 'MHz' | 'GHz'
}

const UNITS = ['GHz', 'MHz', 'kHz'] as const
/** A data sheet has a few dozen lines. */
const MOST_LINES = 2000
const MOST_LINE = 400
const MOST_MHZ = 100_000
const MOST_DB_PER_100M = 100_000

interface RawRow {
  line: number
  frequency: string
  /** Unit written in the row itself. */
  unit: string | null
  loss: string
}

/**
 * Reads lines of frequency and loss, split by tabs, semicolons, bars, commas or spaces, with decimal points
 * or commas. A heading may name the units (`GHz`, `dB/100 ft`) and overrules what is given; so does a unit
 * in a row (`1 GHz 21 dB`). Linear in the text's length.
 *
 * @throws InputError naming the line; its path is the line's index
 * @example readSheetTable('MHz;dB/100 m\n10;6,5\n100;22', { per: '100 m', unit: 'MHz' }).points
 *   // [[10, 6.5], [100, 22]]
 */
export function readSheetTable(
  text: string,
  assumed: { per: LossPer; unit: SheetTable['unit'] },
): SheetTable {
  let { per, unit } = assumed
  const lines = linesOf(text)
  if (lines.length > MOST_LINES)
    throw new InputError(`A data sheet’s table may have at most ${MOST_LINES} lines.`, [MOST_LINES])
  const rows: RawRow[] = []
  lines.forEach((raw, index) => {
    const line = raw.trim()
    if (line === '') return
    const row = line.length <= MOST_LINE ? splitRow(line, index) : null
    if (row) return void rows.push(row)
    if (rows.length > 0 || !/[a-z]/i.test(line) || line.length > MOST_LINE) {
      throw wrong(index, `expected a frequency and a loss, found “${line.slice(0, 40)}”.`)
    }
    // A heading: it may say what the columns are in.
    const said = headingLossPer(line)
    if (said.foreign)
      throw wrong(
        index,
        `“${said.foreign}” is no length that a loss is stated per here: use metres or feet.`,
      )
    per = said.per ?? per
    unit = UNITS.find((name) => new RegExp(`\\b${name}\\b`, 'i').test(line)) ?? unit
  })
  if (rows.length < 2) throw new InputError('At least two lines of frequency and loss are needed.')
  const sign = decimalSign(rows.flatMap(({ frequency, loss }) => [frequency, loss]))
  const number = (cell: string, line: number): number => {
    const result = cellNumber(cell, sign)
    if (!result.ok) throw wrong(line, cellProblem(cell, result))
    return result.value
  }
  const points = rows.map((row) => {
    const hz = conversionOf('frequency', row.unit ?? unit)!.toOwn(number(row.frequency, row.line))
    const mhz = Number((hz / 1e6).toPrecision(12))
    const db = (number(row.loss, row.line) * 100) / lossLengths[per]
    if (!(mhz > 0 && mhz <= MOST_MHZ))
      throw wrong(
        row.line,
        `the frequency must be more than 0 and at most 100 GHz, not ${mhz} MHz.`,
      )
    if (!(db >= 0 && db <= MOST_DB_PER_100M))
      throw wrong(row.line, `the loss must be 0 or more, not ${row.loss} dB.`)
    return [mhz, db] as const
  })
  return { points, per, unit }
}

const wrong = (index: number, what: string): InputError =>
  new InputError(`Line ${index + 1}: ${what}`, [index])

/** Tokens of a row: a unit that stands apart from its number belongs to it. */
function splitRow(line: string, index: number): RawRow | null {
  const separator = ['\t', ';', '|'].find((sign) => line.includes(sign))
  let cells = separator
    ? line.split(separator).map((cell) => cell.trim())
    : joinUnits(line.split(/\s+/))
  // Without a space or another separator, the one comma between two numbers separates them.
  if (!separator && cells.length === 1) cells = line.split(',').map((cell) => cell.trim())
  cells = cells.map((cell) => cell.replace(/,$/, '').trim()).filter((cell) => cell !== '')
  if (cells.length !== 2) return null
  const [frequency, unit] = numberAndUnit(cells[0]!)
  const [loss, lossUnit] = numberAndUnit(cells[1]!)
  if (frequency === null || loss === null) return null
  if (unit !== null && !conversionOf('frequency', unit)) return null
  if (lossUnit !== null && !/^db/i.test(lossUnit)) return null
  return { line: index, frequency, unit, loss }
}

function joinUnits(words: string[]): string[] {
  const cells: string[] = []
  for (const word of words) {
    const previous = cells.length - 1
    if (previous >= 0 && /^[a-zµ%/°]/i.test(word) && /\d/.test(cells[previous]!))
      cells[previous] += ` ${word}`
    else cells.push(word)
  }
  return cells
}

/** The number at the start of a cell, and what stands behind it. */
function numberAndUnit(cell: string): [number: string | null, unit: string | null] {
  const match = /^([+-−]?[\d.,]{1,40}(?:e[+-]?\d{1,3})?)\s*([a-zµ].*)?$/i.exec(cell)
  if (!match || !/\d/.test(match[1]!)) return [null, null]
  return [match[1]!, match[2]?.trim() ?? null]
}
