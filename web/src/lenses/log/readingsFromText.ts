/** A pasted or imported table of readings: what its columns are, and what is wrong with which line. */
import {
  type ChainDocument,
  type Mode,
  modes,
  type ReadingBody,
  readingBodySchema,
} from '@saltline/contract'
import { parseQuantity } from '@saltline/core'
import Papa from 'papaparse'
import type { Instrument } from './places.ts'
import { placesOf } from './places.ts'

export interface ReadTable {
  readings: ReadingBody[]
  problems: { line: number; message: string }[]
  /** Columns that were understood, and those that were not. */
  known: string[]
  unknown: string[]
}

const fields = [
  'at',
  'frequency',
  'mode',
  'power',
  'place',
  'forward',
  'reflected',
  'swr',
  'range',
  'instrument',
  'supply',
  'weather',
  'by',
  'note',
] as const
type Field = (typeof fields)[number]

/** How a heading gives its meaning away: the first pattern that fits. */
const patterns: Record<Field, RegExp> = {
  at: /^(read at|date|time|when)/i,
  frequency: /^(freq|f \(|mhz|channel)/i,
  mode: /^mode/i,
  power: /^(set|power set)/i,
  place: /^(before|place|where|plane)/i,
  forward: /^(forward|fwd|pf)/i,
  reflected: /^(refl|rev|pr)/i,
  swr: /^swr/i,
  range: /^range/i,
  instrument: /^(instrument|meter|with)/i,
  supply: /^(supply|volt)/i,
  weather: /^weather/i,
  by: /^(by|who|operator)/i,
  note: /^(note|remark|comment)/i,
}

/**
 * Reads a table with a head. Only forward power or SWR, and a place, must be there; what is not there is
 * taken from the channel that is on the desk.
 */
export function readingsFromText(
  text: string,
  document: ChainDocument,
  channelId: string,
  instruments: readonly Instrument[],
): ReadTable {
  const parsed = Papa.parse<string[]>(text.trim(), { skipEmptyLines: 'greedy' })
  const [head = [], ...rows] = parsed.data
  const column = new Map<Field, number>()
  const unknown: string[] = []
  head.forEach((heading, i) => {
    const name = heading.trim()
    const field = fields.find((f) => patterns[f].test(name) && !/expected/i.test(name))
    // A log of our own has the place twice, by name and by stage: the stage is the surer one.
    if (field && (!column.has(field) || /^before$/i.test(name))) column.set(field, i)
    else unknown.push(name)
  })
  const problems: ReadTable['problems'] = []
  if (!column.has('forward') && !column.has('swr'))
    problems.push({
      line: 1,
      message: 'No column is called “forward” or “SWR”. The first line must name the columns.',
    })
  const readings: ReadingBody[] = []
  if (problems.length === 0)
    rows.forEach((row, i) => {
      const line = i + 2
      try {
        readings.push(readingOf(row, column, document, channelId, instruments))
      } catch (error) {
        problems.push({ line, message: error instanceof Error ? error.message : String(error) })
      }
    })
  return { readings, problems, known: [...column.keys()], unknown }
}

function readingOf(
  row: readonly string[],
  column: ReadonlyMap<Field, number>,
  document: ChainDocument,
  channelId: string,
  instruments: readonly Instrument[],
): ReadingBody {
  const cell = (field: Field): string => row[column.get(field) ?? -1]?.trim() ?? ''
  const number = (field: Field, dimension: 'power' | 'plain' | 'frequency', unit: string) => {
    const text = cell(field)
    if (text === '') return undefined
    const result = parseQuantity(text, dimension, unit, {
      min: 0,
      max: 1e10,
      show: String,
    })
    if (!result.ok) throw new Error(`${field} “${text}”: ${result.message}`)
    return result.value
  }
  const frequencyHz = number('frequency', 'frequency', 'MHz')
  const near = (hz: number) =>
    document.channels.find((each) => Math.abs(each.frequencyHz / hz - 1) < 0.002)
  const channel =
    frequencyHz === undefined
      ? document.channels.find(({ id }) => id === channelId)!
      : near(frequencyHz)
  const instrumentName = cell('instrument').toLowerCase()
  const instrument = instruments.find(
    ({ id, document: own }) => own.name.toLowerCase() === instrumentName || id === instrumentName,
  )
  if (instrumentName && !instrument)
    throw new Error(
      `“${cell('instrument')}” is no instrument of this station. Add it under Gear, or leave it empty.`,
    )
  const at = cell('at')
  const readAt = at === '' ? undefined : new Date(at)
  if (readAt && Number.isNaN(readAt.getTime()))
    throw new Error(`“${at}” is no date. Write it as 2026-04-18 or 2026-04-18T09:30.`)
  const body = {
    channelId: channel?.id,
    frequencyHz: frequencyHz ?? channel!.frequencyHz,
    mode: modeOfText(cell('mode'), channel?.mode),
    powerW: number('power', 'power', 'W') ?? channel?.powerW ?? document.channels[0]!.powerW,
    before: placeOf(cell('place'), document),
    forwardW: number('forward', 'power', 'W'),
    reflectedW: number('reflected', 'power', 'W'),
    swr: number('swr', 'plain', ''),
    rangeW: number('range', 'power', 'W'),
    instrumentId: instrument?.id,
    supplyV: number('supply', 'plain', 'V'),
    weather: cell('weather') || undefined,
    by: cell('by') || undefined,
    note: cell('note') || undefined,
    readAt: readAt?.toISOString(),
  }
  const checked = readingBodySchema.safeParse(body)
  if (!checked.success) throw new Error(checked.error.issues[0]!.message)
  return checked.data
}

function modeOfText(text: string, usual: Mode | undefined): Mode {
  if (text === '') return usual ?? 'key-down'
  const found = modes.find((mode) => mode.toLowerCase() === text.toLowerCase())
  if (!found) throw new Error(`“${text}” is no mode. Known are ${modes.join(', ')}.`)
  return found
}

function placeOf(text: string, document: ChainDocument): string {
  const places = placesOf(document)
  if (text === '') return places[0]!.before
  const asked = text.toLowerCase()
  const found =
    places.find(({ before, plane, name }) =>
      [before.toLowerCase(), name.toLowerCase(), `plane ${plane}`, String(plane)].includes(asked),
    ) ??
    places.find(({ name }) => name.toLowerCase().includes(asked)) ??
    (/antenna|load/.test(asked) ? places.at(-1) : /radio|tx/.test(asked) ? places[0] : undefined)
  if (!found)
    throw new Error(
      `“${text}” is no place on this chain. Known are ${places.map(({ name }) => name).join(', ')}.`,
    )
  return found.before
}
