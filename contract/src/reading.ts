/** Readings of a meter at a place of a chain: as they are typed, kept and imported. */
import { z } from 'zod'
import { bounded, frequencyHz, limits, note, powerW, swr, textLimits, timestamp } from './fields.ts'
import { idSchema } from './ids.ts'
import { rangeW } from './instrument.ts'
import { list } from './list.ts'
import { modes } from './source.ts'
import { line } from './text.ts'

/** Where on the spine: in front of a stage, or at the antenna. */
export const placeKey = z.union([z.literal('load'), idSchema])

/** What stands at the end of a line while something is measured on it. */
export const farEnds = ['antenna', 'open', 'short', 'load'] as const
export type FarEnd = (typeof farEnds)[number]

/** What a meter shows may be nothing at all. */
const shownW = (noun: string) => bounded(noun, ...limits.shownW, 'W')

const readingFields = {
  channelId: idSchema.optional(),
  frequencyHz,
  mode: z.enum(modes),
  meanToPeak: bounded('Mean over peak', ...limits.meanToPeak, '').optional(),
  /** Set power, PEP. */
  powerW,
  before: placeKey,
  /** What was connected in the antenna's place, if not the antenna itself. */
  farEnd: z.enum(farEnds).optional(),
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
export const expectedSchema = z.object({
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
    farEnd: z.enum(farEnds).default('antenna'),
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
