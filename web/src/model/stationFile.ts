import { ListSplitter, type StationFile, stationFileSchema, TooLongError } from '@saltline/contract'

/** A station file before it is brought in: what is in it, its readings only counted. */
export type ReadStationFile =
  | { ok: true; file: StationFile; readingCount: number }
  | { ok: false; message: string }

const LIMITS = { portion: 1000, element: 1024 * 1024, rest: 256 * 1024 * 1024 }

/** How every file of SQLite begins. */
const SQLITE = 'SQLite format 3'

/**
 * Looks into a station file, piece by piece: it may have a million readings, which the server checks.
 *
 * @returns what is in it, or the first thing wrong with it, named by its place
 */
export async function readStationFile(blob: Blob): Promise<ReadStationFile> {
  if ((await blob.slice(0, SQLITE.length).text()) === SQLITE)
    return {
      ok: false,
      message:
        'This is a backup of a whole database: bring it in under “Back up and restore” on a station’s page.',
    }
  const splitter = new ListSplitter(['log', 'readings'], LIMITS)
  let readingCount = 0
  let data: unknown
  try {
    for (const reader = blob.stream().getReader(); ;) {
      const { done, value } = await reader.read()
      if (done) break
      for (const { count } of splitter.push(value)) readingCount += count
    }
    data = JSON.parse(splitter.end())
  } catch (error) {
    return {
      ok: false,
      message:
        error instanceof TooLongError
          ? error.message
          : 'This is no station file: it is not JSON. Choose one that was saved with “Save the station as a file”.',
    }
  }
  const parsed = stationFileSchema.safeParse(data)
  if (parsed.success) return { ok: true, file: parsed.data, readingCount }
  const [first] = parsed.error.issues
  return {
    ok: false,
    message: `${first!.message} (at ${first!.path.join(' › ') || 'the file itself'})`,
  }
}
