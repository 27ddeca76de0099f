/** Folders for what is needed for a moment: gone when the work is done, when the process ends, or at the next start. */
import { mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { isAlive } from '../db/open.ts'
import { faultOf } from '../db/faults.ts'
import { ProblemError } from '../http/problem.ts'

const PREFIX = 'saltline-work-'

const open = new Set<string>()

const remove = (folder: string) => rmSync(folder, { recursive: true, force: true })

process.on('exit', () => {
  for (const folder of open) remove(folder)
})

/** Removes what processes that were killed have left. */
export function removeLeftFolders(): void {
  for (const entry of readdirSync(tmpdir())) {
    const pid = entry.startsWith(PREFIX) && /^\d+/.exec(entry.slice(PREFIX.length))?.[0]
    if (pid && !isAlive(Number(pid))) remove(join(tmpdir(), entry))
  }
}

/**
 * Does something with a folder of its own.
 *
 * @throws ProblemError where there is no room in the folder for temporary files, naming it
 */
export async function inFolder<T>(run: (folder: string) => Promise<T>): Promise<T> {
  const folder = made()
  try {
    return await run(folder)
  } catch (error) {
    throw temporary(error)
  } finally {
    remove(folder)
    open.delete(folder)
  }
}

function made(): string {
  try {
    const folder = mkdtempSync(join(tmpdir(), `${PREFIX}${process.pid}-`))
    open.add(folder)
    return folder
  } catch (error) {
    throw unusable(error)
  }
}

/** An error, or that the folder has no room, where it was that. */
export const temporary = (error: unknown): unknown => {
  const kind = faultOf(error)?.kind
  return kind === 'full' || kind === 'read-only' ? unusable(error) : error
}

function unusable(error: unknown): ProblemError {
  const fault = faultOf(error)
  return new ProblemError({
    status: fault?.status ?? 503,
    title:
      fault?.kind === 'full'
        ? 'The folder for temporary files is full'
        : 'The folder for temporary files cannot be used',
    detail: `A copy is needed for a moment in ${tmpdir()}. Make room there and see that it may be written to, or set TMPDIR to another folder when starting. Nothing was changed.`,
  })
}
