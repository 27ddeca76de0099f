import type { ChainDocument, Reading } from '@saltline/contract'
import { gainAt, rhoOfSwr } from '@saltline/core'
import Papa from 'papaparse'
import type { Database } from '../db/open.ts'
import { readChain } from './chains.ts'
import { type Chosen, type Part, readingGroups, readingTexts } from './logTexts.ts'
import { readStation } from './stations.ts'

type Cell = string | number | null
type Shown = (value: Reading[keyof Reading]) => Cell

const rounded: Shown = (value) => (typeof value === 'number' ? Number(value.toPrecision(6)) : null)
const inMHz: Shown = (value) => (value as number) / 1e6
const yesOrNo: Shown = (value) => (value ? 'yes' : 'no')

type Column = readonly [name: string, field: keyof Reading, shown?: Shown]

/**
 * Columns of a log as a table after its moment, in the units of the bench: name, field, and how it is shown where it is
 * not shown as it is. The names are those that an import knows. Columns that change together are in one group: each
 * group of values is put into words once, not once for each reading.
 */
const groups = [
  [
    ['chain', 'chainId'],
    ['chain id', 'chainId'],
    ['channel id', 'channelId'],
    ['frequency MHz', 'frequencyHz', inMHz],
    ['mode', 'mode'],
    ['mean over peak', 'meanToPeak'],
    ['set power W', 'powerW'],
    ['place', 'place'],
    ['before', 'before'],
    ['far end', 'farEnd'],
  ],
  [
    ['forward W', 'forwardW'],
    ['reflected W', 'reflectedW'],
    ['shown forward W', 'shownForwardW'],
    ['shown reflected W', 'shownReflectedW'],
    ['SWR', 'swr'],
  ],
  [
    ['range W', 'rangeW'],
    ['instrument', 'instrument'],
    ['instrument id', 'instrumentId'],
    ['supply V', 'supplyV'],
    ['expected W', 'expectedW', rounded],
    ['expected W, 5 %', 'lowW', rounded],
    ['expected W, 95 %', 'highW', rounded],
    ['expected SWR', 'expectedSwr', rounded],
    ['expected SWR, 5 %', 'lowSwr', rounded],
    ['expected SWR, 95 %', 'highSwr', rounded],
    ['inside', 'inside', yesOrNo],
  ],
  [
    ['weather', 'weather'],
    ['by', 'by'],
    ['note', 'note'],
  ],
] as const satisfies readonly (readonly Column[])[]

/**
 * Text that begins like a formula gets an apostrophe, so that a spreadsheet shows it instead of running it
 * (OWASP, CSV Injection); figures stay figures. An import takes the apostrophe off again.
 */
const SAFE = { escapeFormulae: true }

/** Dates, ids and single words need no quotes, whatever comes after them. */
const PLAIN = /^\w[\w.:-]*$/

function cellOf(value: Cell): string {
  if (typeof value === 'number') return String(value)
  if (value === null || value === '') return ''
  return PLAIN.test(value) ? value : Papa.unparse([[value]], SAFE)
}

/** As many different groups are kept. */
const MOST_KNOWN = 10_000

/** Groups repeat in a log: what is made of each is made once. */
function remembered<T>(make: (group: string) => T): (group: string) => T {
  const known = new Map<string, T>()
  let last: string | undefined
  let lastMade: T
  return (group) => {
    // Most are what they were in the reading before.
    if (group === last) return lastMade
    let made = known.get(group)
    if (made === undefined) {
      if (known.size >= MOST_KNOWN) known.clear()
      made = make(group)
      known.set(group, made)
    }
    last = group
    lastMade = made
    return made
  }
}

/**
 * A station's log, or what is chosen of it, as CSV (RFC 4180), portion by portion; figures with up to fifteen digits. Its
 * parts, one after the other, are the whole.
 */
export async function* logAsCsv(
  db: Database,
  stationId: string,
  query?: Chosen,
  part: Part = {},
): AsyncGenerator<string> {
  const documents = await chainDocuments(db, stationId)
  const names = ['read at', ...groups.flat().map(([name]) => name), RADIATED]
  if (!part.after) yield names.map(cellOf).join(',') + '\r\n'
  const nameOf: Shown = (chainId) => documents.get(chainId as string)?.name ?? ''
  const [ofPlace, ofFigures, ofExpected, ofWords] = groups.map((columns: readonly Column[]) =>
    remembered((group) => {
      const values = JSON.parse(group) as never[]
      return columns
        .map(([name, , how], i) => {
          const show = name === 'chain' ? nameOf : how
          return cellOf(show ? show(values[i]!) : values[i]!)
        })
        .join(',')
    }),
  ) as [Words, Words, Words, Words]
  const gainOf = remembered((group) => gainBy(JSON.parse(group) as never, documents))
  const fields = groups.map((columns) => columns.map(([, field]) => field))
  for await (const portion of readingGroups(db, stationId, fields, query, part)) {
    const lines = portion.map(([readAt, place, figures, expected, words]) => {
      const gain = gainOf(place!)
      const radiated = gain === null ? '' : radiatedBy(gain, JSON.parse(figures!) as never)
      return `${readAt},${ofPlace(place!)},${ofFigures(figures!)},${ofExpected(expected!)},${ofWords(words!)},${radiated}`
    })
    yield lines.join('\r\n') + '\r\n'
  }
}

type Words = (group: string) => string

/** The same as one JSON object, portion by portion. */
export async function* logAsJson(
  db: Database,
  stationId: string,
  query?: Chosen,
): AsyncGenerator<string> {
  const station = await readStation(db, stationId)
  yield `{"format":"saltline-log","version":1,"station":${JSON.stringify(station.name)},"readings":[`
  yield* listed(readingTexts(db, stationId, query))
  yield '\n]}\n'
}

/** Portions of a list, each on lines of its own. */
export async function* listed(portions: AsyncIterable<string>): AsyncGenerator<string> {
  let first = true
  for await (const portion of portions) {
    yield (first ? '\n' : ',\n') + portion
    first = false
  }
}

async function chainDocuments(
  db: Database,
  stationId: string,
): Promise<Map<string, ChainDocument>> {
  const { chains } = await readStation(db, stationId)
  return new Map(
    await Promise.all(
      chains.map(async ({ id }) => [id, (await readChain(db, id)).document] as const),
    ),
  )
}

/** What the antenna radiated, by a reading in front of it; empty elsewhere, and where it has no gain. */
const RADIATED = 'EIRP W'

/** The gain of the antenna that a reading is taken in front of, as a factor. */
function gainBy(
  [chainId, , , hz, , , , , before, farEnd]: Values<(typeof groups)[0]>,
  documents: ReadonlyMap<string, ChainDocument>,
): number | null {
  const document = before === 'load' && farEnd === 'antenna' && documents.get(chainId)
  const dbi = document ? gainAt(document, hz) : undefined
  return dbi === undefined ? null : 10 ** (dbi / 10)
}

function radiatedBy(
  gain: number,
  [forwardW, reflectedW, , , swr]: Values<(typeof groups)[1]>,
): string {
  if (!forwardW) return ''
  const lostW = reflectedW ?? (swr === null ? null : forwardW * rhoOfSwr(swr) ** 2)
  // Without what came back nobody knows what went out.
  return lostW === null ? '' : cellOf(rounded((forwardW - lostW) * gain))
}

/** The values of a group, column by column. */
type Values<G extends readonly Column[]> = { [I in keyof G]: Reading[G[I][1]] }
