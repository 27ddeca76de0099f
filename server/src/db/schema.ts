import { blob, index, integer, primaryKey, real, sqliteTable, text } from 'drizzle-orm/sqlite-core'
import type { ChainDocument, GearBody } from '@saltline/contract'

/** ISO 8601, UTC. */
const moment = (name: string) => text(name)

/** A row with `deletedAt` is gone from every list and can be taken back. */
const deletable = { deletedAt: moment('deleted_at') }

export const stations = sqliteTable('stations', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  place: text('place').notNull(),
  note: text('note').notNull(),
  swrLimit: real('swr_limit').notNull(),
  createdAt: moment('created_at').notNull(),
  ...deletable,
})

export const gear = sqliteTable(
  'gear',
  {
    id: text('id').primaryKey(),
    stationId: text('station_id')
      .notNull()
      .references(() => stations.id),
    body: text('body', { mode: 'json' }).$type<GearBody>().notNull(),
    ...deletable,
  },
  (t) => [index('gear_of_station').on(t.stationId)],
)

export const antennas = sqliteTable(
  'antennas',
  {
    id: text('id').primaryKey(),
    stationId: text('station_id')
      .notNull()
      .references(() => stations.id),
    name: text('name').notNull(),
    note: text('note').notNull(),
    ...deletable,
  },
  (t) => [index('antennas_of_station').on(t.stationId)],
)

export const sweeps = sqliteTable(
  'sweeps',
  {
    id: text('id').primaryKey(),
    antennaId: text('antenna_id')
      .notNull()
      .references(() => antennas.id),
    name: text('name').notNull(),
    addedAt: moment('added_at').notNull(),
    referenceOhm: real('reference_ohm').notNull(),
    pointCount: integer('point_count').notNull(),
    lowHz: real('low_hz').notNull(),
    highHz: real('high_hz').notNull(),
    /** False where only |ρ| was measured. */
    phaseKnown: integer('phase_known', { mode: 'boolean' }).notNull().default(true),
    /** Three float64 runs of `pointCount`: frequency in Hz, Re ρ, Im ρ; little endian. */
    points: blob('points', { mode: 'buffer' }).notNull(),
  },
  (t) => [index('sweeps_of_antenna').on(t.antennaId)],
)

export const chains = sqliteTable(
  'chains',
  {
    id: text('id').primaryKey(),
    stationId: text('station_id')
      .notNull()
      .references(() => stations.id),
    /** The revision that is current; undo and redo move it. */
    revision: integer('revision').notNull(),
    createdAt: moment('created_at').notNull(),
    ...deletable,
  },
  (t) => [index('chains_of_station').on(t.stationId)],
)

/** A tree: every edit keeps the revision it was made on as its parent. Nothing is overwritten. */
export const chainRevisions = sqliteTable(
  'chain_revisions',
  {
    chainId: text('chain_id')
      .notNull()
      .references(() => chains.id),
    revision: integer('revision').notNull(),
    parent: integer('parent'),
    document: text('document', { mode: 'json' }).$type<ChainDocument>().notNull(),
    summary: text('summary').notNull(),
    savedAt: moment('saved_at').notNull(),
    aside: integer('aside', { mode: 'boolean' }).notNull(),
  },
  (t) => [
    primaryKey({ columns: [t.chainId, t.revision] }),
    index('revisions_by_parent').on(t.chainId, t.parent),
  ],
)
