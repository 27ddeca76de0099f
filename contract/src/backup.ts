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
    /** The copy of what was there before: bring it back to undo; null where that was damaged. */
    keptAs: z.string().nullable(),
    /** What a damaged database was moved to. */
    aside: z.string().nullable(),
  })
  .meta({ id: 'Restored' })
export type Restored = z.infer<typeof restoredSchema>

/** Why a copy was made: every night, before an update or a restore, or since somebody asked for one. */
export const copyReasons = ['nightly', 'migration', 'restore', 'asked'] as const
export type CopyReason = (typeof copyReasons)[number]

/** A copy of everything that the server keeps by itself. */
export const keptCopySchema = z
  .object({
    name: z.string(),
    keptAt: timestamp,
    why: z.enum(copyReasons),
    bytes: z.int(),
    /** As it was found when the copy was checked; null where that is not known. */
    holds: backupSchema.nullable(),
  })
  .meta({ id: 'KeptCopy' })
export type KeptCopy = z.infer<typeof keptCopySchema>

/** How the keeping of copies stands. */
export const backupStateSchema = z
  .object({
    /** Where they lie, on the server. */
    folder: z.string(),
    /** When the newest nightly one was made. */
    lastAt: timestamp.nullable(),
    /** Whether a night or more was missed. */
    overdue: z.boolean(),
    /** Why the last attempt failed. */
    problem: z.string().nullable(),
  })
  .meta({ id: 'BackupState' })
export type BackupState = z.infer<typeof backupStateSchema>
