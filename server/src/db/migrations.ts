/** Which migrations this version knows. */
import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'

export const MIGRATIONS = resolve(import.meta.dirname, '../../migrations')

/** When each migration was written, ms; a database notes the ones it has seen by these. */
export function migrationTimes(): number[] {
  const journal = JSON.parse(readFileSync(resolve(MIGRATIONS, 'meta/_journal.json'), 'utf8')) as {
    entries: { when: number }[]
  }
  return journal.entries.map(({ when }) => when)
}
