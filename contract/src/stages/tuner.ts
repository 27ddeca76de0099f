import { z } from 'zod'
import { bounded, limits } from '../fields.ts'
import { idSchema } from '../ids.ts'
import { dialMarks, stageBase } from './base.ts'
import { type Figure, shapeOf } from './figure.ts'

/** Of any tuner, however it is known. */
export const tunerFigures = [
  {
    // W PEP.
    key: 'ratedW',
    noun: 'Power',
    label: 'Rated power, PEP',
    quantity: 'power',
    within: 'powerW',
    optional: true,
  },
  {
    key: 'tuneTimeS',
    noun: 'Tuning time',
    label: 'Longest to tune',
    quantity: 'time',
    within: 'tuningTimeS',
    optional: true,
  },
] as const satisfies readonly Figure[]

/** Of one known by its loss alone. */
export const givenTunerFigures = [
  {
    key: 'lossDb',
    noun: 'Loss',
    label: 'Insertion loss',
    quantity: 'decibel',
    within: 'lossDb',
  },
  {
    key: 'residualSwr',
    noun: 'SWR that is left',
    label: 'SWR it leaves',
    quantity: 'swr',
    within: 'residualSwr',
    step: 0.05,
  },
  {
    key: 'reachSwr',
    noun: 'SWR',
    label: 'Matches up to SWR',
    quantity: 'swr',
    within: 'swr',
    optional: true,
  },
] as const satisfies readonly Figure[]

/** How good the parts of its network are. */
export const qualityFigures = [
  { key: 'coilQ', noun: 'Coil Q', quantity: 'plain', within: 'coilQ', step: 10 },
  { key: 'capacitorQ', noun: 'Capacitor Q', quantity: 'plain', within: 'capacitorQ', step: 50 },
  {
    // The coil’s Q then goes as √f.
    key: 'coilQAtHz',
    noun: 'Frequency',
    label: 'Coil Q stated at',
    quantity: 'frequency',
    within: 'frequencyHz',
    optional: true,
  },
] as const satisfies readonly Figure[]

/** Of its relays: each step twice the one before. */
export const relayFigures = [
  {
    key: 'coilBits',
    noun: 'The number of coil relays',
    label: 'Coils',
    quantity: 'plain',
    within: 'relays',
    step: 1,
    whole: true,
  },
  {
    key: 'coilStepH',
    noun: 'Inductance',
    label: 'smallest coil',
    quantity: 'inductance',
    within: 'inductanceH',
  },
  {
    key: 'capacitorBits',
    noun: 'The number of capacitor relays',
    label: 'Capacitors',
    quantity: 'plain',
    within: 'relays',
    step: 1,
    whole: true,
  },
  {
    key: 'capacitorStepF',
    noun: 'Capacitance',
    label: 'smallest capacitor',
    quantity: 'capacitance',
    within: 'capacitanceF',
  },
] as const satisfies readonly Figure[]

/** When relays are content with a match. */
export const contentFigures = [
  {
    key: 'contentSwr',
    noun: 'SWR it accepts',
    label: 'Accepts SWR up to',
    quantity: 'swr',
    within: 'acceptedSwr',
  },
] as const satisfies readonly Figure[]

const rising = (noun: string, value: z.ZodNumber) =>
  z.tuple([value, value]).refine(([least, most]) => least < most, {
    path: [1],
    message: `The largest ${noun} must be more than the smallest.`,
  })

const tunerBase = {
  ...stageBase,
  kind: z.literal('tuner'),
  ...shapeOf(tunerFigures),
  /** Power that it needs to sense the match, least and most, W. */
  tuneWindowW: rising(
    'tuning power',
    bounded('Tuning power', ...limits.tuningPowerW, 'W'),
  ).optional(),
  /** Marks on its dials that were written down, by channel. */
  dials: z.record(idSchema, dialMarks).optional(),
}

/** Three ways to know a tuner: by its loss, by its network, by its relays. */
export const tunerStageSchema = z
  .discriminatedUnion('method', [
    z.object({ ...tunerBase, method: z.literal('given'), ...shapeOf(givenTunerFigures) }),
    z.object({
      ...tunerBase,
      ...shapeOf(qualityFigures),
      method: z.literal('network'),
      /** True where motors set it anew on every frequency, not a hand. */
      automatic: z.boolean().optional(),
      network: z.enum(['L-low-pass', 'L-high-pass', 'T', 'pi']),
      shuntAt: z.enum(['either', 'antenna', 'transmitter']).default('either'),
      coilH: rising('inductance', bounded('Inductance', ...limits.inductanceH, 'H')),
      capacitorF: rising('capacitance', bounded('Capacitance', ...limits.capacitanceF, 'F')),
    }),
    z.object({
      ...tunerBase,
      ...shapeOf(qualityFigures),
      method: z.literal('stepped'),
      ...shapeOf(relayFigures),
      ...shapeOf(contentFigures),
    }),
  ])
  .meta({ id: 'TunerStage' })
export type TunerDocument = z.infer<typeof tunerStageSchema>
