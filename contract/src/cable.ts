import { z } from 'zod'
import { bounded, frequencyHz, gearId, limits, price, shortText } from './fields.ts'
import { type Figure, shapeOf } from './stages/figure.ts'

/** What a cable does to a wave. Loss per 100 m is k₁·√f + k₂·f with f in MHz. */
export const cableFigures = [
  { key: 'z0Ohm', noun: 'Impedance', quantity: 'impedance', within: 'z0Ohm' },
  {
    key: 'velocityFactor',
    noun: 'Velocity factor',
    quantity: 'plain',
    within: 'velocityFactor',
    step: 0.01,
  },
  {
    key: 'k1DbPer100m',
    noun: 'Conductor loss at 1 MHz',
    label: 'k₁, conductor',
    quantity: 'decibel',
    within: 'attenuationAt1MHz',
    step: 0.01,
  },
  {
    key: 'k2DbPer100m',
    noun: 'Dielectric loss at 1 MHz',
    label: 'k₂, dielectric',
    quantity: 'decibel',
    within: 'dielectricAt1MHz',
    step: 0.0005,
  },
] as const satisfies readonly Figure[]

/** The electrical class of a coaxial cable, as a chain keeps it; see docs/how-it-computes.md. */
export const cableSchema = z
  .object({
    name: shortText('Cable'),
    /** The catalogue class or own cable it was taken from. */
    gearId: gearId.optional(),
    ...shapeOf(cableFigures),
    maxHz: frequencyHz.optional(),
    outerMm: bounded('Outer diameter', ...limits.outerMm, 'mm').optional(),
    weightKgPer100m: bounded('Weight', ...limits.weightKgPer100m, 'kg per 100 m').optional(),
    minBendMm: bounded('Least bend radius', ...limits.minBendMm, 'mm').optional(),
    /** Per metre, in the station's currency. */
    pricePerM: price.optional(),
  })
  .meta({ id: 'Cable' })
export type CableDocument = z.infer<typeof cableSchema>
