/** The record: instruments, rounds of readings, bench sheets that were kept, and what happened when. */
import { z } from 'zod'
import {
  bounded,
  frequencyHz,
  limits,
  note,
  powerW,
  shortText,
  swr,
  textLimits,
  timestamp,
  day,
} from './fields.ts'
import { idSchema } from './ids.ts'
import { list } from './list.ts'
import { whyNotPlain } from './plainValue.ts'
import { modes } from './source.ts'
import { line } from './text.ts'

export const instrumentTypes = [
  'through-line',
  'power meter',
  'analyser',
  'probe',
  'dummy load',
] as const

/** A full scale: something more than nothing. */
const rangeW = bounded('Range', ...limits.rangeW, 'W')
/** What a meter shows may be nothing at all. */
const shownW = (noun: string) => bounded(noun, ...limits.shownW, 'W')

const calibratedW = bounded('A power', ...limits.rangeW, 'W')

export const instrumentSchema = z
  .object({
    name: shortText('Instrument name'),
    type: z.enum(instrumentTypes),
    /** Whether it holds the peak or shows the mean. */
    kind: z.enum(['averaging', 'peak']),
    /** Full scales, W, rising; empty where it finds its own. */
    rangesW: list(rangeW, 16, 'ranges of an instrument').refine(
      (ranges) => ranges.every((r, i) => i === 0 || r > ranges[i - 1]!),
      {
        message: 'Ranges must rise.',
      },
    ),
    /** Largest error, as a share. */
    accuracy: bounded('Accuracy', ...limits.accuracy, ''),
    accuracyOf: z.enum(['full scale', 'reading']).optional(),
    /** Marks of a needle from 0 to full scale; half a mark is added to its error. */
    divisions: bounded('Divisions', ...limits.divisions, '')
      .int('Divisions must be a whole number.')
      .optional(),
    directivityDb: bounded('Directivity', ...limits.directivityDb, 'dB').optional(),
    /** When it was last compared with something better. */
    checkedOn: day.optional(),
    /** How it compares with a better one: its readings are corrected by it from then on. */
    calibration: z
      .object({
        on: day,
        /** What it showed and what was true, W; rising. */
        points: list(z.tuple([calibratedW, calibratedW]), 30, 'points of a calibration')
          .refine((points) => points.length > 0, 'A calibration needs at least one point.')
          .refine((points) => points.every((p, i) => i === 0 || p[0] > points[i - 1]![0]), {
            message: 'The readings of a calibration must rise.',
          }),
        /** How far a corrected reading may be off, as a share. */
        doubt: bounded('Uncertainty', ...limits.accuracy, ''),
      })
      .optional(),
    /** What a dummy load withstands: for ever, and for a while. */
    load: z
      .object({
        continuousW: powerW,
        burst: z.object({
          watts: powerW,
          minutes: bounded('Minutes', ...limits.loadMinutes, 'min'),
        }),
      })
      .refine(({ continuousW, burst }) => burst.watts >= continuousW, {
        path: ['burst', 'watts'],
        message: 'What it withstands for a while must be at least what it withstands for ever.',
      })
      .optional(),
    note: note.optional(),
  })
  .meta({ id: 'Instrument' })
export type InstrumentDocument = z.infer<typeof instrumentSchema>

/** Where on the spine: in front of a stage, or at the antenna. */
export const placeKey = z.union([z.literal('load'), idSchema])

const readingFields = {
  channelId: idSchema.optional(),
  frequencyHz,
  mode: z.enum(modes),
  meanToPeak: bounded('Mean over peak', ...limits.meanToPeak, '').optional(),
  /** Set power, PEP. */
  powerW,
  before: placeKey,
  /** At least forward power or an SWR. */
  forwardW: shownW('Forward power').optional(),
  reflectedW: shownW('Reflected power').optional(),
  swr: swr.optional(),
  rangeW: rangeW.optional(),
  instrumentId: idSchema.optional(),
  supplyV: bounded('Supply voltage', ...limits.supplyV, 'V').optional(),
  weather: line('Weather', textLimits.weather).optional(),
  by: line('A name', textLimits.by).optional(),
  note: note.optional(),
  readAt: timestamp.optional(),
  /** The round it belongs to; without one it joins the chain's open round, or begins one. */
  roundId: idSchema.optional(),
}

/** A reading joins the measurement session of its chain whose last reading is no further away than this. */
export const SESSION_GAP_MS = 3 * 3600 * 1000

/** A clock may be ahead of another, and a day begins earlier elsewhere, ms. */
const AHEAD_MS = 26 * 3600 * 1000

/** The latest moment that a reading can have been taken at. */
export const latestMoment = (now: number): string => new Date(now + AHEAD_MS).toISOString()

/** Clocks that nobody has set begin in 1970; no reading here is older. */
const EARLIEST = '1971'

/** What to ask about a reading whose date cannot be; null where it can. */
export const whyNotThen = (readAt: string, now: number): string | null =>
  Date.parse(readAt) > now + AHEAD_MS
    ? `${readAt.slice(0, 10)} lies in the future. Check the year, and the order of day and month.`
    : readAt < EARLIEST
      ? `${readAt.slice(0, 10)} is before ${EARLIEST}: that is a clock which nobody has set. Check the date.`
      : null

export const readingBodySchema = z
  .object(readingFields)
  .refine(({ forwardW, swr: seen }) => forwardW !== undefined || seen !== undefined, {
    path: ['forwardW'],
    message: 'Give the forward power, or an SWR.',
  })
  .refine(
    ({ forwardW, reflectedW }) =>
      reflectedW === undefined || (forwardW !== undefined && reflectedW < Math.max(forwardW, 1e-9)),
    {
      path: ['reflectedW'],
      message:
        'As much comes back as goes out, or more. Is the meter turned round, or were the two read on different ranges?',
    },
  )
  .meta({ id: 'ReadingBody' })
export type ReadingBody = z.infer<typeof readingBodySchema>

/** Readings of a chain that go into the bin together: an import that is taken back. */
export const readingIdsSchema = z
  .object({ ids: list(idSchema, 20_000, 'readings') })
  .meta({ id: 'ReadingIds' })

/** What was expected when it was read: 5 to 95 % of what its instrument would show, and the SWR. */
const expectedSchema = z.object({
  expectedW: z.number().nullable(),
  lowW: z.number().nullable(),
  highW: z.number().nullable(),
  expectedSwr: z.number().nullable(),
  lowSwr: z.number().nullable(),
  highSwr: z.number().nullable(),
})

export const readingSchema = z
  .object({
    id: idSchema,
    roundId: idSchema,
    chainId: idSchema,
    channelId: z.string().nullable(),
    frequencyHz: z.number(),
    mode: z.enum(modes),
    meanToPeak: z.number().nullable(),
    powerW: z.number(),
    before: z.string(),
    /** What the place was called when it was read. */
    place: z.string(),
    forwardW: z.number().nullable(),
    reflectedW: z.number().nullable(),
    /** What a calibrated instrument showed, where forward and reflected power are corrected. */
    shownForwardW: z.number().nullable().default(null),
    shownReflectedW: z.number().nullable().default(null),
    swr: z.number().nullable(),
    rangeW: z.number().nullable(),
    instrumentId: z.string().nullable(),
    instrument: z.string(),
    supplyV: z.number().nullable(),
    weather: z.string(),
    by: z.string(),
    note: z.string(),
    readAt: timestamp,
    /** False where the power, or the SWR, is outside of what was expected. */
    inside: z.boolean(),
  })
  .extend(expectedSchema.shape)
  .meta({ id: 'Reading' })
export type Reading = z.infer<typeof readingSchema>

/** A reading as it is kept, held to the bounds of one that is entered. */
export const keptReadingSchema = readingSchema.extend({
  channelId: idSchema.nullable(),
  frequencyHz,
  meanToPeak: bounded('Mean over peak', ...limits.meanToPeak, '').nullable(),
  powerW,
  before: placeKey,
  place: line('Place', textLimits.name),
  forwardW: shownW('Forward power').nullable(),
  reflectedW: shownW('Reflected power').nullable(),
  shownForwardW: shownW('Forward power shown').nullable().default(null),
  shownReflectedW: shownW('Reflected power shown').nullable().default(null),
  swr: swr.nullable(),
  rangeW: rangeW.nullable(),
  instrumentId: idSchema.nullable(),
  instrument: line('Instrument name', textLimits.name),
  supplyV: bounded('Supply voltage', ...limits.supplyV, 'V').nullable(),
  weather: line('Weather', textLimits.weather),
  by: line('A name', textLimits.by),
  note,
})
export type KeptReading = z.infer<typeof keptReadingSchema>

/**
 * A reading on its way in. One that was in a log before comes with what was kept of it then: nothing of it is computed
 * anew, and nothing corrected twice.
 */
export const importedReadingSchema = readingBodySchema
  .safeExtend({
    kept: keptReadingSchema
      .pick({
        place: true,
        instrument: true,
        shownForwardW: true,
        shownReflectedW: true,
        inside: true,
        ...(Object.fromEntries(Object.keys(expectedSchema.shape).map((key) => [key, true])) as {
          [K in keyof typeof expectedSchema.shape]: true
        }),
      })
      .optional(),
  })
  .meta({ id: 'ImportedReading' })
export type ImportedReading = z.infer<typeof importedReadingSchema>

export const readingsBodySchema = z
  .object({
    readings: list(importedReadingSchema, 20_000, 'readings').refine(
      (readings) => readings.length > 0,
      'There is no reading in it.',
    ),
  })
  .meta({ id: 'ReadingsBody' })

/** Which of the readings that were sent are in the log already, by their place in what was sent. */
export const alreadyHereSchema = z.object({ already: z.array(z.int()) }).meta({ id: 'AlreadyHere' })

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
    expectedW: z.number().nullable(),
    lowW: z.number().nullable(),
    highW: z.number().nullable(),
    expectedSwr: z.number().nullable(),
    lowSwr: z.number().nullable(),
    highSwr: z.number().nullable(),
  })
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
