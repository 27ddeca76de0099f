/** A pasted or imported table of readings: where each belongs, and what is wrong with which line. */
import {
  type FarEnd,
  formatFrequency,
  formatPower,
  formatSwr,
  modeOf,
  nearestChannel,
} from '@saltline/core'
import Papa from 'papaparse'
import type { ChannelDocument } from '../chain.ts'
import { farEnds, type ImportedReading, importedReadingSchema, whyNotThen } from '../reading.ts'
import { type Instrument, clockText, dayText, placesOf } from '../places.ts'
import { type Mode, modes } from '../source.ts'
import {
  type Columns,
  type ColumnTaken,
  type Field,
  type FigureField,
  figureIn,
  readHead,
} from './columns.ts'
import {
  type ChainAtHand,
  chainNamed,
  type Choices,
  instrumentNamed,
  LeftOut,
  NameUnknown,
  placeNamed,
  type UnknownName,
} from './names.ts'
import { type DateOrder, type ReadDate, readDate } from './readDate.ts'

/** One reading as it was understood, for the eye. */
export interface Understood {
  line: number
  when: string
  on: string
  chain: string
  channel: string
  place: string
  read: string
}

/** The readings of one chain. */
export interface ChainReadings {
  chainId: string
  name: string
  readings: ImportedReading[]
}

export interface ReadTable {
  chains: ChainReadings[]
  /** How many readings that are, and how many lines the operator leaves out. */
  count: number
  leftOut: number
  problems: { line: number; message: string }[]
  /** Names that have to be chosen for, in the order in which they are met. */
  unknown: UnknownName[]
  columns: ColumnTaken[]
  understood: Understood[]
  /** Whether any date could have day and month the other way round. */
  datesEither: boolean
  /** Whether what was expected then comes with the readings. */
  asKept: boolean
}

/** As much as a browser reads within seconds. */
const MOST_ROWS = 200_000
const MOST_CHARACTERS = 100_000_000

export interface ReadOptions {
  /** The chains of the station; what names none goes to the one on the desk. */
  chains: readonly ChainAtHand[]
  chainId: string
  /** The channel on the desk: what is not in the table is taken from it. */
  channelId: string
  instruments: readonly Instrument[]
  order: DateOrder
  /** What was chosen for names that are not known. */
  choices?: Choices
}

/**
 * Reads a table with a head. Only forward power or SWR must be there; what is not there is taken from the
 * channel that is on the desk. A log that was exported here comes back as it was. Linear in the text's length.
 */
export function readingsFromText(text: string, options: ReadOptions): ReadTable {
  const result: ReadTable = {
    ...{ chains: [], count: 0, leftOut: 0, problems: [], unknown: [], columns: [] },
    ...{ understood: [], datesEither: false, asKept: false },
  }
  if (text.length > MOST_CHARACTERS) {
    result.problems.push({ line: 1, message: 'The table is over 100 MB: import it in parts.' })
    return result
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
      message: 'At most 200 000 readings at once: import the table in parts.',
    })
  Object.assign(result, { columns: taken, problems, asKept: isKept(columns) })
  if (problems.length > 0) return result
  const byChain = new Map<string, ChainReadings>()
  const unknown = new Map<string, UnknownName>()
  rows.forEach((row, i) => {
    const line = i + 2
    try {
      const { chain, reading, channel, read } = readingOf(row, columns, options)
      const { name } = chain.document
      const own = byChain.get(chain.id) ?? { chainId: chain.id, name, readings: [] }
      byChain.set(chain.id, own)
      own.readings.push(reading)
      result.count++
      if (read?.either) result.datesEither = true
      if (result.understood.length < 3 || i === rows.length - 1)
        result.understood.push(inWords(line, reading, channel, read, chain))
    } catch (error) {
      if (error instanceof LeftOut) result.leftOut++
      else if (error instanceof NameUnknown) {
        const { key, message, options: meant } = error
        const own = unknown.get(key) ?? { key, message, options: meant, line, count: 0 }
        own.count++
        unknown.set(key, own)
      } else
        problems.push({ line, message: error instanceof Error ? error.message : String(error) })
    }
  })
  return { ...result, chains: [...byChain.values()], unknown: [...unknown.values()] }
}

/** Whether a table has all that was kept of a reading, as a log of ours has. */
const isKept = (columns: Columns): boolean =>
  (
    ['inside', 'place', 'instrument', 'expectedW', 'lowW', 'highW', 'expectedSwr'] satisfies Field[]
  ).every((field) => columns.has(field))

/** A text that a spreadsheet was kept from reading as a formula. */
const unguarded = (cell: string): string => cell.replace(/^'(?=[=+\-@\t\r])/, '')

function readingOf(row: readonly string[], columns: Columns, options: ReadOptions) {
  const { chains, channelId, instruments, order, choices = {} } = options
  const cell = (field: Field): string =>
    unguarded(row[columns.get(field)?.index ?? -1]?.trim() ?? '')
  const figure = (field: FigureField): number | undefined =>
    figureIn(cell(field), field, columns.get(field))
  const orNull = (field: FigureField): number | null => figure(field) ?? null
  const chain =
    chainNamed(cell('chain'), cell('chainId'), chains, choices) ??
    chains.find(({ id }) => id === options.chainId)!
  const { document } = chain
  const frequencyHz = figure('frequency')
  const asked = modeOfText(cell('mode'))
  const desk =
    document.channels.find(({ id }) => id === channelId) ??
    (chain.id === options.chainId ? undefined : document.channels[0])
  const identity = cell('channelId')
  const named = document.channels.find(({ id }) => id === identity)
  // What a log says was on no channel stays so.
  const onNone = columns.has('channelId') && identity === ''
  const channel =
    named ??
    (onNone
      ? undefined
      : frequencyHz === undefined
        ? desk
        : channelOf(frequencyHz, asked, document.channels, desk))
  const instrument = instrumentNamed(cell('instrument'), cell('instrumentId'), instruments, choices)
  const at = [cell('at'), cell('clock')].filter(Boolean).join(' ')
  const utc = Boolean(columns.get('clock')?.utc ?? columns.get('at')?.utc)
  const read = at === '' ? null : readDate(at, order, utc)
  if (at !== '' && !read)
    throw new Error(`“${at}” is no date. Write it as 2026-04-18 or 2026-04-18 09:30.`)
  const early = read && whyNotThen(read.at.toISOString(), Date.now())
  if (early) throw new Error(early)
  const body = {
    channelId: channel?.id,
    frequencyHz: frequencyHz ?? (channel ?? document.channels[0]!).frequencyHz,
    mode: asked ?? channel?.mode ?? 'key-down',
    meanToPeak: figure('meanToPeak'),
    powerW: figure('power') ?? (channel ?? document.channels[0]!).powerW,
    before: placeNamed(cell('place'), cell('placeId'), chain, choices),
    farEnd: farEndOfText(cell('farEnd')),
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
    kept: isKept(columns)
      ? {
          place: cell('place'),
          instrument: cell('instrument'),
          shownForwardW: orNull('shownForward'),
          shownReflectedW: orNull('shownReflected'),
          expectedW: orNull('expectedW'),
          lowW: orNull('lowW'),
          highW: orNull('highW'),
          expectedSwr: orNull('expectedSwr'),
          lowSwr: orNull('lowSwr'),
          highSwr: orNull('highSwr'),
          inside: cell('inside') !== 'no',
        }
      : undefined,
  }
  const checked = importedReadingSchema.safeParse(body)
  if (!checked.success) throw new Error(checked.error.issues[0]!.message)
  return { chain, reading: checked.data, channel, read }
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

function farEndOfText(text: string): FarEnd | undefined {
  const found = farEnds.find((end) => end === text.toLowerCase())
  if (text !== '' && !found)
    throw new Error(`“${text}” is no far end. Known are ${farEnds.join(', ')}.`)
  // The antenna is meant wherever nothing else is said.
  return found === 'antenna' ? undefined : found
}

function inWords(
  line: number,
  reading: ImportedReading,
  channel: ChannelDocument | undefined,
  read: ReadDate | null,
  { document }: ChainAtHand,
): Understood {
  const { readAt, frequencyHz, mode, before, forwardW, reflectedW, swr } = reading
  return {
    line,
    when: readAt ? `${dayText(readAt)}${read?.timed ? ` ${clockText(readAt)}` : ''}` : 'now',
    on: `${formatFrequency(frequencyHz)}, ${modeOf(mode).short}`,
    chain: document.name,
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
