import { z } from 'zod'
import { stageBase } from './base.ts'
import { shapeOf } from './figure.ts'
import { impedanceFigures } from './series.ts'

export const shuntStageSchema = z
  .object({ ...stageBase, kind: z.literal('shunt'), ...shapeOf(impedanceFigures) })
  .refine((s) => s.rOhm !== 0 || s.xOhm !== 0, {
    path: ['rOhm'],
    message: 'A shunt of 0 Ω is a short circuit: give it some resistance or reactance.',
  })
  .meta({ id: 'ShuntStage' })
