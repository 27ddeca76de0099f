/** Copies of the database, its check, and files in and out, at the shell; the server may run meanwhile. */
import { copyFileSync, createWriteStream, existsSync, mkdtempSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join, resolve } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { readingsBodySchema } from '@saltline/contract'
import { type Database, DatabaseError, openDatabase } from '../src/db/open.ts'
import { ProblemError } from '../src/http/problem.ts'
import { restoreFrom } from '../src/store/backup.ts'
import { copiesFolder, copyNamed, keepCopy, listCopies } from '../src/store/copies.ts'
import { holdsOf } from '../src/store/holds.ts'
import { logAsCsv, logAsJson } from '../src/store/logFiles.ts'
import { addReadings } from '../src/store/readings.ts'
import { readStationFile } from '../src/http/readStationFile.ts'
import { importStation, stationFileText } from '../src/store/stationFile.ts'
import { replaceDamaged } from '../src/store/setAside.ts'
import { listStations } from '../src/store/stations.ts'
import { inFolder } from '../src/work/folder.ts'
import { textOf } from './read.ts'
import { Refusal, say, sayJson, table } from './say.ts'

/** Does something with a database. @throws Refusal where it cannot be opened */
async function withDatabase<T>(path: string, run: (db: Database) => Promise<T>): Promise<T> {
  const db = await openDatabase(resolve(path), {
    create: false,
    beforeMigration: async (older) => void (await keepCopy(older, 'migration')),
  }).catch((error: unknown) => {
    throw error instanceof DatabaseError ? new Refusal(error.message) : error
  })
  try {
    return await run(db)
  } finally {
    db.close()
  }
}

const refuseDamaged = (db: Database): void => {
  if (db.damage !== null)
    throw new Refusal(
      `The database is damaged (${db.damage}). “saltline restore NAME” sets it aside and takes the newest good copy; “saltline backups” lists them.`,
    )
}

/** Makes a copy now. */
export const backup = ({ db: path, json }: { db: string; json: boolean }): Promise<void> =>
  withDatabase(path, async (db) => {
    refuseDamaged(db)
    const { madeMs: _, ...copy } = await keepCopy(db, 'asked')
    const file = join(copiesFolder(db.file), copy.name)
    if (json) sayJson({ ...copy, file })
    else say(`Copied and checked: ${file}`)
  })

/** Lists the copies. */
export function backups({ db: path, json }: { db: string; json: boolean }): void {
  const main = resolve(path)
  const copies = listCopies(main).map(({ madeMs: _, ...copy }) => copy)
  if (json) return sayJson(copies)
  if (copies.length === 0) return say(`No copy lies in ${copiesFolder(main)} yet.`)
  say(
    table(
      ['name', 'made', 'why', 'MB', 'stations', 'readings'],
      copies.map(({ name, keptAt, why, bytes, holds }) => [
        name,
        keptAt.slice(0, 16).replace('T', ' '),
        why,
        (bytes / 1e6).toFixed(1),
        holds ? String(holds.stations.length) : '?',
        holds ? String(holds.stations.reduce((sum, { readings }) => sum + readings, 0)) : '?',
      ]),
    ),
    `In ${copiesFolder(main)}; times in UTC.`,
  )
}

/** Puts a copy in the place of everything; a database that is damaged or gone is set aside first. */
export async function restore({ db: path, name }: { db: string; name: string }): Promise<void> {
  const main = resolve(path)
  const from = existsSync(name) ? resolve(name) : copyOf(main, name)
  const folder = mkdtempSync(join(tmpdir(), 'saltline-restore-'))
  try {
    // A restore changes the file it is given.
    const file = join(folder, 'restore.sqlite')
    copyFileSync(from, file)
    if (await isSound(main)) {
      const { keptAs, stations } = await withDatabase(main, (db) => restoreFrom(db, file))
      return say(
        `Restored ${namesOf(stations)} from ${basename(from)}.`,
        `What was there before is kept as ${keptAs}: “saltline restore ${keptAs}” brings it back.`,
      )
    }
    const { stations, aside } = await replaceDamaged(main, file)
    say(
      `Restored ${namesOf(stations)} from ${basename(from)}.`,
      ...(aside ? [`The damaged database is set aside as ${aside}.`] : []),
      `What was entered after the copy was made is not in it. Start the server again.`,
    )
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

const namesOf = (stations: readonly { name: string; readings: number }[]): string =>
  stations.map(({ name, readings }) => `${name} (${readings} readings)`).join(', ') || 'no station'

function copyOf(main: string, name: string): string {
  try {
    return copyNamed(main, name)
  } catch {
    throw new Refusal(
      `There is no copy “${name}” in ${copiesFolder(main)}, and no such file. “saltline backups” lists them.`,
    )
  }
}

async function isSound(main: string): Promise<boolean> {
  try {
    const db = await openDatabase(main, { create: false })
    db.close()
    return db.damage === null
  } catch (error) {
    if (error instanceof DatabaseError) return false
    throw error
  }
}

/** Whether a database is sound, and what it holds. */
export async function check({ db: path, json }: { db: string; json: boolean }): Promise<void> {
  const main = resolve(path)
  if (!existsSync(main)) throw new Refusal(`There is no database at ${main}.`)
  await withDatabase(main, async (db) => {
    const holds = db.damage === null ? await holdsOf(db) : null
    if (json) sayJson({ file: main, sound: db.damage === null, damage: db.damage, holds })
    else if (holds)
      say(
        `${main} is sound: ${namesOf(holds.stations)}, ${(statSync(main).size / 1e6).toFixed(1)} MB.`,
      )
    else say(`${main} is damaged: ${db.damage}. “saltline backups” lists the copies.`)
    if (db.damage !== null) process.exitCode = 1
  })
}

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
}: {
  db: string
  station: string | undefined
  format: keyof typeof formats
  out: string | undefined
}): Promise<void> =>
  withDatabase(path, async (db) => {
    const { id, name } = await stationIn(db, station)
    const portions = Readable.from(formats[format](db, id))
    if (out === undefined) return pipeline(portions, process.stdout, { end: false })
    await pipeline(portions, createWriteStream(out))
    say(`${name} is in ${out}.`)
  })

/** A station file as a new station, or readings as JSON into a chain. */
export const imported = ({
  db: path,
  file,
  chain,
}: {
  db: string
  file: string
  chain: string | undefined
}): Promise<void> =>
  withDatabase(path, async (db) => {
    refuseDamaged(db)
    if (chain === undefined) return stationFrom(db, file)
    let data: unknown
    try {
      data = JSON.parse(await textOf(file))
    } catch (error) {
      if (error instanceof Refusal) throw error
      throw new Refusal(
        `“${file}” is no JSON: ${(error as Error).message}. A CSV is imported on the log’s page, where it is seen what each column is taken for.`,
      )
    }
    const parsed = readingsBodySchema.safeParse(Array.isArray(data) ? { readings: data } : data)
    if (!parsed.success) throw new Refusal(whyNot(file, parsed.error))
    const ids = await addReadings(db, chain, parsed.data.readings)
    say(`${ids.length} readings were added.`)
  })

/** A station file may be too long for the memory: standard input goes to a disk first. */
const stationFrom = (db: Database, file: string): Promise<void> =>
  inFolder(async (folder) => {
    const path = file === '-' ? join(folder, 'received') : file
    if (file === '-') await pipeline(process.stdin, createWriteStream(path))
    else if (!existsSync(file))
      throw new Refusal(`“${file}” cannot be read: there is no such file.`)
    const source = await readStationFile(path).catch((error: unknown) => {
      if (!(error instanceof ProblemError)) throw error
      throw new Refusal(`“${basename(file)}”: ${error.message} Nothing was imported.`)
    })
    const { name, chains } = await importStation(db, source)
    say(`The station ${name} was added, with ${chains.length} chains.`)
  })

const whyNot = (file: string, { issues }: { issues: { path: PropertyKey[]; message: string }[] }) =>
  `“${basename(file)}”: ${issues[0]!.path.join('.')}: ${issues[0]!.message} Nothing was imported.`
