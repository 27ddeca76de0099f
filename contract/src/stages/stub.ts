import { z } from 'zod'
import { cableSchema } from '../cable.ts'
import { stageBase } from './base.ts'
import { shapeOf } from './figure.ts'
import { lengthFigure } from './line.ts'

export const stubStageSchema = z
  .object({
    ...stageBase,
    kind: z.literal('stub'),
    ...shapeOf([lengthFigure]),
    cable: cableSchema,
    end: z.enum(['open', 'short']),
  })
  .refine((stub) => stub.end === 'open' || stub.lengthM > 0, {
    path: ['lengthM'],
    message: 'A shorted stub of no length is a short circuit: give it a length.',
  })
  .meta({ id: 'StubStage' })
