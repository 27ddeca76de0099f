/** A pasted or imported table of readings: what its columns are, and what is wrong with which line. */
import {
  type ChainDocument,
  type ChannelDocument,
  limits,
  type Mode,
  modes,
  type ReadingBody,
  readingBodySchema,
  whyNotThen,
} from '@saltline/contract'
import {
  cellNumber,
  cellProblem,
  conversionOf,
  decimalSign,
  type Dimension,
  formatFrequency,
  formatPower,
  formatSwr,
  headingUnit,
  modeOf,
  nearestChannel,
  parseQuantity,
} from '@saltline/core'
import Papa from 'papaparse'
import { type Instrument, clockText, dayText, placesOf } from '../places.ts'
import { type DateOrder, type ReadDate, readDate } from './readDate.ts'

/** What a column was taken for. */
export interface ColumnTaken {
  heading: string
  /** In words, with its unit: `forward power in dBm`; null where the column is left out. */
  as: string | null
}

/** One reading as it was understood, for the eye. */
export interface Understood {
  line: number
  when: string
  on: string
  channel: string
  place: string
  read: string
}

export interface ReadTable {
  readings: ReadingBody[]
  problems: { line: number; message: string }[]
  columns: ColumnTaken[]
  understood: Understood[]
  /** Whether any date could have day and month the other way round. */
  datesEither: boolean
}

/** As many as the server takes at once. */
const MOST_ROWS = 20_000
const MOST_CHARACTERS = 10_000_000

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

const fields = {
  at: { pattern: /^(read at|date|when)/i, name: 'date' },
  clock: { pattern: /^(time|utc|gmt|hour)/i, name: 'time of day' },
  frequency: {
    pattern: /^(freq|f\b|[kmg]?hz\b|channel)/i,
    name: 'frequency',
    figure: { dimension: 'frequency', unit: 'MHz', bounds: limits.frequencyHz },
  },
  mode: { pattern: /^mode/i, name: 'mode' },
  power: { pattern: /^(set|power set)/i, name: 'set power', figure: power(limits.powerW) },
  place: { pattern: /^(before|place|where|plane)/i, name: 'place' },
  forward: {
    pattern: /^(forward|fwd|pf\b)/i,
    name: 'forward power',
    figure: power(limits.shownW),
  },
  reflected: {
    pattern: /^(refl|rev|pr\b)/i,
    name: 'reflected power',
    figure: power(limits.shownW),
  },
  swr: {
    pattern: /^v?swr/i,
    name: 'SWR',
    figure: { dimension: 'swr', unit: '', bounds: limits.swr },
  },
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
type Field = keyof typeof fields
type FigureField = {
  [F in Field]: (typeof fields)[F] extends { figure: object } ? F : never
}[Field]

interface Column {
  index: number
  /** Of a date or a time: whether its heading says UTC. */
  utc: boolean
  /** What a bare number in it is in. */
  unit: string
  /** The decimal sign of its figures; null where none of them says. */
  sign: ',' | '.' | null
}
type Columns = ReadonlyMap<Field, Column>

export interface ReadOptions {
  document: ChainDocument
  /** The channel on the desk: what is not in the table is taken from it. */
  channelId: string
  instruments: readonly Instrument[]
  order: DateOrder
}

/**
 * Reads a table with a head. Only forward power or SWR must be there; what is not there is taken from the
 * channel that is on the desk. Linear in the text's length.
 */
export function readingsFromText(text: string, options: ReadOptions): ReadTable {
  const nothing = { readings: [], columns: [], understood: [], datesEither: false }
  if (text.length > MOST_CHARACTERS)
    return {
      ...nothing,
      problems: [{ line: 1, message: 'The table is over 10 MB: import it in parts.' }],
    }
  const { data } = Papa.parse<string[]>(text.trim(), {
    skipEmptyLines: 'greedy',
    preview: MOST_ROWS + 2,
  })
  const [head = [], ...rows] = data
  const { columns, taken, problems } = readHead(head, rows)
  if (rows.length > MOST_ROWS)
    problems.push({
      line: MOST_ROWS + 2,
      message: 'At most 20 000 readings at once: import the table in parts.',
    })
  const result: ReadTable = { ...nothing, readings: [], understood: [], columns: taken, problems }
  if (problems.length > 0) return result
  rows.forEach((row, i) => {
    const line = i + 2
    try {
      const { reading, channel, read } = readingOf(row, columns, options)
      result.readings.push(reading)
      if (read?.either) result.datesEither = true
      if (result.understood.length < 3 || i === rows.length - 1)
        result.understood.push(inWords(line, reading, channel, read, options.document))
    } catch (error) {
      problems.push({ line, message: error instanceof Error ? error.message : String(error) })
    }
  })
  return result
}

function readHead(head: readonly string[], rows: readonly (readonly string[])[]) {
  const columns = new Map<Field, Column>()
  const problems: ReadTable['problems'] = []
  const names = Object.keys(fields) as Field[]
  const takenFor = new Map<number, string>()
  head.forEach((heading, index) => {
    const name = heading.trim()
    const field = names.find((f) => fields[f].pattern.test(name) && !/expected/i.test(name))
    // A log of our own has the place twice, by name and by stage: the stage is the surer one.
    if (!field || (columns.has(field) && !/^before$/i.test(name))) return
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
    const sign = facts.figure
      ? decimalSign(rows.slice(0, 2000).map((row) => row[index] ?? ''))
      : null
    if (columns.has(field)) takenFor.delete(columns.get(field)!.index)
    const utc = /\b(utc|gmt|zulu|z)\b/i.test(name)
    columns.set(field, { index, unit, sign, utc })
    const zoned = utc && (field === 'at' || field === 'clock')
    const words = zoned ? `${facts.name} in UTC` : facts.name
    takenFor.set(index, unit ? `${facts.name} in ${unit}` : words)
  })
  if (!columns.has('forward') && !columns.has('swr'))
    problems.push({
      line: 1,
      message: 'No column is called “forward” or “SWR”. The first line must name the columns.',
    })
  const taken = head.map((heading, i) => ({ heading: heading.trim(), as: takenFor.get(i) ?? null }))
  return { columns, taken, problems }
}

/** A text that a spreadsheet was kept from reading as a formula. */
const unguarded = (cell: string): string => cell.replace(/^'(?=[=+\-@\t\r])/, '')

function readingOf(row: readonly string[], columns: Columns, options: ReadOptions) {
  const { document, channelId, instruments, order } = options
  const cell = (field: Field): string =>
    unguarded(row[columns.get(field)?.index ?? -1]?.trim() ?? '')
  const figure = (field: FigureField): number | undefined =>
    figureOf(cell(field), fields[field], columns.get(field))
  const frequencyHz = figure('frequency')
  const asked = modeOfText(cell('mode'))
  const desk = document.channels.find(({ id }) => id === channelId)
  const channel =
    frequencyHz === undefined ? desk : channelOf(frequencyHz, asked, document.channels, desk)
  const instrumentName = cell('instrument').toLowerCase()
  const instrument = instruments.find(
    ({ id, document: own }) => own.name.toLowerCase() === instrumentName || id === instrumentName,
  )
  if (instrumentName && !instrument)
    throw new Error(
      `“${cell('instrument')}” is no instrument of this station. Add it under Gear, or leave it empty.`,
    )
  const at = [cell('at'), cell('clock')].filter(Boolean).join(' ')
  const utc = Boolean(columns.get('clock')?.utc ?? columns.get('at')?.utc)
  const read = at === '' ? null : readDate(at, order, utc)
  if (at !== '' && !read)
    throw new Error(`“${at}” is no date. Write it as 2026-04-18 or 2026-04-18 09:30.`)
  const early = read && whyNotThen(read.at.toISOString(), Date.now())
  if (early) throw new Error(early)
  const body = {
    channelId: channel?.id,
    frequencyHz: frequencyHz ?? channel!.frequencyHz,
    mode: asked ?? channel?.mode ?? 'key-down',
    powerW: figure('power') ?? channel?.powerW ?? document.channels[0]!.powerW,
    before: placeOf(cell('place'), document),
    forwardW: figure('forward'),
    reflectedW: figure('reflected'),
    swr: figure('swr'),
    rangeW: figure('range'),
    instrumentId: instrument?.id,
    supplyV: figure('supply'),
    weather: cell('weather') || undefined,
    by: cell('by') || undefined,
    note: cell('note') || undefined,
    readAt: read?.at.toISOString(),
  }
  const checked = readingBodySchema.safeParse(body)
  if (!checked.success) throw new Error(checked.error.issues[0]!.message)
  return { reading: checked.data, channel, read }
}

function figureOf(
  text: string,
  { name, figure }: Required<FieldFacts>,
  column: Column | undefined,
): number | undefined {
  if (text === '' || !column) return undefined
  const { dimension, bounds } = figure
  const [min, max] = bounds
  // A bare number by the convention of its column; a figure with a unit of its own by the grammar.
  const bare = cellNumber(text, column.sign)
  if (!bare.ok && bare.why === 'either') throw new Error(`${name}: ${cellProblem(text, bare)}`)
  const parsed = bare.ok
    ? bounded(conversionOf(dimension, column.unit)!.toOwn(bare.value), name, min, max)
    : parseQuantity(text, dimension, column.unit, { min, max })
  if (!parsed.ok) throw new Error(`${name} “${text}”: ${parsed.message}`)
  return Number(parsed.value.toPrecision(13))
}

const bounded = (value: number, name: string, min: number, max: number) =>
  value >= min && value <= max
    ? { ok: true as const, value }
    : {
        ok: false as const,
        message: `the ${name} must be between ${min} and ${max}; is the unit in the heading right?`,
      }

function channelOf(
  frequencyHz: number,
  mode: Mode | undefined,
  channels: readonly ChannelDocument[],
  desk: ChannelDocument | undefined,
): ChannelDocument | undefined {
  const nearest = nearestChannel(channels, frequencyHz)
  if (nearest.kind === 'none') return undefined
  if (nearest.kind === 'one') return nearest.channel
  // Two channels on one frequency differ by their mode, or one of them is on the desk.
  const sameFrequency = new Set(nearest.channels.map((c) => c.frequencyHz)).size === 1
  const byMode = mode && nearest.channels.filter((c) => c.mode === mode)
  if (byMode?.length === 1) return byMode[0]
  const onDesk = sameFrequency ? nearest.channels.find((c) => c === desk) : undefined
  if (onDesk) return onDesk
  const names = nearest.channels.map(
    (c) => `${formatFrequency(c.frequencyHz)}, ${modeOf(c.mode).short}`,
  )
  throw new Error(
    `${formatFrequency(frequencyHz)} lies as near to ${names.join(' as to ')}. Write the frequency of one of them, or its mode.`,
  )
}

function modeOfText(text: string): Mode | undefined {
  if (text === '') return undefined
  const found = modes.find((mode) => mode.toLowerCase() === text.toLowerCase())
  if (!found) throw new Error(`“${text}” is no mode. Known are ${modes.join(', ')}.`)
  return found
}

function placeOf(text: string, document: ChainDocument): string {
  const places = placesOf(document)
  if (text === '') return places[0]!.before
  const asked = text.toLowerCase()
  const exact = places.find(({ before, plane, name }) =>
    [
      before.toLowerCase(),
      name.toLowerCase(),
      // As logs named it before.
      name.toLowerCase().replace(/^input of /, 'before '),
      `plane ${plane}`,
      String(plane),
    ].includes(asked),
  )
  if (exact) return exact.before
  if (/^(the )?(antenna|load|feed ?point)$/.test(asked)) return places.at(-1)!.before
  if (/^(the )?(radio|transmitter|tx)$/.test(asked)) return places[0]!.before
  // Whole words of a name, and only where they name one place.
  const words = asked.split(/\W+/).filter(Boolean)
  const found = places.filter(({ name }) => {
    const own = name.toLowerCase().split(/\W+/)
    return words.length > 0 && words.every((word) => own.includes(word))
  })
  if (found.length === 1) return found[0]!.before
  throw new Error(
    found.length > 1
      ? `“${text}” may be ${found.map(({ name }) => name).join(' or ')}: write one of them in full.`
      : `“${text}” is no place on this chain. Known are ${places.map(({ name }) => name).join(', ')}.`,
  )
}

function inWords(
  line: number,
  reading: ReadingBody,
  channel: ChannelDocument | undefined,
  read: ReadDate | null,
  document: ChainDocument,
): Understood {
  const { readAt, frequencyHz, mode, before, forwardW, reflectedW, swr } = reading
  return {
    line,
    when: readAt ? `${dayText(readAt)}${read?.timed ? ` ${clockText(readAt)}` : ''}` : 'now',
    on: `${formatFrequency(frequencyHz)}, ${modeOf(mode).short}`,
    channel: channel
      ? `channel ${formatFrequency(channel.frequencyHz)}${channel.name ? `, ${channel.name}` : ''}`
      : 'no channel',
    place: placesOf(document).find((place) => place.before === before)!.name,
    read: [
      forwardW !== undefined && `forward ${formatPower(forwardW)}`,
      reflectedW !== undefined && `reflected ${formatPower(reflectedW)}`,
      swr !== undefined && `SWR ${formatSwr(swr)}`,
    ]
      .filter(Boolean)
      .join(', '),
  }
}
