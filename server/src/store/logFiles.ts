import type { Reading } from '@saltline/contract'
import Papa from 'papaparse'
import type { Database } from '../db/open.ts'
import { allReadings, type Chosen, readingTexts } from './log.ts'
import { readStation } from './stations.ts'

/** Columns of a log as a table, in the units of the bench. The names are those that an import knows. */
const columns: [string, (reading: Reading, chain: string) => string | number | null][] = [
  ['read at', (r) => r.readAt],
  ['chain', (_, chain) => chain],
  ['chain id', (r) => r.chainId],
  ['channel id', (r) => r.channelId],
  ['frequency MHz', (r) => r.frequencyHz / 1e6],
  ['mode', (r) => r.mode],
  ['mean over peak', (r) => r.meanToPeak],
  ['set power W', (r) => r.powerW],
  ['place', (r) => r.place],
  ['before', (r) => r.before],
  ['forward W', (r) => r.forwardW],
  ['reflected W', (r) => r.reflectedW],
  ['shown forward W', (r) => r.shownForwardW],
  ['shown reflected W', (r) => r.shownReflectedW],
  ['SWR', (r) => r.swr],
  ['range W', (r) => r.rangeW],
  ['instrument', (r) => r.instrument],
  ['instrument id', (r) => r.instrumentId],
  ['supply V', (r) => r.supplyV],
  ['expected W', (r) => rounded(r.expectedW)],
  ['expected W, 5 %', (r) => rounded(r.lowW)],
  ['expected W, 95 %', (r) => rounded(r.highW)],
  ['expected SWR', (r) => rounded(r.expectedSwr)],
  ['expected SWR, 5 %', (r) => rounded(r.lowSwr)],
  ['expected SWR, 95 %', (r) => rounded(r.highSwr)],
  ['inside', (r) => (r.inside ? 'yes' : 'no')],
  ['weather', (r) => r.weather],
  ['by', (r) => r.by],
  ['note', (r) => r.note],
]

/**
 * Text that begins like a formula gets an apostrophe, so that a spreadsheet shows it instead of running it
 * (OWASP, CSV Injection); figures stay figures. An import takes the apostrophe off again.
 */
const SAFE = { escapeFormulae: true }

const rounded = (value: number | null) => (value === null ? null : Number(value.toPrecision(6)))

/** Texts repeat in a log: each is put into its quotes once. */
function cells(): (value: string | number | null) => string {
  let known = new Map<string, string>()
  return (value) => {
    if (typeof value === 'number') return String(value)
    if (value === null || value === '') return ''
    let cell = known.get(value)
    if (cell === undefined) {
      if (known.size > 10_000) known = new Map()
      cell = Papa.unparse([[value]], SAFE)
      known.set(value, cell)
    }
    return cell
  }
}

/** A station's log, or what is chosen of it, as CSV (RFC 4180), portion by portion; figures with up to fifteen digits. */
export async function* logAsCsv(
  db: Database,
  stationId: string,
  query?: Chosen,
): AsyncGenerator<string> {
  const names = await chainNames(db, stationId)
  const cell = cells()
  yield columns.map(([name]) => cell(name)).join(',') + '\r\n'
  for await (const portion of allReadings(db, stationId, query)) {
    const rows = portion.map((reading) => {
      const chain = names.get(reading.chainId) ?? ''
      return columns.map(([, valueOf]) => cell(valueOf(reading, chain))).join(',')
    })
    yield rows.join('\r\n') + '\r\n'
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
  yield* listed(readingTexts(db, stationId, { exact: true, ...(query && { query }) }))
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

async function chainNames(db: Database, stationId: string): Promise<Map<string, string>> {
  const { chains } = await readStation(db, stationId)
  return new Map(chains.map(({ id, name }) => [id, name]))
}
