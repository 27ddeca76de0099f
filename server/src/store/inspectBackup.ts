/**
 * A process of its own that looks at a file before it is restored, and brings it up to this version: a
 * damaged database can end the process that reads it (the driver aborts on text that is no UTF-8), and must
 * not end the server. Sends why the file is refused, or null.
 */
import { chainDocumentSchema, gearBodySchema } from '@saltline/contract'
import { is } from 'drizzle-orm'
import { SQLiteTable } from 'drizzle-orm/sqlite-core'
import { whyNotOurs } from '../db/check.ts'
import { type Database, openDatabase } from '../db/open.ts'
import * as schema from '../db/schema.ts'

/** As many rows as are read at once. */
const PORTION = 200

type Row = Record<string, unknown>

/** What a row must be beyond what its columns say. */
const documents = new Map<SQLiteTable, (row: Row) => boolean>([
  [schema.chainRevisions, ({ document }) => chainDocumentSchema.safeParse(document).success],
  [schema.gear, ({ body }) => gearBodySchema.safeParse(body).success],
])

async function whyNot(file: string): Promise<string | null> {
  const why = await whyNotOurs(file)
  if (why) return why
  try {
    const copy = await openDatabase(file, { create: false })
    const bad = await badRow(copy)
    await copy.settle()
    copy.close()
    return bad
  } catch (error) {
    return `A part of it cannot be read (${error instanceof Error ? error.message : String(error)}).`
  }
}

/** Reads every row of every table once. */
async function badRow(copy: Database): Promise<string | null> {
  for (const table of Object.values(schema).filter((value) => is(value, SQLiteTable)))
    for (let offset = 0; ; offset += PORTION) {
      const rows: Row[] = await copy.select().from(table).limit(PORTION).offset(offset)
      const bad = rows.find((row) => documents.get(table)?.(row) === false)
      if (bad)
        return 'revision' in bad
          ? `A chain in it is damaged (${String(bad['chainId'])}, revision ${String(bad['revision'])}).`
          : `A piece of gear in it is damaged (${String(bad['id'])}).`
      if (rows.length < PORTION) break
    }
  return null
}

process.send!(await whyNot(process.argv[2]!), () => process.exit(0))
