/** What worker threads do. Each thread has a connection of its own. */
import { createWriteStream } from 'node:fs'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { inspect } from 'node:util'
import type { CopyReason, Problem } from '@saltline/contract'
import { type Database, databaseAt } from '../db/connection.ts'
import { faultOf } from '../db/faults.ts'
import { heedStop } from '../db/stopping.ts'
import { answerRoute, readJson } from '../http/answer.ts'
import { temporary } from './folder.ts'
import { ProblemError, problemOf } from '../http/problem.ts'
import { keyOf } from '../http/route.ts'
import { apiRoutes } from '../routes/index.ts'
import { copyTo, previewBackup, restoreFrom } from '../store/backup.ts'
import { copiesFolder, keepCopy } from '../store/copies.ts'
import { type Chosen, middleOf, type Part } from '../store/logTexts.ts'
import { logAsCsv, logAsJson } from '../store/logFiles.ts'
import { stationFileText } from '../store/stationFile.ts'

let known: { db: Database; routes: ReturnType<typeof routesOf> } | undefined

const routesOf = (db: Database) => new Map(apiRoutes(db).map((r) => [keyOf(r), r]))

/** Nearly always the same one. */
function opened(file: string) {
  if (known?.db.file === file) return known
  known?.db.close()
  const db = databaseAt(file)
  return (known = { db, routes: routesOf(db) })
}

/** What became of a task: an error cannot cross to another thread as it is. */
export type Outcome<T> = { value: T } | { problem: Problem; cause: string | undefined }

/** A task, and the flag that asks to stop it. */
export interface Given<T> {
  task: T
  flag: Int32Array
}

async function outcomeOf<T>(
  flag: Int32Array,
  changes: boolean,
  run: () => Promise<T>,
): Promise<Outcome<T>> {
  try {
    heedStop(flag)
    return { value: await run() }
  } catch (error) {
    let cause: string | undefined
    const problem = problemOf(error, changes, (unexpected) => (cause = inspect(unexpected)))
    return { problem, cause }
  }
}

/** Nothing: once it is answered, the thread has everything it needs. */
export const begin = ({ flag }: Given<null>) => outcomeOf(flag, false, () => Promise.resolve(null))

/** Answers a request as the server’s own thread would. */
export function answer({
  task,
  flag,
}: Given<{
  file: string
  route: string
  params: Record<string, string>
  query: unknown
  /** The bytes of a body, or the path of the file that it was written to. */
  body: Uint8Array | string | null
}>): Promise<Outcome<string>> {
  const { params, query, body } = task
  const route = opened(task.file).routes.get(task.route)!
  return outcomeOf(flag, route.method !== 'get', () =>
    answerRoute(route, {
      params,
      query,
      body: typeof body === 'string' ? body : route.body && readJson(body),
    }),
  )
}

const writings = { csv: logAsCsv, json: logAsJson, station: stationFileText }

export type Writing = keyof typeof writings | 'backup'

/** A file for somebody to take. */
export interface Written {
  file: string
  what: Writing
  stationId: string
  query?: Chosen
}

/** Where a long log is divided, so that two threads can write it. */
export const middle = ({ task, flag }: Given<Written>) =>
  outcomeOf(flag, false, () => middleOf(opened(task.file).db, task.stationId, task.query))

/** Writes such a file, or a part of it. */
export const writeFile = ({ task, flag }: Given<Written & { part?: Part; to: string }>) =>
  outcomeOf(flag, false, async () => {
    const { db } = opened(task.file)
    try {
      if (task.what === 'backup') return await copyTo(db, task.to)
      const portions = writings[task.what](db, task.stationId, task.query, task.part)
      await pipeline(Readable.from(portions), createWriteStream(task.to))
    } catch (error) {
      throw temporary(error)
    }
  })

/** Copies the whole database into the folder of copies. */
export const copy = ({ task, flag }: Given<{ file: string; why: CopyReason }>) =>
  outcomeOf(flag, false, async () => {
    try {
      return await keepCopy(opened(task.file).db, task.why)
    } catch (error) {
      const fault = faultOf(error)
      if (!fault || fault.kind === 'locked' || fault.kind === 'damaged') throw error
      throw new ProblemError(
        {
          status: fault.status,
          title: 'The database could not be copied',
          detail: `${copiesFolder(task.file)}: ${fault.title.toLowerCase()}. Older copies are as they were.`,
        },
        { cause: error },
      )
    }
  })

/** What a backup holds. */
export const preview = ({ task, flag }: Given<{ from: string }>) =>
  outcomeOf(flag, false, () => previewBackup(task.from))

/** Puts what a backup holds in the place of everything. */
export const restore = ({ task, flag }: Given<{ file: string; from: string }>) =>
  outcomeOf(flag, true, () => restoreFrom(opened(task.file).db, task.from))
