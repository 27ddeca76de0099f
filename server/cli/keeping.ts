/** Copies of the database, its check, and files in and out, at the shell; the server may run meanwhile. */
import { copyFileSync, existsSync, mkdtempSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join, resolve } from 'node:path'
import { type Database, DatabaseError, openDatabase } from '../src/db/open.ts'
import { restoreFrom } from '../src/store/backup.ts'
import { copiesFolder, copyNamed, keepCopy, listCopies } from '../src/store/copies.ts'
import { holdsOf } from '../src/store/holds.ts'
import { replaceDamaged } from '../src/store/setAside.ts'
import { Refusal, say, sayJson, table } from './say.ts'

/** Does something with a database. @throws Refusal where it cannot be opened */
export async function withDatabase<T>(path: string, run: (db: Database) => Promise<T>): Promise<T> {
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

export const refuseDamaged = (db: Database): void => {
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
export async function restore({
  db: path,
  name,
  json,
}: {
  db: string
  name: string
  json: boolean
}): Promise<void> {
  const main = resolve(path)
  const from = existsSync(name) ? resolve(name) : copyOf(main, name)
  const folder = mkdtempSync(join(tmpdir(), 'saltline-restore-'))
  try {
    // A restore changes the file it is given.
    const file = join(folder, 'restore.sqlite')
    copyFileSync(from, file)
    if (await isSound(main)) {
      const { keptAs, stations } = await withDatabase(main, (db) => restoreFrom(db, file))
      if (json) return sayJson({ stations, keptAs, aside: null })
      return say(
        `Restored ${namesOf(stations)} from ${basename(from)}.`,
        `What was there before is kept as ${keptAs}: “saltline restore ${keptAs}” brings it back.`,
      )
    }
    const { stations, aside } = await replaceDamaged(main, file)
    if (json) return sayJson({ stations, keptAs: null, aside })
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
