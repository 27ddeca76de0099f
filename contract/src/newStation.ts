import type { z } from 'zod'
import { chainDocumentSchema } from './chain.ts'
import { stationBodySchema } from './station.ts'

/** A station that begins with a chain, both or neither. */
export const newStationSchema = stationBodySchema
  .extend({ chain: chainDocumentSchema.optional() })
  .meta({ id: 'NewStation' })
export type NewStation = z.output<typeof newStationSchema>
