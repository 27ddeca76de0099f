/** An attempt at a drill, kept with a station under a name. */
import { z } from 'zod'
import { bounded, timestamp } from './fields.ts'
import { idSchema } from './ids.ts'
import { line } from './text.ts'

/** A fault kind or an exercise: letters and hyphens. */
const drillId = z.string().regex(/^[a-z][a-z0-9-]{0,39}$/, 'A drill is named in small letters.')

export const attemptBodySchema = z
  .object({
    by: line('A name', 40),
    family: z.enum(['find', 'hands-on']),
    drill: drillId,
    /** 1 to 3 of finding a fault; 0 of an exercise. */
    level: z.number().int().min(0).max(3),
    seed: line('A seed', 40),
    points: z.number().int().min(0).max(100),
    right: z.boolean(),
    readings: z.number().int().min(0).max(1000),
    keyDownS: bounded('Key-down time', 0, 86_400, 's'),
    /** When it was made, where it waited to be sent; when it came, unless given. */
    at: timestamp.optional(),
  })
  .meta({ id: 'AttemptBody' })
export type AttemptBody = z.infer<typeof attemptBodySchema>

export const attemptSchema = attemptBodySchema
  .extend({ id: idSchema, at: z.iso.datetime() })
  .meta({ id: 'Attempt' })
export type Attempt = z.infer<typeof attemptSchema>
