/** Transmitters and modes. */
import { z } from 'zod'
import {
  bounded,
  frequencyHz,
  gearId,
  limits,
  lossDb,
  powerW,
  shortText,
  swr,
  textLimits,
} from './fields.ts'
import { list } from './list.ts'
import { line } from './text.ts'

/** [SWR, fraction of the set power] points, rising in SWR. */
export const foldbackSchema = list(
  z.tuple([
    bounded('SWR', ...limits.swr, ''),
    bounded('Foldback fraction', ...limits.fraction, ''),
  ]),
  40,
  'points of foldback',
).refine((points) => points.every((p, i) => i === 0 || p[0] > points[i - 1]![0]), {
  message: 'The SWR of each foldback point must be higher than the one before.',
})

export const transmitterSchema = z
  .object({
    name: shortText('Transmitter name'),
    gearId: gearId.optional(),
    ratedW: powerW,
    behaviour: z.enum(['levelled', 'peaked']),
    /** What it is rated for on bands where that is another figure. */
    bands: list(
      z
        .object({ lowHz: frequencyHz, highHz: frequencyHz, ratedW: powerW })
        .refine((b) => b.lowHz < b.highHz, {
          path: ['highHz'],
          message: 'A band must end above where it begins.',
        }),
      20,
      'bands of a transmitter',
    ).optional(),
    /** A power-saving setting: while it is on, no channel gets more. */
    reduced: z.object({ on: z.boolean(), powerW }).optional(),
    /** The tuner it has inside: how bad an SWR it matches, and what it takes. */
    builtInTuner: z.object({ reachSwr: swr, lossDb }).optional(),
    /** What to know about its supply: a tired battery gives less. */
    supply: line('A supply note', textLimits.supply).optional(),
    foldback: foldbackSchema,
  })
  .meta({ id: 'Transmitter' })
export type TransmitterDocument = z.infer<typeof transmitterSchema>

export const modes = [
  'voice-plain',
  'voice-processed',
  'CW',
  'AM',
  'FM',
  'data',
  'key-down',
  'own',
] as const
export type Mode = (typeof modes)[number]
