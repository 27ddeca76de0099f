/** What the columns of a table of readings are, by their headings. */
import { limits } from '../fields.ts'
import {
  cellNumber,
  cellProblem,
  conversionOf,
  decimalSign,
  type Dimension,
  headingUnit,
  parseQuantity,
} from '@saltline/core'

interface FieldFacts {
  /** How a heading gives its meaning away. */
  pattern: RegExp
  name: string
  /** Of a field that is a figure: its dimension, the unit of a bare number, and its bounds. */
  figure?: { dimension: Dimension; unit: string; bounds: readonly [number, number] }
}

const power = (bounds: readonly [number, number]) => ({
  dimension: 'power' as const,
  unit: 'W',
  bounds,
})
const swr = { dimension: 'swr' as const, unit: '', bounds: limits.swr }
const shown = power(limits.shownW)

/** What no meter shows, but a computed figure may be. */
const anyW = power([0, 1e9])
const anySwr = { ...swr, bounds: [1, 1e9] as const }

/** The first one that fits a heading is meant; those of a log of ours stand before what they look like. */
const fields = {
  chainId: { pattern: /^chain id$/i, name: 'chain, by its identity' },
  channelId: { pattern: /^channel id$/i, name: 'channel, by its identity' },
  placeId: { pattern: /^before$/i, name: 'place, by its identity' },
  instrumentId: { pattern: /^(instrument|meter) id$/i, name: 'instrument, by its identity' },
  expectedW: { pattern: /^expected w$/i, name: 'what was expected then', figure: anyW },
  lowW: { pattern: /^expected w, 5 %$/i, name: 'least that was expected', figure: anyW },
  highW: { pattern: /^expected w, 95 %$/i, name: 'most that was expected', figure: anyW },
  expectedSwr: { pattern: /^expected swr$/i, name: 'SWR expected then', figure: anySwr },
  lowSwr: { pattern: /^expected swr, 5 %$/i, name: 'least SWR expected', figure: anySwr },
  highSwr: { pattern: /^expected swr, 95 %$/i, name: 'most SWR expected', figure: anySwr },
  inside: { pattern: /^inside$/i, name: 'whether it was inside' },
  shownForward: {
    pattern: /^shown forward\b/i,
    name: 'forward power as shown',
    figure: shown,
  },
  shownReflected: {
    pattern: /^shown reflected\b/i,
    name: 'reflected power as shown',
    figure: shown,
  },
  meanToPeak: {
    pattern: /^mean over peak$/i,
    name: 'mean over peak',
    figure: { dimension: 'plain' as const, unit: '', bounds: limits.meanToPeak },
  },
  at: { pattern: /^(read at|date|when)/i, name: 'date' },
  clock: { pattern: /^(time|utc|gmt|hour)/i, name: 'time of day' },
  chain: { pattern: /^chain\b/i, name: 'chain' },
  frequency: {
    pattern: /^(freq|f\b|[kmg]?hz\b|channel)/i,
    name: 'frequency',
    figure: { dimension: 'frequency', unit: 'MHz', bounds: limits.frequencyHz },
  },
  mode: { pattern: /^mode/i, name: 'mode' },
  power: { pattern: /^(set|power set)/i, name: 'set power', figure: power(limits.powerW) },
  farEnd: { pattern: /^far end/i, name: 'far end' },
  place: { pattern: /^(before|place|where|plane)/i, name: 'place' },
  forward: { pattern: /^(forward|fwd|pf\b)/i, name: 'forward power', figure: shown },
  reflected: { pattern: /^(refl|rev|pr\b)/i, name: 'reflected power', figure: shown },
  swr: { pattern: /^v?swr/i, name: 'SWR', figure: swr },
  range: { pattern: /^range/i, name: 'range of the meter', figure: power(limits.rangeW) },
  instrument: { pattern: /^(instrument|meter|with)/i, name: 'instrument' },
  supply: {
    pattern: /^(supply|volt)/i,
    name: 'supply voltage',
    figure: { dimension: 'voltage', unit: 'V', bounds: limits.supplyV },
  },
  weather: { pattern: /^weather/i, name: 'weather' },
  by: { pattern: /^(by|who|operator)/i, name: 'by whom' },
  note: { pattern: /^(note|remark|comment)/i, name: 'note' },
} as const satisfies Record<string, FieldFacts>

export type Field = keyof typeof fields
export type FigureField = {
  [F in Field]: (typeof fields)[F] extends { figure: object } ? F : never
}[Field]

/** What a column was taken for. */
export interface ColumnTaken {
  heading: string
  /** In words, with its unit: `forward power in dBm`; null where the column is left out. */
  as: string | null
}

interface Column {
  index: number
  /** Of a date or a time: whether its heading says UTC. */
  utc: boolean
  /** What a bare number in it is in. */
  unit: string
  /** The decimal sign of its figures; null where none of them says. */
  sign: ',' | '.' | null
}
export type Columns = ReadonlyMap<Field, Column>

/** Rows that the decimal sign of a column is looked for in. */
const SAMPLE = 2000

/**
 * What each column is.
 *
 * @param head the first line of the table
 * @param rows those under it
 */
export function readHead(head: readonly string[], rows: readonly (readonly string[])[]) {
  const columns = new Map<Field, Column>()
  const problems: { line: number; message: string }[] = []
  const names = Object.keys(fields) as Field[]
  const as = new Map<number, string>()
  const ours = head.some((heading) => fields.chainId.pattern.test(heading.trim()))
  head.forEach((heading, index) => {
    const name = heading.trim()
    const field = names.find((f) => fields[f].pattern.test(name))
    if (!field || columns.has(field)) return
    const facts: FieldFacts = fields[field]
    let unit = ''
    if (facts.figure) {
      const said = headingUnit(name, facts.figure.dimension)
      if (said.foreign)
        problems.push({
          line: 1,
          message: `The heading “${name}” says ${said.foreign}, which is no unit of ${facts.name}.`,
        })
      unit = said.unit ?? facts.figure.unit
    }
    const signs = () => decimalSign(rows.slice(0, SAMPLE).map((row) => row[index] ?? ''))
    // A log of ours writes points, and nothing between thousands.
    const sign = ours ? '.' : facts.figure ? signs() : null
    const utc = /\b(utc|gmt|zulu|z)\b/i.test(name)
    columns.set(field, { index, unit, sign, utc })
    const zoned = utc && (field === 'at' || field === 'clock')
    const words = zoned ? `${facts.name} in UTC` : facts.name
    as.set(index, unit ? `${facts.name} in ${unit}` : words)
  })
  if (!columns.has('forward') && !columns.has('swr'))
    problems.push({
      line: 1,
      message: 'No column is called “forward” or “SWR”. The first line must name the columns.',
    })
  const taken: ColumnTaken[] = head.map((heading, i) => ({
    heading: heading.trim(),
    as: as.get(i) ?? null,
  }))
  return { columns, taken, problems }
}

/**
 * The figure in a cell, in the unit of its dimension; nothing of an empty one.
 *
 * @throws Error that says what is wrong with it
 */
export function figureIn(
  text: string,
  field: FigureField,
  column: Column | undefined,
): number | undefined {
  if (text === '' || !column) return undefined
  const { name, figure }: Required<FieldFacts> = fields[field]
  const { dimension, bounds } = figure
  const [min, max] = bounds
  // A bare number by the convention of its column; a figure with a unit of its own by the grammar.
  const bare = cellNumber(text, column.sign)
  if (!bare.ok && bare.why === 'either') throw new Error(`${name}: ${cellProblem(text, bare)}`)
  const { toOwn } = conversionOf(dimension, column.unit)!
  const parsed = bare.ok
    ? bounded(toOwn(bare.value), name, min, max)
    : parseQuantity(text, dimension, column.unit, { min, max })
  if (!parsed.ok) throw new Error(`${name} “${text}”: ${parsed.message}`)
  // A figure that needs no conversion keeps all its digits.
  return bare.ok && parsed.value === bare.value
    ? parsed.value
    : Number(parsed.value.toPrecision(13))
}

const bounded = (value: number, name: string, min: number, max: number) =>
  value >= min && value <= max
    ? { ok: true as const, value }
    : {
        ok: false as const,
        message: `the ${name} must be between ${min} and ${max}; is the unit in the heading right?`,
      }
