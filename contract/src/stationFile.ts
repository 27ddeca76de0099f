/** A station as one file: everything of it that another Salt Line needs. */
import { z } from 'zod'
import { chainDocumentSchema } from './chain.ts'
import { note, shortText } from './fields.ts'
import { idSchema } from './ids.ts'
import { gearBodySchema, phaseKnown, stationBodySchema } from './station.ts'

export const STATION_FILE_VERSION = 1

const numbers = z.array(z.number()).max(200_000)

const sweepFileSchema = z
  .object({
    id: idSchema,
    name: z.string().max(80),
    /** Reflection on 50 Ω at the feed point, at rising frequencies. */
    frequencyHz: numbers.min(1),
    re: numbers,
    im: numbers,
    phaseKnown,
  })
  .refine((s) => s.re.length === s.frequencyHz.length && s.im.length === s.frequencyHz.length, {
    message: 'A sweep needs as many real and imaginary parts as frequencies.',
    path: ['frequencyHz'],
  })
  .refine((s) => s.frequencyHz.every((f, i) => f > (s.frequencyHz[i - 1] ?? 0)), {
    message: 'The frequencies of a sweep must rise.',
    path: ['frequencyHz'],
  })

export const stationFileSchema = z
  .object({
    format: z.literal('saltline-station', {
      error: 'This is not a Salt Line station file: its “format” is not “saltline-station”.',
    }),
    version: z.literal(STATION_FILE_VERSION, {
      error: 'This station file has a version that this Salt Line does not know. Update Salt Line.',
    }),
    station: stationBodySchema,
    gear: z.array(z.intersection(gearBodySchema, z.object({ id: idSchema }))),
    antennas: z.array(
      z.object({
        id: idSchema,
        name: shortText('Antenna name'),
        note,
        sweeps: z.array(sweepFileSchema),
      }),
    ),
    chains: z.array(chainDocumentSchema),
  })
  .superRefine((file, context) => {
    // A chain may only end in a sweep that the file brings with it.
    const swept = new Set(file.antennas.flatMap((a) => a.sweeps.map((s) => `${a.id}/${s.id}`)))
    file.chains.forEach(({ load, name }, i) => {
      if (load.kind === 'antenna' && !swept.has(`${load.antennaId}/${load.sweepId}`)) {
        context.addIssue({
          code: 'custom',
          path: ['chains', i, 'load', 'sweepId'],
          message: `The antenna sweep of “${name}” is not in the file.`,
        })
      }
    })
  })
  .meta({ id: 'StationFile' })
export type StationFile = z.infer<typeof stationFileSchema>
