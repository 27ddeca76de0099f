/** What might be changed in a chain: kept with it, and followed when it changes. */
import { z } from 'zod'
import { cableSchema } from './cable.ts'
import { bounded, lengthM, limits, powerW, shortText } from './fields.ts'
import { idSchema } from './ids.ts'
import { list } from './list.ts'
import { loadSchema } from './load.ts'
import { stageSchema } from './stage.ts'

/** As many alternatives as one table can hold. */
export const MOST_ALTERNATIVES = 8

/** The stage that something is put behind; null for the transmitter itself. */
const behind = idSchema.nullable()

export const changeSchema = z
  .discriminatedUnion('kind', [
    z.object({ kind: z.literal('cable'), stageId: idSchema, cable: cableSchema }),
    z.object({ kind: z.literal('length'), stageId: idSchema, lengthM }),
    /** Another part in its place, or the same with other figures. */
    z.object({ kind: z.literal('replace'), stageId: idSchema, stage: stageSchema }),
    z.object({ kind: z.literal('insert'), stage: stageSchema, behind }),
    z.object({ kind: z.literal('move'), stageId: idSchema, behind }),
    z.object({ kind: z.literal('remove'), stageId: idSchema }),
    /** Set power, on every channel. */
    z.object({ kind: z.literal('power'), powerW }),
    z.object({ kind: z.literal('antenna'), load: loadSchema }),
  ])
  .meta({ id: 'Change' })
export type Change = z.infer<typeof changeSchema>

export const alternativeSchema = z
  .object({
    id: idSchema,
    name: shortText('Alternative'),
    changes: list(changeSchema, 20, 'changes of an alternative'),
    /** What it costs besides cable and connectors, in the station's currency; unknown unless given. */
    otherPrice: bounded('Price', ...limits.price, '').optional(),
  })
  .meta({ id: 'Alternative' })
export type Alternative = z.infer<typeof alternativeSchema>
