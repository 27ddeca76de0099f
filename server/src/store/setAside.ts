/** A database that is damaged: it is never written to, and never deleted. */
import { copyFileSync, existsSync, renameSync } from 'node:fs'
import type { Backup } from '@saltline/contract'
import { previewBackup } from './backup.ts'

const ENDINGS = ['', '-wal', '-shm']

/**
 * Puts a backup in the place of a database that is damaged or gone; what was there is moved aside. Nobody may have it open,
 * or go on with it afterwards.
 *
 * @param main where the database belongs
 * @param file the backup, brought up to this version; is changed
 * @returns what the backup holds, and the name of what was moved aside; null where nothing was there
 * @throws StoreError where it is no backup; nothing is changed then
 */
export async function replaceDamaged(
  main: string,
  file: string,
): Promise<Backup & { aside: string | null }> {
  const holds = await previewBackup(file)
  // Whole beside it first: a full disk must not leave an empty place, in which a start would make a new database.
  const fresh = `${main}.new-${process.pid}`
  copyFileSync(file, fresh)
  const aside = existsSync(main)
    ? `${main}.damaged-${new Date().toISOString().slice(0, 19).replaceAll(':', '')}`
    : null
  if (aside !== null)
    for (const ending of ENDINGS)
      if (existsSync(main + ending)) renameSync(main + ending, aside + ending)
  renameSync(fresh, main)
  return { ...holds, aside }
}
