/** Who reads where: told by each window, remembered only while it listens. */
import { z } from 'zod'
import { textLimits } from './fields.ts'
import { idSchema } from './ids.ts'
import { line } from './text.ts'

export const presenceSchema = z
  .object({
    window: idSchema,
    /** The name of who sits there; may be empty. */
    by: line('A name', textLimits.by),
    channelId: idSchema,
    /** The place, in front of a stage or at the load. */
    before: z.union([z.literal('load'), idSchema]),
  })
  .meta({ id: 'Presence' })
export type Presence = z.infer<typeof presenceSchema>

export const presenceBodySchema = presenceSchema
  .omit({ window: true })
  .nullable()
  .describe('Where this window reads; null where it has stopped')
export type PresenceBody = z.infer<typeof presenceBodySchema>
