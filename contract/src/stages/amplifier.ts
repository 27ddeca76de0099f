import { z } from 'zod'
import { frequencyHz, gearId, powerW } from '../fields.ts'
import { idSchema } from '../ids.ts'
import { list } from '../list.ts'
import { foldbackSchema, modes } from '../source.ts'
import { dialMarks, stageBase } from './base.ts'
import { type Figure, shapeOf } from './figure.ts'

export const amplifierFigures = [
  {
    key: 'fullW',
    noun: 'Full output',
    label: 'Full output, PEP',
    quantity: 'power',
    within: 'powerW',
  },
  { key: 'driveW', noun: 'Drive', label: 'Drive for it', quantity: 'power', within: 'powerW' },
  {
    key: 'gainDb',
    noun: 'Gain',
    label: 'Gain at small drive',
    quantity: 'decibel',
    within: 'gainDb',
  },
] as const satisfies readonly Figure[]

/** When it switches itself off. */
export const tripFigures = [
  {
    key: 'tripSwr',
    noun: 'Trip SWR',
    label: 'Trips above SWR',
    quantity: 'swr',
    within: 'swr',
    optional: true,
  },
  {
    key: 'tripReflectedW',
    noun: 'Trip power',
    label: 'or reflected power',
    quantity: 'power',
    within: 'powerW',
    optional: true,
  },
] as const satisfies readonly Figure[]

/** What the exciter sees. */
export const inputFigures = [
  {
    key: 'rOhm',
    noun: 'Input resistance',
    quantity: 'impedance',
    within: 'inputOhm',
  },
  { key: 'xOhm', noun: 'Input reactance', quantity: 'impedance', within: 'reactanceOhm' },
] as const satisfies readonly Figure[]

export const amplifierStageSchema = z
  .object({
    ...stageBase,
    kind: z.literal('amplifier'),
    gearId: gearId.optional(),
    ...shapeOf(amplifierFigures),
    /** Most output, W PEP, in modes it must not run fully in. */
    ceilings: z.partialRecord(z.enum(modes), powerW).optional(),
    behaviour: z.enum(['levelled', 'peaked']),
    foldback: foldbackSchema,
    ...shapeOf(tripFigures),
    /** Marks on its tune and load controls that were written down, by channel. */
    dials: z.record(idSchema, dialMarks).optional(),
    inputOhm: z.object(shapeOf(inputFigures)),
    inputBands: list(
      z.object({ lowHz: frequencyHz, highHz: frequencyHz, ...shapeOf(inputFigures) }),
      20,
      'bands of an amplifier',
    ).optional(),
  })
  .refine((a) => a.driveW * 10 ** (a.gainDb / 10) >= a.fullW * 0.999, {
    path: ['gainDb'],
    message: 'With this gain the drive does not give full output: raise the gain or the drive.',
  })
  .meta({ id: 'AmplifierStage' })
export type AmplifierDocument = z.infer<typeof amplifierStageSchema>
