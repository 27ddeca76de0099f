/** Lines of a table split into cells, and their numbers read by one convention for the whole table. */
import { readNumber } from '../units/number.ts'

/** The lines of a text, whichever line ends it has. */
export const linesOf = (text: string): string[] => text.split(/\r\n|\n|\r/)

const unquoted = (cell: string): string => {
  const text = cell.trim()
  return text.length >= 2 && text.startsWith('"') && text.endsWith('"') ? text.slice(1, -1) : text
}

/** A line's cells by a separator; one at the end of every row, as some programs write it, is dropped. */
export function splitBy(line: string, separator: '\t' | ';' | ',' | '|' | ' '): string[] {
  if (separator === ' ') return line.trim().split(/\s+/)
  const cells = line.split(separator)
  if (cells.length > 1 && cells.at(-1)!.trim() === '') cells.pop()
  return cells.map(unquoted)
}

/** A plain number at once; the rest by the grammar of typed figures. */
const PLAIN = /^[+-]?\d{1,15}(?:\.\d{1,20})?$/

/**
 * The decimal sign of a table, from all cells that leave no doubt: `21,5` has a comma, `21.5` or `1,234.5` a
 * point. Null where no cell says, or where they contradict each other.
 *
 * @example decimalSign(['1,5', '2,25']) // ','
 */
export function decimalSign(cells: Iterable<string>): ',' | '.' | null {
  let comma = false
  let point = false
  for (const cell of cells) {
    if (!/[.,]/.test(cell) || cell.length > 64) continue
    const reading = readNumber(cell.trim().replace('−', '-'))
    if (reading?.kind !== 'one') continue
    const [lastComma, lastPoint] = [cell.lastIndexOf(','), cell.lastIndexOf('.')]
    const several = (sign: string) => cell.split(sign).length > 2
    if (lastComma > lastPoint) {
      if (several(',')) point = true
      else comma = true
    } else if (several('.')) comma = true
    else point = true
  }
  return comma === point ? null : comma ? ',' : '.'
}

export type CellNumber =
  | { ok: true; value: number }
  | { ok: false; why: 'no number' | 'either'; choices?: [number, number] }

/**
 * The number in a cell.
 *
 * @param sign the table's decimal sign; where it is not known, a point is one, and a comma that may group
 *   thousands is not decided here
 * @example cellNumber('1,5', ',') // { ok: true, value: 1.5 }
 */
export function cellNumber(cell: string, sign: ',' | '.' | null): CellNumber {
  // An SWR as it is spoken: 2.10:1.
  const text = cell.trim().replace(/^(\d[\d.,]{0,15}) ?: ?1$/, '$1')
  if (PLAIN.test(text) && sign !== ',') return { ok: true, value: Number(text) }
  const reading = readNumber(text.replace('−', '-'))
  if (!reading) return { ok: false, why: 'no number' }
  if (reading.kind === 'one') return { ok: true, value: reading.value }
  const decimal = sign === null ? reading.sign === '.' : reading.sign === sign
  if (sign === null && !decimal)
    return { ok: false, why: 'either', choices: [reading.decimal, reading.grouped] }
  return { ok: true, value: decimal ? reading.decimal : reading.grouped }
}

/**
 * Why a cell is no number, for an error that already names its line.
 *
 * @example cellProblem('ten', cellNumber('ten', null)) // '“ten” is not a number.'
 */
export const cellProblem = (cell: string, result: CellNumber & { ok: false }): string =>
  result.why === 'either'
    ? `“${cell.trim()}” may be ${result.choices![0]} or ${result.choices![1]}: write it without a comma, or with two decimals.`
    : `“${cell.trim().slice(0, 40)}” is not a number.`

/** Cells in which instruments say that a figure is out of their range: `inf`, `>10`, `OL`. */
export const isBeyond = (cell: string): boolean =>
  /^[-+]?(inf(inity)?|∞|nan|o\.?l\.?|over(load|range)?|[<>≥≤]\s*[\d.,]+)$/i.test(cell.trim())
