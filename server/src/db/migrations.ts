/** Which migrations this version knows. */
import { readdirSync, readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { inServer } from '../home.ts'

export const MIGRATIONS = inServer('migrations')

/** When each migration was written, ms; a database notes the ones it has seen by these. */
export function migrationTimes(): number[] {
  const journal = JSON.parse(readFileSync(resolve(MIGRATIONS, 'meta/_journal.json'), 'utf8')) as {
    entries: { when: number }[]
  }
  return journal.entries.map(({ when }) => when)
}

/** All that the migrations say, so that what they made can be told from what others made. */
export const migrationsText = (): string =>
  readdirSync(MIGRATIONS)
    .filter((name) => name.endsWith('.sql'))
    .map((name) => readFileSync(resolve(MIGRATIONS, name), 'utf8'))
    .join('\n')
