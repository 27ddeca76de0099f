import { z } from 'zod'
import { bounded, frequencyHz, gearId, limits, shortText } from './fields.ts'

/** The electrical class of a coaxial cable, as a chain keeps it; see docs/how-it-computes.md. */
export const cableSchema = z
  .object({
    name: shortText('Cable'),
    /** The catalogue class or own cable it was taken from. */
    gearId: gearId.optional(),
    z0Ohm: bounded('Impedance', ...limits.z0Ohm, 'Ω'),
    velocityFactor: bounded('Velocity factor', ...limits.velocityFactor, ''),
    k1DbPer100m: bounded('Conductor loss at 1 MHz', ...limits.attenuationAt1MHz, 'dB per 100 m'),
    k2DbPer100m: bounded('Dielectric loss at 1 MHz', ...limits.dielectricAt1MHz, 'dB per 100 m'),
    maxHz: frequencyHz.optional(),
  })
  .meta({ id: 'Cable' })
export type CableDocument = z.infer<typeof cableSchema>
