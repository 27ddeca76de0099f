/** Backups of the whole database, and the copies from before a restore. */
import { backupPreviewSchema, keptCopySchema, restoredSchema } from '@saltline/contract'
import { queryOptions } from '@tanstack/react-query'
import { z } from 'zod'
import { call } from './client.ts'
import { queryClient } from './queries.ts'

const asBody = (file: File): RequestInit => ({
  body: file,
  headers: { 'content-type': 'application/vnd.sqlite3' },
})

/** What a backup holds, beside what is here; nothing is changed. */
export const previewBackup = (file: File) =>
  call('POST', '/backup/preview', backupPreviewSchema, undefined, asBody(file))

/** Replaces everything the server holds by what a backup holds. */
export async function restoreBackup(file: File) {
  const restored = await call('POST', '/backup/restore', restoredSchema, undefined, asBody(file))
  await queryClient.invalidateQueries()
  return restored
}

export const keptCopiesQuery = queryOptions({
  queryKey: ['backup', 'kept'],
  queryFn: () => call('GET', '/backup/kept', z.array(keptCopySchema)),
})

/** Brings everything back to how it was before a restore. */
export async function restoreCopy(name: string) {
  const restored = await call('POST', `/backup/kept/${name}/restore`, restoredSchema)
  await queryClient.invalidateQueries()
  return restored
}
