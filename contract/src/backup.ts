/** Backups of the whole database. */
import { z } from 'zod'
import { timestamp } from './fields.ts'

/** What a backup holds. */
export const backupSchema = z
  .object({
    stations: z.array(
      z.object({
        name: z.string(),
        chains: z.int(),
        readings: z.int(),
        /** Of its readings; null where it has none. */
        firstAt: timestamp.nullable(),
        lastAt: timestamp.nullable(),
      }),
    ),
    /** When a chain was last edited. */
    editedAt: timestamp.nullable(),
  })
  .meta({ id: 'Backup' })
export type Backup = z.infer<typeof backupSchema>

/** What a file holds, beside what is here now. */
export const backupPreviewSchema = z.object({ file: backupSchema, here: backupSchema })
export type BackupPreview = z.infer<typeof backupPreviewSchema>

/** What a restored backup brought. */
export const restoredSchema = backupSchema
  .extend({
    /** The copy of what was there before: bring it back to undo. */
    keptAs: z.string(),
  })
  .meta({ id: 'Restored' })
export type Restored = z.infer<typeof restoredSchema>

/** A copy of everything from before a restore. */
export const keptCopySchema = z
  .object({ name: z.string(), keptAt: timestamp, bytes: z.int() })
  .meta({ id: 'KeptCopy' })
export type KeptCopy = z.infer<typeof keptCopySchema>
