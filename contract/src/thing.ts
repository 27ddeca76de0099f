/** What a station owns: one cable is one thing, however many chains pass through it. */
import { z } from 'zod'
import { day, note, price, timestamp } from './fields.ts'
import { idSchema } from './ids.ts'
import { lineSweepSummarySchema } from './lineSweep.ts'
import { list } from './list.ts'
import { measurementSchema } from './log.ts'
import { type StageDocument, stageSchema } from './stage.ts'
import { line } from './text.ts'

export const thingStates = ['in use', 'spare', 'broken', 'lent', 'gone'] as const
export type ThingState = (typeof thingStates)[number]

/** What a thing is that stands in no row of stages. */
export const thingOfSchema = z
  .object({ kind: z.enum(['gear', 'antenna']), id: idSchema })
  .meta({ id: 'ThingOf' })
export type ThingOf = z.infer<typeof thingOfSchema>

export const thingBodySchema = z
  .object({
    /** What is written on it, as “L7”. */
    mark: line('A mark', 12).min(1, 'Give it a mark, such as L7.'),
    /** Its name and figures, as a stage of a chain has them. */
    stage: stageSchema.optional(),
    /** The entry of Gear (a radio, an instrument) or the antenna that it is; its name and figures are kept there. */
    of: thingOfSchema.optional(),
    /** Where it is. */
    where: line('A place', 80).default(''),
    state: z.enum(thingStates).default('in use'),
    /** The chain that it was taken to: in the others it is gone. */
    movedTo: idSchema.nullable().default(null),
    serial: line('A serial number', 60).default(''),
    boughtOn: day.optional(),
    /** In the station’s currency. */
    price: price.optional(),
    note: note.default(''),
  })
  .refine(({ stage, of }) => (stage === undefined) !== (of === undefined), {
    path: ['stage'],
    message: 'Say what it is: a stage with its figures, or an entry of Gear or an antenna.',
  })
  .meta({ id: 'ThingBody' })
export type ThingBody = z.output<typeof thingBodySchema>

export const thingNoteKinds = ['repair', 'calibration', 'other'] as const

/** What happened to a thing. */
export const thingNoteBodySchema = z
  .object({
    on: day,
    kind: z.enum(thingNoteKinds).default('repair'),
    text: line('A note', 200).min(1, 'Say what was done.'),
  })
  .meta({ id: 'ThingNoteBody' })
export type ThingNoteBody = z.output<typeof thingNoteBodySchema>

export const thingNoteSchema = thingNoteBodySchema.extend({ id: idSchema })
export type ThingNote = z.output<typeof thingNoteSchema>

const notes = list(thingNoteSchema, 500, 'notes of a thing').default([])

/** A stage of a chain; `transmitter` and `load` are its ends. */
export const placeOfThingSchema = z.object({ chainId: idSchema, stageId: idSchema })
export type PlaceOfThing = z.infer<typeof placeOfThingSchema>

export const newThingSchema = thingBodySchema
  .safeExtend({
    /** The stages that are it; they take its figures. */
    places: z.array(placeOfThingSchema).max(500).default([]),
  })
  .meta({ id: 'NewThing' })

export const thingPlaceSchema = placeOfThingSchema.extend({
  /** It is in that chain alone now. */
  moved: z.boolean().default(false),
})

export const thingSchema = thingBodySchema
  .safeExtend({
    id: idSchema,
    /** Of the stage, the entry of Gear or the antenna. */
    name: z.string(),
    places: z.array(
      placeOfThingSchema.extend({
        chain: z.string(),
        /** False where the stage was edited since. */
        same: z.boolean(),
        /** True where it was moved to another chain. */
        gone: z.boolean(),
      }),
    ),
    /** Newest first. */
    notes,
  })
  .meta({ id: 'Thing' })
export type Thing = z.output<typeof thingSchema>

/** A thing that is a stage wherever it stands. */
export type PartThing = Thing & { stage: StageDocument }
export const isPart = (thing: Thing): thing is PartThing => thing.stage !== undefined

/** A stretch of time in a chain. */
const staySchema = placeOfThingSchema.extend({
  chain: z.string().max(120),
  from: timestamp,
  /** Null where it still is. */
  to: timestamp.nullable(),
})

/** As it is kept; older ones say nothing of where it was moved, and have no notes. */
export type KeptThing = Omit<ThingBody, 'movedTo'> & {
  movedTo?: string | null
  notes?: ThingNote[]
  /** Where it was before it came here in a station file. */
  earlier?: z.infer<typeof staySchema>[]
}

export const thingInFileSchema = thingBodySchema.safeExtend({
  id: idSchema,
  notes,
  /** Where it was once; where it still is, the chains of the file say. */
  earlier: list(staySchema, 2000, 'places of a thing').default([]),
})

/** Equal stages of several chains, which may be one thing. */
export const offeredThingSchema = z
  .object({
    mark: z.string(),
    stage: stageSchema,
    places: z.array(placeOfThingSchema.extend({ chain: z.string() })),
  })
  .meta({ id: 'OfferedThing' })
export type OfferedThing = z.output<typeof offeredThingSchema>

/** Entries of Gear and antennas that are no thing of the register yet. */
export const unmarkedThingSchema = z
  .object({ mark: z.string(), name: z.string(), of: thingOfSchema })
  .meta({ id: 'UnmarkedThing' })
export type UnmarkedThing = z.infer<typeof unmarkedThingSchema>

/** The loss of a section that a thing is in, as readings of a chain gave it. */
export const thingLossSchema = z.object({
  chainId: idSchema,
  chain: z.string(),
  channelId: z.string(),
  /** Null where the channel is no longer there. */
  frequencyHz: z.number().nullable(),
  /** Names of what else is between the two places; none where it is the thing alone. */
  with: z.array(z.string()),
  /** Means by the week, oldest first; ms since 1970 and dB. */
  points: z.array(
    z.object({
      at: z.number(),
      lossDb: z.number(),
      expectedDb: z.number().nullable(),
      lowDb: z.number().nullable(),
      highDb: z.number().nullable(),
    }),
  ),
  /** dB a year with its 90 %; null where there is too little. */
  drift: z.object({ slope: z.number(), low: z.number(), high: z.number() }).nullable(),
})
export type ThingLoss = z.infer<typeof thingLossSchema>

/** What an analyser saw of a cable by itself, or of a line that it is in, with its far end open, shorted or loaded. */
export const thingSweepSchema = z.object({
  chain: z.string(),
  /** Names of what else was swept with it. */
  with: z.array(z.string()),
  sweep: lineSweepSummarySchema,
})
export type ThingSweep = z.infer<typeof thingSweepSchema>

/** Where a thing was and what was measured of it, in chains that were deleted too. */
export const thingHistorySchema = z
  .object({
    stays: z.array(staySchema),
    losses: z.array(thingLossSchema),
    /** Newest first. */
    sweeps: z.array(thingSweepSchema),
    /** Bench sheets about it, newest first. */
    measurements: z.array(measurementSchema),
  })
  .meta({ id: 'ThingHistory' })
export type ThingHistory = z.infer<typeof thingHistorySchema>

/** A stage of a chain whose thing loses more than expected where it stands in another one. */
export const suspectSchema = z
  .object({
    stageId: idSchema,
    mark: z.string(),
    /** Where that shows. */
    chain: z.string(),
    at: z.number(),
    /** Over what was expected there, dB. */
    excessDb: z.number(),
  })
  .meta({ id: 'Suspect' })
export type Suspect = z.infer<typeof suspectSchema>

/** What a stage is of itself, wherever it stands: not its place in a chain, nor how its dials are set there. */
export function figuresOf(stage: StageDocument): StageDocument {
  const { bypassed: _, thingId: _of, ...own } = stage
  if (own.kind === 'tuner' || own.kind === 'amplifier') delete own.dials
  return { ...own, id: 'thing' }
}

/** A thing where a stage stood: its figures, and of the stage what belongs to its place. */
export const asStage = (
  thing: StageDocument,
  at: StageDocument,
  thingId: string,
): StageDocument => ({
  ...figuresOf(thing),
  id: at.id,
  thingId,
  ...(at.bypassed !== undefined && { bypassed: at.bypassed }),
  ...('dials' in at && at.dials && at.kind === thing.kind && { dials: at.dials }),
})

/** Whether two stages are the same of themselves. */
export const sameFigures = (a: StageDocument, b: StageDocument): boolean =>
  ordered(figuresOf(a)) === ordered(figuresOf(b))

/** The same text for the same value, in whatever order it was written. */
const ordered = (value: unknown): string =>
  JSON.stringify(value, (_, inner: unknown) =>
    typeof inner === 'object' && inner !== null && !Array.isArray(inner)
      ? Object.fromEntries(Object.entries(inner).sort(([a], [b]) => (a < b ? -1 : 1)))
      : inner,
  )
