/** Whether a database may be written to: sound when it was opened, and the same file still. */
import { statSync } from 'node:fs'
import type { Database } from './connection.ts'

/** Why nothing may be written, in words. */
export interface Refusal {
  title: string
  detail: string
}

/** What SQLite itself finds wrong with a file; null where it is sound. */
export async function damageOf(
  db: Database,
  check: 'quick_check' | 'integrity_check' = 'quick_check',
): Promise<string | null> {
  try {
    const { rows } = await db.$client.execute(`PRAGMA ${check}(1)`)
    const said = String(rows[0]?.[0])
    return said === 'ok' ? null : said.replace(/^\*+ in database main \*+\s*/, '')
  } catch (error) {
    return error instanceof Error ? error.message : String(error)
  }
}

/** A function that says why a database may not be written to, now; null where it may. */
export function standingOf({ file, damage }: Database): () => Refusal | null {
  const own = statSync(file, { bigint: true })
  return () => {
    if (damage !== null)
      return {
        title: 'The database is damaged',
        detail: `It can be read, as far as it can be, and is not written to (${damage}). Save what you need, then restore a copy: what is damaged is moved aside and stays. Nothing was changed.`,
      }
    try {
      const now = statSync(file, { bigint: true })
      if (now.ino === own.ino && now.dev === own.dev) return null
    } catch {
      // Gone, or its folder is.
    }
    return {
      title: 'The database file is gone',
      detail: `${file} was deleted, moved or replaced while the server runs. What is shown is what it held. Save a backup from the station’s page now, stop the server, and put the file back. Nothing was changed.`,
    }
  }
}
