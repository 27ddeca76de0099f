import { z } from 'zod'
import { bounded, frequencyHz, gearId, limits, price, shortText } from './fields.ts'

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
    outerMm: bounded('Outer diameter', ...limits.outerMm, 'mm').optional(),
    weightKgPer100m: bounded('Weight', ...limits.weightKgPer100m, 'kg per 100 m').optional(),
    minBendMm: bounded('Least bend radius', ...limits.minBendMm, 'mm').optional(),
    /** Per metre, in the station's currency. */
    pricePerM: price.optional(),
  })
  .meta({ id: 'Cable' })
export type CableDocument = z.infer<typeof cableSchema>
