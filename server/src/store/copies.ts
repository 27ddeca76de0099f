/** Copies of the whole database that Salt Line keeps by itself: each is opened and checked before an older one goes. */
import {
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import { basename, dirname, join, resolve } from 'node:path'
import {
  copyReasons,
  type CopyReason,
  type KeptCopy,
  keptCopySchema,
  newId,
} from '@saltline/contract'
import { getTableName, sql } from 'drizzle-orm'
import { type Database, databaseAt } from '../db/connection.ts'
import { damageOf } from '../db/standing.ts'
import { allTables } from '../db/tables.ts'
import { StoreError } from './errors.ts'
import { holdsOf } from './holds.ts'

const DAY_MS = 24 * 3600 * 1000

/**
 * The folder that the copies of a database lie in: beside it, or where `SALTLINE_BACKUPS` says. A folder on another disk
 * outlives the one that the database is on.
 */
export const copiesFolder = (main: string): string =>
  process.env['SALTLINE_BACKUPS']
    ? resolve(process.env['SALTLINE_BACKUPS'])
    : join(dirname(main), `${stem(main)}-backups`)

const stem = (main: string): string => basename(main).replace(/\.\w+$/, '')

/** 2026-04-18T09-30-00-000Z stands for 09:30 on that day: a colon is not for file names. */
const stampOf = (at: Date): string => at.toISOString().replace(/[:.]/g, '-')
const momentOf = (stamp: string): string =>
  stamp.replace(/T(\d\d)-(\d\d)-(\d\d)-(\d+)Z$/, 'T$1:$2:$3.$4Z')

/** A copy as it lies in the folder. */
export interface Copy extends KeptCopy {
  /** When the file was made by the clock of the disk, ms: the clock of the computer may have been set back since. */
  madeMs: number
}

/** The copies of a database, the newest first. */
export function listCopies(main: string): Copy[] {
  const folder = copiesFolder(main)
  if (!existsSync(folder)) return []
  const start = `${stem(main)}.`
  return readdirSync(folder)
    .flatMap((name) => {
      if (!name.startsWith(start)) return []
      const [, stamp, why] = /^([\dTZ-]+)\.(\w+)\.sqlite$/.exec(name.slice(start.length)) ?? []
      const reason = copyReasons.find((own) => own === why)
      if (stamp === undefined || reason === undefined) return []
      const { size, mtimeMs } = statSync(join(folder, name))
      const keptAt = momentOf(stamp)
      return [
        { name, keptAt, why: reason, bytes: size, madeMs: mtimeMs, holds: heldBy(folder, name) },
      ]
    })
    .sort((a, b) => (a.keptAt < b.keptAt ? 1 : -1))
}

/** What was found in a copy when it was checked; null where nobody wrote it down. */
function heldBy(folder: string, name: string): KeptCopy['holds'] {
  try {
    const text = readFileSync(join(folder, `${name}.json`), 'utf8')
    return keptCopySchema.shape.holds.parse(JSON.parse(text))
  } catch {
    return null
  }
}

/** Where a copy lies. @throws StoreError where there is none of that name */
export function copyNamed(main: string, name: string): string {
  if (!listCopies(main).some((copy) => copy.name === name))
    throw new StoreError(
      'missing',
      'No such copy',
      'Older copies make room for newer ones; this one is gone. Load the page anew to see those that are there.',
    )
  return join(copiesFolder(main), name)
}

/** Copies that earlier versions kept beside the database before a restore go to where the others are. */
export function adoptOlder(main: string): void {
  const start = `${basename(main)}.before-restore-`
  const older = readdirSync(dirname(main)).filter((name) => name.startsWith(start))
  if (older.length === 0) return
  mkdirSync(copiesFolder(main), { recursive: true })
  for (const name of older) {
    const stamp = name.slice(start.length)
    const to = join(copiesFolder(main), `${stem(main)}.${stamp}.restore.sqlite`)
    // On another disk it stays where it is: nothing is lost by that.
    if (/^[\dTZ-]+$/.test(stamp))
      try {
        renameSync(join(dirname(main), name), to)
      } catch {
        continue
      }
  }
}

/**
 * Copies the database, checks the copy, and lets go of older ones.
 *
 * @throws where it cannot be written or is not whole; nothing older has gone then
 */
export async function keepCopy(db: Database, why: CopyReason, at = new Date()): Promise<Copy> {
  const folder = copiesFolder(db.file)
  mkdirSync(folder, { recursive: true })
  const name = `${stem(db.file)}.${stampOf(at)}.${why}.sqlite`
  const part = join(folder, `.${name}.part-${newId()}`)
  try {
    const before = await countsOf(db)
    await db.run(sql`VACUUM INTO ${part}`)
    const holds = await checked(part, before, await countsOf(db))
    toDisk(part)
    writeFileSync(join(folder, `${name}.json`), JSON.stringify(holds))
    renameSync(part, join(folder, name))
  } finally {
    rmSync(part, { force: true })
  }
  rotate(db.file, at)
  return listCopies(db.file).find((copy) => copy.name === name)!
}

/** Rows of each table; a database of an older version may not have all of them. */
async function countsOf(db: Database): Promise<number[]> {
  const there = await db.all<{ name: string }>(
    sql`SELECT name FROM sqlite_master WHERE type = 'table'`,
  )
  const counts: number[] = []
  for (const table of allTables)
    counts.push(there.some(({ name }) => name === getTableName(table)) ? await db.$count(table) : 0)
  return counts
}

/** What a copy holds. @throws Error where it is damaged, or holds other rows than were there */
async function checked(
  file: string,
  before: readonly number[],
  after: readonly number[],
): Promise<KeptCopy['holds']> {
  const copy = databaseAt(file)
  try {
    const damage = await damageOf(copy, 'integrity_check')
    if (damage !== null) throw new Error(`The copy is damaged: ${damage}.`)
    const counts = await countsOf(copy)
    allTables.forEach((table, i) => {
      const [least, most] = [Math.min(before[i]!, after[i]!), Math.max(before[i]!, after[i]!)]
      if (counts[i]! < least || counts[i]! > most)
        throw new Error(
          `The copy has ${counts[i]} rows in ${getTableName(table)}, the database ${before[i]}.`,
        )
    })
    // Of an older version it cannot be told before it is brought along.
    return await holdsOf(copy).catch(() => null)
  } finally {
    copy.close()
    for (const ending of ['-wal', '-shm']) rmSync(file + ending, { force: true })
  }
}

/** A power cut right after must not leave a name without what belongs to it. */
function toDisk(file: string): void {
  const descriptor = openSync(file, 'r')
  try {
    fsyncSync(descriptor)
  } finally {
    closeSync(descriptor)
  }
}

/** What was broken off, as by a power cut, is not begun again by anybody after this time, ms. */
const BROKEN_OFF_MS = 6 * 3600 * 1000

function rotate(main: string, now: Date): void {
  const folder = copiesFolder(main)
  for (const name of readdirSync(folder))
    if (name.startsWith(`.${stem(main)}.`) && name.includes('.part-')) {
      const { mtimeMs } = statSync(join(folder, name))
      if (now.getTime() - mtimeMs > BROKEN_OFF_MS) rmSync(join(folder, name), { force: true })
    }
  for (const name of surplus(listCopies(main)))
    for (const ending of ['', '.json']) rmSync(join(folder, name + ending), { force: true })
}

/** Of each reason but the nightly one so many are kept. */
const KEPT: Readonly<Record<Exclude<CopyReason, 'nightly'>, number>> = {
  restore: 5,
  migration: 5,
  asked: 10,
}
const [DAYS, WEEKS, MONTHS] = [7, 4, 12]
/** As many of those made last are kept whatever their names say. */
const LAST_MADE = 3

/** Which copies make room for newer ones: of the nights seven days, four weeks and twelve months stay, the newest of each. */
export function surplus(
  copies: readonly Pick<Copy, 'name' | 'keptAt' | 'why' | 'madeMs'>[],
): string[] {
  const keep = new Set<string>()
  const newestFirst = copies.toSorted((a, b) => (a.keptAt < b.keptAt ? 1 : -1))
  const nights = newestFirst.filter(({ why }) => why === 'nightly')
  const newestOf = (periods: number, periodOf: (at: string) => string | number) => {
    const seen = new Set<string | number>()
    for (const { name, keptAt } of nights) {
      const period = periodOf(keptAt)
      if (seen.has(period)) continue
      seen.add(period)
      if (seen.size > periods) break
      keep.add(name)
    }
  }
  newestOf(DAYS, (at) => at.slice(0, 10))
  // The first Monday was the fifth day of 1970.
  newestOf(WEEKS, (at) => Math.floor((Date.parse(at) / DAY_MS - 4) / 7))
  newestOf(MONTHS, (at) => at.slice(0, 7))
  const lastMade = copies.toSorted((a, b) => b.madeMs - a.madeMs)
  lastMade.slice(0, LAST_MADE).forEach(({ name }) => keep.add(name))
  for (const [why, count] of Object.entries(KEPT))
    newestFirst
      .filter((copy) => copy.why === why)
      .slice(0, count)
      .forEach(({ name }) => keep.add(name))
  return copies.map(({ name }) => name).filter((name) => !keep.has(name))
}
