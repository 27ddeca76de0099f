/**
 * A process of its own that looks at a file before it is restored, and brings it up to this version: a
 * damaged database can end the process that reads it (the driver aborts on text that is no UTF-8), and must
 * not end the server. Sends why the file is refused, or what it holds.
 */
import {
  chainDocumentSchema,
  dutyBodySchema,
  dutyMarkSchema,
  eventSchema,
  gearBodySchema,
  keptReadingSchema,
  lineSweepSummarySchema,
  measurementSchema,
  stationBodySchema,
  thingBodySchema,
} from '@saltline/contract'
import { getTableName, sql } from 'drizzle-orm'
import type { SQLiteTable } from 'drizzle-orm/sqlite-core'
import { z } from 'zod'
import { whyNotOurs } from '../db/check.ts'
import { type Database, openDatabase } from '../db/open.ts'
import * as schema from '../db/schema.ts'
import { allTables } from '../db/tables.ts'
import type { Inspection } from './backup.ts'
import { holdsOf } from './holds.ts'
import { asSummary } from './lineSweeps.ts'
import { asMeasurement } from './measurements.ts'
import { asReading } from './readingRow.ts'

/** As many rows are read at once. */
const PORTION = 500

type Row = Record<string, unknown>

const moments = z.object({ startedAt: z.iso.datetime(), lastAt: z.iso.datetime() })

/** What a row must be beyond what its columns say, and what it is called. */
const rules = new Map<SQLiteTable, { what: string; fits: (row: never) => boolean }>([
  [
    schema.stations,
    { what: 'station', fits: (row: Row) => stationBodySchema.safeParse(row).success },
  ],
  [
    schema.gear,
    { what: 'piece of gear', fits: ({ body }: Row) => gearBodySchema.safeParse(body).success },
  ],
  [
    schema.sweeps,
    {
      what: 'sweep',
      fits: ({ points, pointCount }: typeof schema.sweeps.$inferSelect) =>
        pointCount > 0 && points.byteLength === 24 * pointCount,
    },
  ],
  [
    schema.chainRevisions,
    {
      // An old revision may be one that today’s limits would refuse: it is looked at again when it is undone to.
      what: 'chain',
      fits: ({ document }: Row) => typeof document === 'object' && document !== null,
    },
  ],
  [schema.rounds, { what: 'session', fits: (row: Row) => moments.safeParse(row).success }],
  [
    schema.readings,
    {
      what: 'reading',
      fits: (row: typeof schema.readings.$inferSelect) =>
        keptReadingSchema.safeParse(asReading(row)).success,
    },
  ],
  [
    schema.lineSweeps,
    {
      what: 'sweep',
      fits: ({ points, ...row }: typeof schema.lineSweeps.$inferSelect) =>
        points.byteLength === 24 * row.pointCount &&
        lineSweepSummarySchema.safeParse(asSummary(row)).success,
    },
  ],
  [schema.events, { what: 'event', fits: (row: Row) => eventSchema.safeParse(row).success }],
  [
    schema.things,
    { what: 'thing', fits: ({ body }: Row) => thingBodySchema.safeParse(body).success },
  ],
  [
    schema.duties,
    { what: 'duty', fits: ({ body }: Row) => dutyBodySchema.safeParse(body).success },
  ],
  [schema.dutyMarks, { what: 'mark', fits: (row: Row) => dutyMarkSchema.safeParse(row).success }],
  [
    schema.measurements,
    {
      what: 'bench sheet',
      fits: (row: typeof schema.measurements.$inferSelect) =>
        measurementSchema.safeParse(asMeasurement(row)).success,
    },
  ],
])

async function inspected(file: string): Promise<Inspection> {
  const why = await whyNotOurs(file)
  if (why) return { why }
  try {
    const copy = await openDatabase(file, { create: false })
    const bad = (await badChain(copy)) ?? (await badRow(copy))
    const holds = await holdsOf(copy)
    await copy.settle()
    copy.close()
    return bad ? { why: bad } : { holds }
  } catch (error) {
    return {
      why: `A part of it cannot be read (${error instanceof Error ? error.message : String(error)}).`,
    }
  }
}

/** Every chain has the revision that it stands at, and that one can be opened. */
async function badChain(copy: Database): Promise<string | null> {
  const rows = await copy.all<{ id: string; revision: number; document: string | null }>(sql`
    SELECT c.id AS id, c.revision AS revision, r.document AS document FROM chains c
    LEFT JOIN chain_revisions r ON r.chain_id = c.id AND r.revision = c.revision`)
  const bad = rows.find(
    ({ document }) =>
      document === null || !chainDocumentSchema.safeParse(JSON.parse(document)).success,
  )
  return bad ? `A chain in it is damaged (${bad.id}, revision ${bad.revision}).` : null
}

/** Reads every row of every table once. */
async function badRow(copy: Database): Promise<string | null> {
  for (const table of allTables) {
    const rule = rules.get(table)
    for (let offset = 0; ; offset += PORTION) {
      const rows: Row[] = await copy.select().from(table).limit(PORTION).offset(offset)
      const bad = rule && rows.find((row) => !rule.fits(row as never))
      if (bad) return `A ${rule.what} in it is damaged (${nameOf(bad, table)}).`
      if (rows.length < PORTION) break
    }
  }
  return null
}

const nameOf = (row: Row, table: SQLiteTable): string =>
  String(row['id'] ?? row['chainId'] ?? getTableName(table))

process.once('disconnect', () => process.exit(1))
process.send!(await inspected(process.argv[2]!), () => process.exit(0))
