import { sql } from 'drizzle-orm'
import {
  blob,
  index,
  integer,
  primaryKey,
  real,
  sqliteTable,
  text,
  uniqueIndex,
} from 'drizzle-orm/sqlite-core'
import type {
  ChainDocument,
  DutyBody,
  DutyMark,
  Environment,
  GearBody,
  MeasurementBody,
  FarEnd,
  Mode,
  Prices,
  AttemptBody,
  RunBody,
  KeptThing,
  LineSweepKept,
  WorksheetKind,
} from '@saltline/contract'

/** ISO 8601, UTC. */
const moment = (name: string) => text(name)

/** A row with `deletedAt` is gone from every list and can be taken back. */
const deletable = { deletedAt: moment('deleted_at') }

/** One row about the database itself. */
export const record = sqliteTable('record', {
  id: integer('id').primaryKey(),
  /**
   * Changes with every restore. Revisions are counted within an epoch: the same number in another one is another
   * edit.
   */
  epoch: text('epoch').notNull(),
})

export const stations = sqliteTable('stations', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  place: text('place').notNull(),
  note: text('note').notNull(),
  swrLimit: real('swr_limit').notNull(),
  environment: text('environment').$type<Environment>().notNull().default('rural'),
  currency: text('currency').notNull().default('EUR'),
  prices: text('prices', { mode: 'json' }).$type<Prices>().notNull().default({ perM: {} }),
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
    /** What the sender called this save: one that comes twice is kept once. */
    saveKey: text('save_key'),
  },
  (t) => [
    primaryKey({ columns: [t.chainId, t.revision] }),
    index('revisions_by_parent').on(t.chainId, t.parent),
    uniqueIndex('revisions_by_key').on(t.chainId, t.saveKey),
  ],
)

/** Readings that were taken together. */
export const rounds = sqliteTable(
  'rounds',
  {
    id: text('id').primaryKey(),
    stationId: text('station_id')
      .notNull()
      .references(() => stations.id),
    chainId: text('chain_id')
      .notNull()
      .references(() => chains.id),
    startedAt: moment('started_at').notNull(),
    lastAt: moment('last_at').notNull(),
    note: text('note').notNull(),
    /** Of its readings, those in the bin left out; kept with the round, since a log is looked at more than changed. */
    readingCount: integer('reading_count').notNull().default(0),
    outsideCount: integer('outside_count').notNull().default(0),
  },
  (t) => [index('rounds_of_chain').on(t.chainId, t.lastAt)],
)

/** One reading with what was expected when it was taken: later edits of the chain do not touch it. */
export const readings = sqliteTable(
  'readings',
  {
    /** What the search for words knows it by; a key of its own kind, so that no copy of the file renumbers it. */
    n: integer('n').primaryKey(),
    id: text('id').notNull(),
    stationId: text('station_id')
      .notNull()
      .references(() => stations.id),
    chainId: text('chain_id')
      .notNull()
      .references(() => chains.id),
    roundId: text('round_id')
      .notNull()
      .references(() => rounds.id),
    channelId: text('channel_id'),
    frequencyHz: real('frequency_hz').notNull(),
    mode: text('mode').$type<Mode>().notNull(),
    meanToPeak: real('mean_to_peak'),
    powerW: real('power_w').notNull(),
    before: text('before').notNull(),
    farEnd: text('far_end').$type<FarEnd>().notNull().default('antenna'),
    place: text('place').notNull(),
    forwardW: real('forward_w'),
    reflectedW: real('reflected_w'),
    /** What a calibrated instrument showed; the two above are corrected then. */
    shownForwardW: real('shown_forward_w'),
    shownReflectedW: real('shown_reflected_w'),
    swr: real('swr'),
    rangeW: real('range_w'),
    instrumentId: text('instrument_id'),
    instrument: text('instrument').notNull(),
    supplyV: real('supply_v'),
    weather: text('weather').notNull(),
    by: text('by').notNull(),
    note: text('note').notNull(),
    readAt: moment('read_at').notNull(),
    expectedW: real('expected_w'),
    lowW: real('low_w'),
    highW: real('high_w'),
    expectedSwr: real('expected_swr'),
    lowSwr: real('low_swr'),
    highSwr: real('high_swr'),
    inside: integer('inside', { mode: 'boolean' }).notNull(),
    /** The chain as it was then; unknown of readings that are older than this column. */
    chainRevision: integer('chain_revision'),
    ...deletable,
  },
  (t) => [
    uniqueIndex('readings_by_id').on(t.id),
    // Holds all that a log is filtered by, so that a page is found, and counted, without the rows.
    index('readings_of_log')
      .on(t.stationId, t.readAt, t.n, t.chainId, t.channelId, t.before, t.instrumentId, t.inside)
      .where(sql`deleted_at IS NULL`),
    index('readings_of_chain').on(t.chainId),
    index('readings_of_round').on(t.roundId),
  ],
)

/**
 * The means of a round at one place on one channel, as the years show them; kept up with its readings. Watts are
 * meant relative to what each meter was expected to show, so that averaging and peak meters mix.
 */
export const roundMeans = sqliteTable(
  'round_means',
  {
    roundId: text('round_id')
      .notNull()
      .references(() => rounds.id),
    chainId: text('chain_id').notNull(),
    channelId: text('channel_id').notNull(),
    before: text('before').notNull(),
    at: moment('at').notNull(),
    powerW: real('power_w').notNull(),
    forwardW: real('forward_w'),
    /** |ρ|, since an SWR has no mean. */
    rho: real('rho'),
    expectedW: real('expected_w'),
    lowW: real('low_w'),
    highW: real('high_w'),
    expectedSwr: real('expected_swr'),
    lowSwr: real('low_swr'),
    highSwr: real('high_swr'),
  },
  (t) => [
    primaryKey({ columns: [t.roundId, t.channelId, t.before] }),
    index('means_of_channel').on(t.chainId, t.channelId, t.at),
  ],
)

export const events = sqliteTable(
  'events',
  {
    id: text('id').primaryKey(),
    chainId: text('chain_id')
      .notNull()
      .references(() => chains.id),
    /** A day, as 2026-01-14. */
    on: text('on').notNull(),
    text: text('text').notNull(),
    ...deletable,
  },
  (t) => [index('events_of_chain').on(t.chainId)],
)

/** Bench sheets that were kept. */
export const measurements = sqliteTable(
  'measurements',
  {
    id: text('id').primaryKey(),
    stationId: text('station_id')
      .notNull()
      .references(() => stations.id),
    kind: text('kind').$type<WorksheetKind>().notNull(),
    title: text('title').notNull(),
    chainId: text('chain_id'),
    stageId: text('stage_id'),
    inputs: text('inputs', { mode: 'json' }).$type<Record<string, unknown>>().notNull(),
    result: text('result', { mode: 'json' }).$type<MeasurementBody['result']>(),
    note: text('note').notNull(),
    measuredAt: moment('measured_at').notNull(),
    ...deletable,
  },
  (t) => [index('measurements_of_station').on(t.stationId, t.measuredAt)],
)

/** Runs of sheets; the body is as the contract has it. */
export const runs = sqliteTable(
  'runs',
  {
    id: text('id').primaryKey(),
    chainId: text('chain_id')
      .notNull()
      .references(() => chains.id),
    revision: integer('revision').notNull(),
    body: text('body', { mode: 'json' }).$type<RunBody>().notNull(),
    startedAt: moment('started_at').notNull(),
    changedAt: moment('changed_at').notNull(),
  },
  (t) => [index('runs_of_chain').on(t.chainId, t.startedAt)],
)

/** Attempts at drills, kept under a name. */
export const attempts = sqliteTable(
  'attempts',
  {
    id: text('id').primaryKey(),
    stationId: text('station_id')
      .notNull()
      .references(() => stations.id),
    body: text('body', { mode: 'json' }).$type<AttemptBody>().notNull(),
    at: moment('at').notNull(),
  },
  (t) => [index('attempts_of_station').on(t.stationId, t.at)],
)

/** What the station owns. */
export const things = sqliteTable(
  'things',
  {
    id: text('id').primaryKey(),
    stationId: text('station_id')
      .notNull()
      .references(() => stations.id),
    body: text('body', { mode: 'json' }).$type<KeptThing>().notNull(),
    ...deletable,
  },
  (t) => [index('things_of_station').on(t.stationId)],
)

/** Sweeps along a line, looking toward the antenna. */
export const lineSweeps = sqliteTable(
  'line_sweeps',
  {
    id: text('id').primaryKey(),
    chainId: text('chain_id')
      .notNull()
      .references(() => chains.id),
    chainRevision: integer('chain_revision').notNull(),
    before: text('before').notNull(),
    place: text('place').notNull(),
    readAt: moment('read_at').notNull(),
    /** All else that its summary says. */
    body: text('body', { mode: 'json' }).$type<LineSweepKept>().notNull(),
    pointCount: integer('point_count').notNull(),
    /** Three float64 runs of `pointCount`: frequency in Hz, Re ρ, Im ρ; little endian. */
    points: blob('points', { mode: 'buffer' }).notNull(),
    ...deletable,
  },
  (t) => [index('line_sweeps_of_chain').on(t.chainId, t.readAt)],
)

/** What has to be done again and again. */
export const duties = sqliteTable(
  'duties',
  {
    id: text('id').primaryKey(),
    stationId: text('station_id')
      .notNull()
      .references(() => stations.id),
    body: text('body', { mode: 'json' }).$type<DutyBody>().notNull(),
    /** One that ships and was not wanted: it is not offered again. */
    declined: integer('declined', { mode: 'boolean' }).notNull().default(false),
    changedAt: moment('changed_at').notNull(),
    ...deletable,
  },
  (t) => [index('duties_of_station').on(t.stationId)],
)

/** What was said of duties by hand. */
export const dutyMarks = sqliteTable(
  'duty_marks',
  {
    id: text('id').primaryKey(),
    dutyId: text('duty_id')
      .notNull()
      .references(() => duties.id),
    kind: text('kind').$type<DutyMark['kind']>().notNull(),
    /** A day, as 2026-01-14. */
    on: text('on').notNull(),
    reason: text('reason').notNull(),
    at: moment('at').notNull(),
  },
  (t) => [index('marks_of_duty').on(t.dutyId)],
)

/**
 * What is coming in by portions: its rows are marked as deleted by it until all are there. What is left of one whose
 * process is gone is taken out at the next start.
 */
export const arrivals = sqliteTable('arrivals', {
  id: text('id').primaryKey(),
  stationId: text('station_id').notNull(),
  /** Null where all of the station arrives. */
  chainId: text('chain_id'),
  pid: integer('pid').notNull(),
  startedAt: moment('started_at').notNull(),
})
