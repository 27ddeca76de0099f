import { z } from 'zod'
import { frequencyHz, gearId, lossDb } from '../fields.ts'
import { list } from '../list.ts'
import { stageBase } from './base.ts'
import { type Figure, shapeOf } from './figure.ts'

/** What a matched two-port is: it decides the drawing and the words, not the sums. */
export const padParts = [
  'connector',
  'switch',
  'arrester',
  'meter',
  'filter',
  'choke',
  'attenuator',
] as const
export type PadPart = (typeof padParts)[number]

export const padFigures = [
  {
    key: 'lossDb',
    noun: 'Loss',
    label: 'Insertion loss',
    quantity: 'decibel',
    within: 'lossDb',
  },
  {
    // Where the loss was stated; it then grows as √f.
    key: 'atHz',
    noun: 'Frequency',
    label: 'Loss stated at',
    quantity: 'frequency',
    within: 'frequencyHz',
    optional: true,
  },
] as const satisfies readonly Figure[]

export const padStageSchema = z
  .object({
    ...stageBase,
    kind: z.literal('pad'),
    part: z.enum(padParts),
    ...shapeOf(padFigures),
    /** Loss over frequency, [Hz, dB]; where it is given, it counts instead. */
    points: list(z.tuple([frequencyHz, lossDb]), 100, 'points of loss of a part')
      .refine((points) => points.length > 0, 'A part needs at least one point of loss.')
      .refine((points) => points.every((p, i) => i === 0 || p[0] > points[i - 1]![0]), {
        message: 'The frequencies of the points must rise.',
      })
      .optional(),
    /** Of a filter: what it lets through, Hz; it blocks the rest. */
    passes: z
      .tuple([frequencyHz, frequencyHz])
      .refine(([low, high]) => high > low, 'What a filter lets through ends before it begins.')
      .optional(),
    /** The class of part it was taken from. */
    gearId: gearId.optional(),
  })
  .meta({ id: 'PadStage' })
