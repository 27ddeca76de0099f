import { z } from 'zod'
import { stageBase } from './base.ts'
import { type Figure, shapeOf } from './figure.ts'

export const transformerFigures = [
  {
    // Impedance on the antenna’s side over that on the transmitter’s.
    key: 'ratio',
    noun: 'Impedance ratio',
    quantity: 'plain',
    within: 'transformerRatio',
    step: 1,
  },
  {
    key: 'lossDb',
    noun: 'Loss',
    label: 'Insertion loss',
    quantity: 'decibel',
    within: 'lossDb',
  },
] as const satisfies readonly Figure[]

/** All on the transmitter’s side. */
export const transformerInnerFigures = [
  {
    key: 'leakageOhm',
    noun: 'Leakage reactance',
    label: 'Leakage, in series',
    quantity: 'impedance',
    within: 'leakageOhm',
    optional: true,
  },
  {
    key: 'magnetisingOhm',
    noun: 'Magnetising reactance',
    label: 'Magnetising, in parallel',
    quantity: 'impedance',
    within: 'parallelOhm',
    optional: true,
  },
  {
    // Where the reactances were stated; they go with f.
    key: 'atHz',
    noun: 'Frequency',
    label: 'Stated at',
    quantity: 'frequency',
    within: 'frequencyHz',
  },
  {
    key: 'coreOhm',
    noun: 'Core loss resistance',
    label: 'Core loss, in parallel',
    quantity: 'impedance',
    within: 'parallelOhm',
    optional: true,
  },
] as const satisfies readonly Figure[]

export const transformerStageSchema = z
  .object({
    ...stageBase,
    kind: z.literal('transformer'),
    ...shapeOf(transformerFigures),
    ...shapeOf(transformerInnerFigures),
  })
  .meta({ id: 'TransformerStage' })
