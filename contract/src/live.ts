/** Figures of a meter that talks: shown as they come, kept only when somebody keeps them. */
import { z } from 'zod'
import { bounded, limits, swr, timestamp } from './fields.ts'
import { idSchema } from './ids.ts'

const watts = bounded('Power', ...limits.shownW, 'W')

const liveFields = z.object({
  forwardW: watts,
  reflectedW: watts.optional(),
  /** Where no reflected power is read. */
  swr: swr.optional(),
  supplyV: bounded('Supply voltage', ...limits.supplyV, 'V').optional(),
  /** When it was read, by the meter’s clock; when it came, unless given. */
  at: timestamp.optional(),
  /** An instrument of the station: what it should show then counts with its errors. */
  instrumentId: idSchema.optional(),
})

export const liveBodySchema = liveFields
  .refine(({ forwardW, reflectedW = 0 }) => forwardW < 0 || reflectedW <= forwardW, {
    path: ['reflectedW'],
    message: 'Reflected power is more than forward power: are the two swapped?',
  })
  .meta({ id: 'LiveBody' })
export type LiveBody = z.infer<typeof liveBodySchema>

export const liveFigureSchema = liveFields
  .extend({
    plane: z.number().int(),
    /** When it came here. */
    seenAt: timestamp,
  })
  .meta({ id: 'LiveFigure' })
export type LiveFigure = z.infer<typeof liveFigureSchema>

export const liveMeterSchema = z
  .object({
    latest: liveFigureSchema,
    /** Forward power once a second over the last minutes: [seconds ago, W], the oldest first. */
    trend: z.array(z.tuple([z.number(), z.number()])),
  })
  .meta({ id: 'LiveMeter' })
export type LiveMeter = z.infer<typeof liveMeterSchema>
