/** Backups of the whole database, and the copies that are kept by themselves. */
import { queryOptions } from '@tanstack/react-query'
import { asBody, call } from './client.ts'
import { queryClient } from './queries.ts'

const SQLITE = 'application/vnd.sqlite3'

/** What a backup holds, beside what is here; nothing is changed. */
export const previewBackup = (file: File) =>
  call('POST /backup/preview', { init: asBody(file, SQLITE) })

/** Replaces everything the server holds by what a backup holds. */
export async function restoreBackup(file: File) {
  const restored = await call('POST /backup/restore', { init: asBody(file, SQLITE) })
  await queryClient.invalidateQueries()
  return restored
}

export const keptCopiesQuery = queryOptions({
  queryKey: ['backup', 'kept'],
  queryFn: () => call('GET /backup/kept'),
})

/** How the keeping of copies stands. */
export const backupStateQuery = queryOptions({
  queryKey: ['backup', 'state'],
  queryFn: () => call('GET /backup/state'),
  refetchInterval: 300_000,
})

/** Has a copy made now. */
export async function makeCopy() {
  const copy = await call('POST /backup/kept')
  await queryClient.invalidateQueries({ queryKey: ['backup'] })
  return copy
}

/** Brings everything back to how it is in a copy. */
export async function restoreCopy(name: string) {
  const restored = await call('POST /backup/kept/:name/restore', { params: { name } })
  await queryClient.invalidateQueries()
  return restored
}
