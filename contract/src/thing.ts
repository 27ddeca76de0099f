/** What a station owns: one cable is one thing, however many chains pass through it. */
import { z } from 'zod'
import { day, note, price } from './fields.ts'
import { idSchema } from './ids.ts'
import { type StageDocument, stageSchema } from './stage.ts'
import { line } from './text.ts'

export const thingStates = ['in use', 'spare', 'broken', 'lent', 'gone'] as const
export type ThingState = (typeof thingStates)[number]

export const thingBodySchema = z
  .object({
    /** What is written on it, as “L7”. */
    mark: line('A mark', 12).min(1, 'Give it a mark, such as L7.'),
    /** Its name and figures, as a stage of a chain has them. */
    stage: stageSchema,
    /** Where it is. */
    where: line('A place', 80).default(''),
    state: z.enum(thingStates).default('in use'),
    serial: line('A serial number', 60).default(''),
    boughtOn: day.optional(),
    /** In the station’s currency. */
    price: price.optional(),
    note: note.default(''),
  })
  .meta({ id: 'ThingBody' })
export type ThingBody = z.output<typeof thingBodySchema>

/** A stage of a chain. */
export const placeOfThingSchema = z.object({ chainId: idSchema, stageId: idSchema })
export type PlaceOfThing = z.infer<typeof placeOfThingSchema>

export const newThingSchema = thingBodySchema
  .extend({
    /** The stages that are it; they take its figures. */
    places: z.array(placeOfThingSchema).max(500).default([]),
  })
  .meta({ id: 'NewThing' })

export const thingSchema = thingBodySchema
  .extend({
    id: idSchema,
    places: z.array(
      placeOfThingSchema.extend({
        chain: z.string(),
        /** False where the stage was edited since. */
        same: z.boolean(),
      }),
    ),
  })
  .meta({ id: 'Thing' })
export type Thing = z.output<typeof thingSchema>

/** Equal stages of several chains, which may be one thing. */
export const offeredThingSchema = z
  .object({
    mark: z.string(),
    stage: stageSchema,
    places: z.array(placeOfThingSchema.extend({ chain: z.string() })),
  })
  .meta({ id: 'OfferedThing' })
export type OfferedThing = z.output<typeof offeredThingSchema>

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
