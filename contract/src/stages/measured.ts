import { z } from 'zod'
import { bounded, frequencyHz } from '../fields.ts'
import { list } from '../list.ts'
import { stageBase } from './base.ts'

/** More points of S-parameters than a chain can carry; an import leaves out what lines give back. */
export const MEASURED_POINTS = 400

export const measuredStageSchema = z
  .object({
    ...stageBase,
    kind: z.literal('measured'),
    frequencyHz: list(frequencyHz, MEASURED_POINTS, 'points of a measured part').refine(
      (frequencies) => frequencies.length > 0,
      'A measured part needs at least one point.',
    ),
    /** Eight numbers a frequency: real and imaginary part of S11, S21, S12, S22, on 50 Ω. */
    s: list(bounded('An S-parameter', -1.1, 1.1, ''), 8 * MEASURED_POINTS, 'S-parameters'),
    /** True where its port 2 faces the transmitter. */
    turned: z.boolean().optional(),
  })
  .refine((m) => m.s.length === 8 * m.frequencyHz.length, {
    path: ['s'],
    message: 'A measured part needs eight numbers a frequency.',
  })
  .refine((m) => m.frequencyHz.every((f, i) => i === 0 || f > m.frequencyHz[i - 1]!), {
    path: ['frequencyHz'],
    message: 'The frequencies of a measured part must rise.',
  })
  .meta({ id: 'MeasuredStage' })
