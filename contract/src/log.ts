/** The record: rounds of readings, what they come to over the years, bench sheets that were kept, and what happened when. */
import { z } from 'zod'
import { day, frequencyHz, note, shortText, timestamp } from './fields.ts'
import { idSchema } from './ids.ts'
import { whyNotPlain } from './plainValue.ts'
import { expectedSchema, placeKey, readingSchema } from './reading.ts'
import { line } from './text.ts'

export const roundSchema = z
  .object({
    id: idSchema,
    chainId: idSchema,
    startedAt: timestamp,
    lastAt: timestamp,
    note: z.string(),
    readingCount: z.int(),
    outsideCount: z.int(),
  })
  .meta({ id: 'Round' })
export type Round = z.infer<typeof roundSchema>

export const roundWithReadingsSchema = roundSchema
  .extend({ readings: z.array(readingSchema) })
  .meta({ id: 'RoundWithReadings' })

export const roundNoteSchema = z.object({ note }).meta({ id: 'RoundNote' })

/** A row for the years: one place on one channel, the mean of a round. */
export const yearRowSchema = z
  .object({
    roundId: idSchema,
    at: timestamp,
    before: z.string(),
    powerW: z.number(),
    forwardW: z.number().nullable(),
    rho: z.number().nullable(),
  })
  .extend(expectedSchema.shape)
  .meta({ id: 'YearRow' })
export type YearRow = z.infer<typeof yearRowSchema>

/** From when to when a meter was read at a place on one channel. */
export const meterUseSchema = z
  .object({ before: z.string(), instrument: z.string(), from: timestamp, to: timestamp })
  .meta({ id: 'MeterUse' })
export type MeterUse = z.infer<typeof meterUseSchema>

const flag = z
  .enum(['true', 'false'])
  .transform((text) => text === 'true')
  .optional()

const whole = (most: number, otherwise: number) =>
  z.coerce.number().int().min(0).max(most).default(otherwise)

/** Which readings, and which page of them; newest first. */
export const readingsQuerySchema = z.object({
  chain: idSchema.optional(),
  channel: idSchema.optional(),
  before: placeKey.optional(),
  instrument: idSchema.optional(),
  outside: flag,
  from: day.optional(),
  to: day.optional(),
  text: line('The words', 80).optional(),
  offset: whole(10_000_000, 0),
  /** The page that goes on after a reading: the last one’s id of the page before. */
  after: idSchema.optional(),
  limit: whole(500, 100),
})
export type ReadingsQuery = z.input<typeof readingsQuerySchema>

export const readingsPageSchema = z
  .object({
    total: z.int(),
    /** True where words were found in more readings than `total` says. */
    more: z.boolean(),
    /** Null for a page that was asked for by `after`. */
    offset: z.int().nullable(),
    readings: z.array(readingSchema),
    /** What to give as `after` for the next page; null on the last one. */
    next: idSchema.nullable(),
  })
  .meta({ id: 'ReadingsPage' })

/** Something that happened to a chain: a storm, a new connector. */
export const eventBodySchema = z
  .object({ chainId: idSchema, on: day, text: shortText('What happened') })
  .meta({ id: 'EventBody' })
export type EventBody = z.infer<typeof eventBodySchema>
export const eventSchema = eventBodySchema.extend({ id: idSchema }).meta({ id: 'Event' })
export type StationEvent = z.infer<typeof eventSchema>

/** In the order of the bench. */
export const worksheetKinds = [
  'substitution',
  'leads',
  'both-ends',
  'one-port',
  'velocity-factor',
  'through-line',
  'range-choice',
  'two-meters',
  'calibration',
  'probe',
  'am-depth',
  'dummy-load',
  'converter',
] as const
export type WorksheetKind = (typeof worksheetKinds)[number]

/** A bench sheet as it was kept: what was typed, and what came out. */
export const measurementBodySchema = z
  .object({
    kind: z.enum(worksheetKinds),
    title: shortText('Title'),
    /** What was measured, where it is a piece of a chain. */
    chainId: idSchema.optional(),
    stageId: idSchema.optional(),
    /** As the worksheet's own fields. */
    inputs: z
      .record(line('The name of a field', 40), z.unknown())
      .superRefine((inputs, context) => {
        const why = whyNotPlain(inputs)
        if (why) context.addIssue(why)
      }),
    /** The leading figure with its 5 to 95 %. */
    result: z
      .object({
        what: line('The figure', 60),
        unit: line('The unit', 12),
        value: z.number(),
        low: z.number(),
        high: z.number(),
        /** Where the figure holds. */
        frequencyHz: frequencyHz.optional(),
      })
      .nullable(),
    note: note.default(''),
  })
  .meta({ id: 'MeasurementBody' })
export type MeasurementBody = z.input<typeof measurementBodySchema>

export const measurementSchema = measurementBodySchema
  .extend({ id: idSchema, measuredAt: timestamp, note: z.string() })
  .meta({ id: 'Measurement' })
export type Measurement = z.infer<typeof measurementSchema>

/** What the record says that its station should look at. */
export const alertSchema = z
  .object({
    chainId: idSchema,
    chain: z.string(),
    kind: z.enum(['loss', 'power', 'swr', 'outside']),
    /** “Mast run”, “power at the radio”, “SWR at the antenna”. */
    what: z.string(),
    /** In one sentence, with its figure. */
    text: z.string(),
    /** dB, or SWR for `swr`. */
    change: z.number(),
    since: timestamp.nullable(),
    /** Where the lens over the years shows it. */
    channelId: z.string().nullable(),
  })
  .meta({ id: 'Alert' })
export type Alert = z.infer<typeof alertSchema>
