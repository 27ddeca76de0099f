/** The antenna, or whatever else the chain ends in. */
import { z } from 'zod'
import {
  bounded,
  frequencyHz,
  limits,
  reactanceOhm,
  resistanceOhm,
  shortText,
  swr,
} from './fields.ts'
import { idSchema } from './ids.ts'
import { list } from './list.ts'

const fixedLoadSchema = z.object({
  kind: z.literal('fixed'),
  name: shortText('Antenna name'),
  rOhm: resistanceOhm,
  xOhm: reactanceOhm,
})
/** An SWR as it was read in front of the antenna: what stands beside it is what it comes to at the feed point. */
const swrReadSchema = z.object({
  swr,
  /** The stage it was read in front of; none for the radio itself. */
  before: idSchema.optional(),
})
const ofReflection = bounded('Of a reflection', -2, 2, '')
/** What a reading that was taken elsewhere leaves open of the reflection at the feed point: any on this circle shows that SWR there. */
const reflectionCircleSchema = z.object({
  re: ofReflection,
  im: ofReflection,
  radius: bounded('Radius of the circle of reflections', 0, 2, ''),
})
const swrLoadSchema = z.object({
  kind: z.literal('swr'),
  name: shortText('Antenna name'),
  swr,
  read: swrReadSchema.extend({ frequencyHz }).optional(),
  circle: reflectionCircleSchema.extend({ frequencyHz }).optional(),
})
const antennaLoadSchema = z.object({
  kind: z.literal('antenna'),
  name: shortText('Antenna name'),
  antennaId: idSchema,
  /** The sweep is named too, so that an old revision solves as it did then. */
  sweepId: idSchema,
})
const resonatorLoadSchema = z.object({
  kind: z.literal('resonator'),
  name: shortText('Antenna name'),
  resonanceHz: frequencyHz,
  rOhm: bounded('Resistance at resonance', ...limits.resonanceOhm, 'Ω'),
  q: bounded('Q', ...limits.resonanceQ, ''),
})
const resistorsLoadSchema = z.object({
  kind: z.literal('resistors'),
  name: shortText('Load name'),
  ohmEach: bounded('Resistance of one resistor', ...limits.resistorOhm, 'Ω'),
  count: bounded('Number of resistors', ...limits.resistorCount, '').int(
    'The number of resistors must be whole.',
  ),
  strayInductanceH: bounded('Stray inductance', ...limits.strayInductanceH, 'H'),
  strayCapacitanceF: bounded('Stray capacitance', ...limits.strayCapacitanceF, 'F'),
})
const bandsLoadSchema = z.object({
  kind: z.literal('bands'),
  name: shortText('Antenna name'),
  /** Readings of its SWR, band by band; empty where none has been entered yet. */
  bands: list(
    z.object({
      readings: list(
        z.object({
          frequencyHz,
          swr,
          read: swrReadSchema.optional(),
          circle: reflectionCircleSchema.optional(),
        }),
        60,
        'readings of a band',
      ).refine((readings) => readings.length > 0, 'A band needs at least one reading.'),
      /** Where a single reading holds. */
      lowHz: frequencyHz.optional(),
      highHz: frequencyHz.optional(),
    }),
    30,
    'bands of an antenna',
  ),
})
export const loadSchema = z
  .discriminatedUnion('kind', [
    fixedLoadSchema,
    swrLoadSchema,
    antennaLoadSchema,
    resonatorLoadSchema,
    resistorsLoadSchema,
    bandsLoadSchema,
  ])
  .meta({ id: 'Load' })
export type LoadDocument = z.infer<typeof loadSchema>
export type ReflectionCircle = z.infer<typeof reflectionCircleSchema>
export type SwrRead = z.infer<typeof swrReadSchema>
