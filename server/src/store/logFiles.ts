import type { ChainDocument, Reading } from '@saltline/contract'
import { gainAt, rhoOfSwr } from '@saltline/core'
import Papa from 'papaparse'
import type { Database } from '../db/open.ts'
import { readChain } from './chains.ts'
import { type Chosen, readingRows, readingTexts } from './log.ts'
import { readStation } from './stations.ts'

type Cell = string | number | null
type Shown = (value: Reading[keyof Reading]) => Cell

const rounded: Shown = (value) => (typeof value === 'number' ? Number(value.toPrecision(6)) : null)
const inMHz: Shown = (value) => (value as number) / 1e6
const yesOrNo: Shown = (value) => (value ? 'yes' : 'no')

/**
 * Columns of a log as a table, in the units of the bench: name, field, and how it is shown where it is not shown as it is.
 * The names are those that an import knows.
 */
const columns: readonly [string, keyof Reading, Shown?][] = [
  ['read at', 'readAt'],
  ['chain', 'chainId'],
  ['chain id', 'chainId'],
  ['channel id', 'channelId'],
  ['frequency MHz', 'frequencyHz', inMHz],
  ['mode', 'mode'],
  ['mean over peak', 'meanToPeak'],
  ['set power W', 'powerW'],
  ['place', 'place'],
  ['before', 'before'],
  ['forward W', 'forwardW'],
  ['reflected W', 'reflectedW'],
  ['shown forward W', 'shownForwardW'],
  ['shown reflected W', 'shownReflectedW'],
  ['SWR', 'swr'],
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
  ['weather', 'weather'],
  ['by', 'by'],
  ['note', 'note'],
]

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

/** As many different figures or texts of a column are kept. */
const MOST_KNOWN = 10_000

/** Figures and texts repeat in a log, column by column: each is made a cell once. */
function remembered(make: (value: unknown) => string): (value: unknown) => string {
  const known = new Map<unknown, string>()
  let last: unknown = null
  let lastCell = make(null)
  return (value) => {
    // Most are what they were in the reading before.
    if (value === last) return lastCell
    let cell = known.get(value)
    if (cell === undefined) {
      if (known.size >= MOST_KNOWN) known.clear()
      cell = make(value)
      known.set(value, cell)
    }
    last = value
    lastCell = cell
    return cell
  }
}

/** A station's log, or what is chosen of it, as CSV (RFC 4180), portion by portion; figures with up to fifteen digits. */
export async function* logAsCsv(
  db: Database,
  stationId: string,
  query?: Chosen,
): AsyncGenerator<string> {
  const documents = await chainDocuments(db, stationId)
  yield [...columns.map(([name]) => cellOf(name)), RADIATED].join(',') + '\r\n'
  const nameOf: Shown = (chainId) => documents.get(chainId as string)?.name ?? ''
  const fields = [...new Set(columns.map(([, field]) => field))]
  const shown = columns.map(([name, field, how]) => {
    const show = name === 'chain' ? nameOf : how
    const make = (value: unknown) => cellOf(show ? show(value as never) : (value as Cell))
    // Hardly two readings are of the same moment: keeping those would push out what repeats.
    return { at: fields.indexOf(field), cell: field === 'readAt' ? make : remembered(make) }
  })
  const radiated = radiatedBy(fields, documents)
  for await (const portion of readingRows(db, stationId, fields, query)) {
    const lines = portion.map((row) => {
      const cells = shown.map(({ at, cell }) => cell(row[at]))
      cells.push(cellOf(radiated(row)))
      return cells.join(',')
    })
    yield lines.join('\r\n') + '\r\n'
  }
}

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

function radiatedBy(
  fields: readonly (keyof Reading)[],
  documents: ReadonlyMap<string, ChainDocument>,
): (row: readonly unknown[]) => Cell {
  const at = (field: keyof Reading) => fields.indexOf(field)
  const [chainId, before, hz] = [at('chainId'), at('before'), at('frequencyHz')]
  const [forward, reflected, swr] = [at('forwardW'), at('reflectedW'), at('swr')]
  return (row) => {
    const forwardW = row[forward] as number | null
    const document = documents.get(row[chainId] as string)
    if (row[before] !== 'load' || !forwardW || !document) return null
    const dbi = gainAt(document, row[hz] as number)
    const lostW =
      (row[reflected] as number | null) ??
      (row[swr] === null ? null : forwardW * rhoOfSwr(row[swr] as number) ** 2)
    // Without what came back nobody knows what went out.
    if (dbi === undefined || lostW === null) return null
    return rounded((forwardW - lostW) * 10 ** (dbi / 10))
  }
}
