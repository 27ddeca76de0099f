import { z } from 'zod'
import { stageBase } from './base.ts'
import { type Figure, shapeOf } from './figure.ts'

export const isolatorFigures = [
  {
    key: 'lossDb',
    noun: 'Loss',
    label: 'Loss toward the antenna',
    quantity: 'decibel',
    within: 'lossDb',
  },
  {
    key: 'isolationDb',
    noun: 'Isolation',
    label: 'Isolation back',
    quantity: 'decibel',
    within: 'isolationDb',
    step: 1,
  },
  {
    key: 'loadW',
    noun: 'Rating of its load',
    label: 'Its load bears, on average',
    quantity: 'power',
    within: 'powerW',
    optional: true,
  },
] as const satisfies readonly Figure[]

export const isolatorStageSchema = z
  .object({ ...stageBase, kind: z.literal('isolator'), ...shapeOf(isolatorFigures) })
  .refine(({ lossDb, isolationDb }) => isolationDb >= lossDb, {
    path: ['isolationDb'],
    message: 'An isolator holds back more than it takes: raise the isolation.',
  })
  .meta({ id: 'IsolatorStage' })
