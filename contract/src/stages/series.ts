import { z } from 'zod'
import { stageBase } from './base.ts'
import { type Figure, shapeOf } from './figure.ts'

/** Of a part in line or across it. */
export const impedanceFigures = [
  { key: 'rOhm', noun: 'Resistance', quantity: 'impedance', within: 'ohm' },
  { key: 'xOhm', noun: 'Reactance', quantity: 'impedance', within: 'reactanceOhm' },
  {
    key: 'atHz',
    noun: 'Frequency',
    label: 'Reactance stated at',
    quantity: 'frequency',
    within: 'frequencyHz',
    optional: true,
  },
] as const satisfies readonly Figure[]

export const seriesStageSchema = z
  .object({ ...stageBase, kind: z.literal('series'), ...shapeOf(impedanceFigures) })
  .meta({ id: 'SeriesStage' })
