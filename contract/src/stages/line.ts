import { z } from 'zod'
import { cableSchema } from '../cable.ts'
import { bounded, day, limits, textLimits } from '../fields.ts'
import { line } from '../text.ts'
import { stageBase } from './base.ts'
import { type Figure, shapeOf } from './figure.ts'

/** Why a section loses more than a new cable, and since when that is known. */
export const ageingSchema = z
  .object({
    factor: bounded('Ageing factor', ...limits.ageingFactor, ''),
    reason: line('A reason', textLimits.reason).default(''),
    date: z.iso.date({ error: 'The date must be like 2026-03-01.' }).optional(),
  })
  .meta({ id: 'Ageing' })

export const lengthFigure = {
  key: 'lengthM',
  noun: 'Length',
  quantity: 'length',
  within: 'lengthM',
} as const satisfies Figure

export const lineFigures = [
  lengthFigure,
  {
    key: 'temperatureC',
    noun: 'Temperature',
    quantity: 'temperature',
    within: 'cableC',
    optional: true,
    step: 1,
  },
] as const satisfies readonly Figure[]

export const lineStageSchema = z
  .object({
    ...stageBase,
    kind: z.literal('line'),
    ...shapeOf(lineFigures),
    cable: cableSchema,
    ageing: ageingSchema.optional(),
    /** How well its loss is known from a measurement; the chain’s tolerance of cable loss unless given. */
    lossKnown: z
      .object({
        /** Holds nineteen times in twenty. */
        share: bounded('Tolerance of the measured loss', ...limits.cableTolerance, ''),
        on: day,
      })
      .optional(),
  })
  .meta({ id: 'LineStage' })
