/** Stations and their records as files: out of a database and into one. */
import { createReadStream, createWriteStream, existsSync } from 'node:fs'
import { basename, join } from 'node:path'
import { Readable } from 'node:stream'
import { text } from 'node:stream/consumers'
import { pipeline } from 'node:stream/promises'
import { type Instrument, readingsBodySchema } from '@saltline/contract'
import { readingsFromText } from '@saltline/contract/table'
import type { Database } from '../src/db/open.ts'
import { ProblemError } from '../src/http/problem.ts'
import { readStationFile } from '../src/http/readStationFile.ts'
import { alreadyHere } from '../src/store/already.ts'
import { readChain } from '../src/store/chains.ts'
import { logAsCsv, logAsJson } from '../src/store/logFiles.ts'
import { addReadings } from '../src/store/readings.ts'
import { importStation, stationFileText } from '../src/store/stationFile.ts'
import { listStations, readStation } from '../src/store/stations.ts'
import { inFolder } from '../src/work/folder.ts'
import { refuseDamaged, withDatabase } from './keeping.ts'
import { Refusal, say, sayJson } from './say.ts'

/** The one station, or the one that is named. */
async function stationIn(db: Database, named: string | undefined) {
  const stations = await listStations(db)
  const found = stations.filter(({ id, name }) => named === undefined || [id, name].includes(named))
  if (found.length === 1) return found[0]!
  throw new Refusal(
    found.length === 0
      ? `There is no station “${named ?? ''}”. There are ${stations.map(({ name }) => `“${name}”`).join(', ') || 'none'}.`
      : `Say which station with --station: ${found.map(({ name }) => `“${name}”`).join(', ')}.`,
  )
}

const formats = {
  station: stationFileText,
  csv: (db: Database, id: string) => logAsCsv(db, id),
  json: (db: Database, id: string) => logAsJson(db, id),
}

/** A station, or its log, as a file. */
export const exported = ({
  db: path,
  station,
  format,
  out,
  json,
}: {
  db: string
  station: string | undefined
  format: keyof typeof formats
  out: string | undefined
  json: boolean
}): Promise<void> =>
  withDatabase(path, async (db) => {
    const { id, name } = await stationIn(db, station)
    const portions = Readable.from(formats[format](db, id))
    if (out === undefined) return pipeline(portions, process.stdout, { end: false })
    await pipeline(portions, createWriteStream(out))
    if (json) sayJson({ station: id, name, file: out })
    else say(`${name} is in ${out}.`)
  })

/** What a file that is imported is. */
type Importable = 'station' | 'csv' | 'json'

interface Import {
  db: string
  file: string
  format: Importable | undefined
  station: string | undefined
  chain: string | undefined
  monthFirst: boolean
  json: boolean
}

/** A station file as a new station; or readings, as CSV or JSON, into the chains of a station. */
export const imported = ({ db: path, file, format, ...given }: Import): Promise<void> =>
  withDatabase(path, (db) => {
    refuseDamaged(db)
    return inFolder(async (folder) => {
      // A station file may be too long for the memory: standard input goes to a disk first.
      const from = file === '-' ? join(folder, 'received') : file
      if (file === '-') await pipeline(process.stdin, createWriteStream(from))
      else if (!existsSync(file))
        throw new Refusal(`“${file}” cannot be read: there is no such file.`)
      const name = basename(file)
      switch (format ?? (await formatOf(from, given.chain))) {
        case 'station':
          return stationFrom(db, from, name, given)
        case 'json':
          return readingsFromJson(db, from, name, given)
        case 'csv':
          return readingsFromTable(db, from, name, given)
      }
    })
  })

/** JSON begins with a bracket; into a chain go readings. */
async function formatOf(path: string, chain: string | undefined): Promise<Importable> {
  const head = await text(createReadStream(path, { end: 99 }))
  if (!/^\s*[[{]/.test(head)) return 'csv'
  return chain === undefined ? 'station' : 'json'
}

type Given = Omit<Import, 'db' | 'file' | 'format'>

async function stationFrom(db: Database, path: string, name: string, { json }: Given) {
  const source = await readStationFile(path).catch((error: unknown) => {
    if (!(error instanceof ProblemError)) throw error
    throw new Refusal(`“${name}”: ${error.message} Nothing was imported.`)
  })
  const station = await importStation(db, source)
  if (json) sayJson({ station: station.id, name: station.name, chains: station.chains.length })
  else say(`The station ${station.name} was added, with ${station.chains.length} chains.`)
}

async function readingsFromJson(db: Database, path: string, name: string, given: Given) {
  const chain = await chainIn(db, given)
  let data: unknown
  try {
    data = JSON.parse(await text(createReadStream(path)))
  } catch (error) {
    throw new Refusal(`“${name}” is no JSON: ${(error as Error).message}. Nothing was imported.`)
  }
  const parsed = readingsBodySchema.safeParse(Array.isArray(data) ? { readings: data } : data)
  if (!parsed.success) {
    const [issue] = parsed.error.issues
    throw new Refusal(
      `“${name}”: ${issue!.path.join('.')}: ${issue!.message} Nothing was imported.`,
    )
  }
  const ids = await addReadings(db, chain.id, parsed.data.readings)
  told({ added: ids.length, already: 0 }, given)
}

/** The table is read as in the browser; what the browser would ask about is refused with the question. */
async function readingsFromTable(db: Database, path: string, name: string, given: Given) {
  const chain = await chainIn(db, given)
  const station = await readStation(db, chain.stationId)
  const chains = await Promise.all(
    station.chains.map(async ({ id }) => ({ id, document: (await readChain(db, id)).document })),
  )
  const table = readingsFromText(await text(createReadStream(path)), {
    chains,
    chainId: chain.id,
    channelId: chain.document.channels[0]!.id,
    instruments: station.gear.filter((each): each is Instrument => each.kind === 'instrument'),
    order: given.monthFirst ? 'month first' : 'day first',
  })
  const faults = [
    ...table.problems,
    ...table.unknown.map(({ line, message }) => ({ line, message })),
  ]
  if (faults.length > 0)
    throw new Refusal(
      [
        `“${name}” was not imported:`,
        ...faults.slice(0, 20).map(({ line, message }) => `  line ${line}: ${message}`),
        ...(faults.length > 20 ? [`  and ${faults.length - 20} more.`] : []),
      ].join('\n'),
    )
  if (table.datesEither && !given.monthFirst)
    console.error(
      'Dates as 05/04/2026 are read with the day first; --month-first reads them the other way.',
    )
  const done = { added: 0, already: 0 }
  for (const { chainId, readings } of table.chains) {
    const already = new Set(await alreadyHere(db, chainId, readings))
    const fresh = readings.filter((_, i) => !already.has(i))
    if (fresh.length > 0) await addReadings(db, chainId, fresh)
    done.added += fresh.length
    done.already += already.size
  }
  told(done, given)
}

function told(done: { added: number; already: number }, { json }: Given): void {
  if (json) return sayJson(done)
  const already = done.already > 0 ? ` ${done.already} were there already.` : ''
  say(`${done.added} readings were added.${already}`)
}

/** The chain that readings go to where they name none. */
async function chainIn(db: Database, { station, chain }: Given) {
  const { chains } = await stationIn(db, station)
  const found = chains.filter(({ id, name }) => chain === undefined || [id, name].includes(chain))
  if (found.length === 1 || (chain === undefined && found.length > 0))
    return readChain(db, found[0]!.id)
  throw new Refusal(
    `There is no chain “${chain ?? ''}” in this station. There are ${chains.map(({ id, name }) => `“${name}” (${id})`).join(', ') || 'none'}.`,
  )
}
