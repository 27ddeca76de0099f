/** A station file as it lies on a disk, however many readings it has: checked first, then taken by portions. */
import { createReadStream } from 'node:fs'
import {
  type KeptReading,
  keptReadingSchema,
  ListSplitter,
  readingChecks,
  type SplitLimits,
  stationFileSchema,
  TooLongError,
} from '@saltline/contract'
import { z } from 'zod'
import { throwIfStopped } from '../db/stopping.ts'
import { PORTION } from '../store/arrivals.ts'
import type { StationFileSource } from '../store/stationFile.ts'
import { invalidBody, invalidJson, ProblemError } from './problem.ts'
import { checked, shaped } from './shape.ts'

const MiB = 1024 * 1024
const LIMITS: SplitLimits = { portion: PORTION, element: MiB, rest: 256 * MiB }
const PIECE = MiB

/** As many faults are looked for. */
const MOST_FAULTS = 50

const readingsSchema = z.array(keptReadingSchema)

/** The readings of a file as values nobody has looked at yet; returns the text of all else. */
async function* pieces(path: string): AsyncGenerator<unknown[], string> {
  const splitter = new ListSplitter(['log', 'readings'], LIMITS)
  try {
    for await (const bytes of createReadStream(path, { highWaterMark: PIECE }))
      for (const { text, count } of splitter.push(bytes as Uint8Array)) {
        throwIfStopped()
        const items = parsed(`[${text}]`) as unknown[]
        if (items.length !== count) throw invalidJson(new SyntaxError('a comma too many in a list'))
        yield items
      }
  } catch (error) {
    if (!(error instanceof TooLongError)) throw error
    throw new ProblemError({ status: 413, title: 'Too large', detail: error.message })
  }
  return splitter.end()
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text.replace(/^\uFEFF/, ''))
  } catch (error) {
    throw invalidJson(error as Error)
  }
}

/** All but the readings of a file. */
async function restOf(path: string): Promise<unknown> {
  const read = pieces(path)
  for (;;) {
    const { done, value } = await read.next()
    if (done) return value === '' ? undefined : parsed(value)
  }
}

/**
 * Checks a whole station file. It is read three times: for all but its readings, for whether those are right, and for what
 * they are when they are kept; never more of them than a portion are in memory.
 *
 * @param path where it lies
 * @throws ProblemError 400 where it is no JSON, 413 where a part of it is too long, 422 with up to fifty faults and places
 */
export async function readStationFile(path: string): Promise<StationFileSource> {
  const file = checked(stationFileSchema, await restOf(path))
  const check = readingChecks(file)
  const issues: z.core.$ZodIssue[] = []
  let from = 0
  for await (const items of pieces(path)) {
    const read = shaped(readingsSchema, items)
    const faults = read.success
      ? check(read.data, from)
      : read.error.issues.map(({ path: [i, ...rest], message }) => ({
          path: ['log', 'readings', from + (i as number), ...rest],
          message,
        }))
    for (const fault of faults) issues.push({ ...fault, code: 'custom', input: undefined })
    if (issues.length >= MOST_FAULTS) break
    from += items.length
  }
  if (issues.length > 0) throw invalidBody(new z.ZodError(issues))
  return { file, readings: () => kept(path) }
}

async function* kept(path: string): AsyncGenerator<KeptReading[]> {
  for await (const items of pieces(path)) yield readingsSchema.parse(items)
}
