/** Reads a pasted data-sheet table of attenuation over frequency. */
import type { SheetPoints } from '../cables/cableClass.ts'
import { InputError } from '../errors.ts'

export type LossPer = '10 m' | '100 m' | '100 ft'

const METRES: Record<LossPer, number> = { '10 m': 10, '100 m': 100, '100 ft': 30.48 }
const MHZ: Record<string, number> = { khz: 1e-3, mhz: 1, ghz: 1e3 }

export interface SheetTable {
  points: SheetPoints
  /** What a heading said, or what was assumed. */
  per: LossPer
  unit: 'kHz' | 'MHz' | 'GHz'
}

/**
 * Reads lines of frequency and loss, split by tabs, semicolons, commas or spaces, with decimal
 * points or commas. A heading may name the units (`GHz`, `dB/100 ft`) and overrules what is given.
 *
 * @throws InputError naming the line; its path is the line's index
 */
export function readSheetTable(
  text: string,
  assumed: { per: LossPer; unit: SheetTable['unit'] },
): SheetTable {
  let { per, unit } = assumed
  const rows: { cells: [number, number]; line: number }[] = []
  text.split(/\r\n|\n|\r/).forEach((raw, index) => {
    const line = raw.trim()
    if (line === '') return
    const cells = readCells(line)
    if (cells) return void rows.push({ cells, line: index + 1 })
    if (rows.length > 0 || !/[a-z]/i.test(line)) {
      throw new InputError(
        `Line ${index + 1}: expected a frequency and a loss, found “${line.slice(0, 40)}”.`,
        [index],
      )
    }
    // A heading: it may say what the columns are in.
    const says = line.toLowerCase().replace(/\s+/g, '')
    if (says.includes('100ft') || says.includes('100feet')) per = '100 ft'
    else if (says.includes('100m')) per = '100 m'
    else if (says.includes('10m')) per = '10 m'
    for (const name of ['GHz', 'MHz', 'kHz'] as const)
      if (says.includes(name.toLowerCase())) unit = name
  })
  if (rows.length < 2) throw new InputError('At least two lines of frequency and loss are needed.')
  const factor = 100 / METRES[per]
  const points = rows.map(
    ({ cells: [f, db] }) => [f * MHZ[unit.toLowerCase()]!, db * factor] as const,
  )
  return { points, per, unit }
}

const NUMBER = String.raw`[+-]?\d+(?:[.,]\d+)?(?:e[+-]?\d+)?`
/** Frequency, perhaps its unit, a separator, loss, perhaps its unit. */
const ROW = new RegExp(
  String.raw`^(${NUMBER})\s*([kmg]hz)?(?:\s*[\t;|]\s*|\s*,\s+|\s+|,)(${NUMBER})\s*(?:db\S*)?[\s;|]*$`,
  'i',
)

function readCells(line: string): [number, number] | null {
  // With a decimal point somewhere, a lone comma between two numbers separates them.
  const plain = line.includes('.') && !/[\t; ]/.test(line) ? line.replace(',', '\t') : line
  const match = ROW.exec(plain)
  if (!match) return null
  const number = (text: string) => Number(text.replace(',', '.'))
  return [number(match[1]!), number(match[3]!)]
}
