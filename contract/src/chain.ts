/** The chain document: the one source of truth about a path from a transmitter to an antenna. */
import { z } from 'zod'
import { cableSchema } from './cable.ts'
import {
  bounded,
  frequencyHz,
  lengthM,
  limits,
  lossDb,
  note,
  powerW,
  reactanceOhm,
  resistanceOhm,
  shortText,
  swr,
} from './fields.ts'
import { idSchema } from './ids.ts'

const stageBase = {
  id: idSchema,
  name: shortText('Stage name'),
  bypassed: z.boolean().optional(),
  note: note.optional(),
}

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

/** Why a section loses more than a new cable, and since when that is known. */
export const ageingSchema = z
  .object({
    factor: bounded('Ageing factor', 1, 20, ''),
    reason: z.string().trim().max(200, 'A reason may have at most 200 characters.').default(''),
    date: z.iso.date({ error: 'The date must be like 2026-03-01.' }).optional(),
  })
  .meta({ id: 'Ageing' })

export const lineStageSchema = z
  .object({
    ...stageBase,
    kind: z.literal('line'),
    lengthM,
    cable: cableSchema,
    ageing: ageingSchema.optional(),
    temperatureC: bounded('Temperature', -60, 120, '°C').optional(),
  })
  .meta({ id: 'LineStage' })

export const padStageSchema = z
  .object({
    ...stageBase,
    kind: z.literal('pad'),
    part: z.enum(padParts),
    lossDb,
    /** Where the loss was stated; it then grows as √f. */
    atHz: frequencyHz.optional(),
  })
  .meta({ id: 'PadStage' })

export const seriesStageSchema = z
  .object({
    ...stageBase,
    kind: z.literal('series'),
    rOhm: resistanceOhm,
    xOhm: reactanceOhm,
    atHz: frequencyHz.optional(),
  })
  .meta({ id: 'SeriesStage' })

export const shuntStageSchema = z
  .object({
    ...stageBase,
    kind: z.literal('shunt'),
    rOhm: resistanceOhm,
    xOhm: reactanceOhm,
    atHz: frequencyHz.optional(),
  })
  .refine((s) => s.rOhm !== 0 || s.xOhm !== 0, {
    path: ['rOhm'],
    message: 'A shunt of 0 Ω is a short circuit: give it some resistance or reactance.',
  })
  .meta({ id: 'ShuntStage' })

export const stageSchema = z
  .discriminatedUnion('kind', [
    lineStageSchema,
    padStageSchema,
    seriesStageSchema,
    shuntStageSchema,
  ])
  .meta({ id: 'Stage' })
export type StageDocument = z.infer<typeof stageSchema>

const fixedLoadSchema = z.object({
  kind: z.literal('fixed'),
  name: shortText('Antenna name'),
  rOhm: resistanceOhm,
  xOhm: reactanceOhm,
})
const swrLoadSchema = z.object({ kind: z.literal('swr'), name: shortText('Antenna name'), swr })
const antennaLoadSchema = z.object({
  kind: z.literal('antenna'),
  name: shortText('Antenna name'),
  antennaId: idSchema,
  /** The sweep is named too, so that an old revision solves as it did then. */
  sweepId: idSchema,
})
const resonatorLoadSchema = z.object({
  kind: z.literal('resonator'),
  name: shortText('Antenna name'),
  resonanceHz: frequencyHz,
  rOhm: bounded('Resistance at resonance', 0.1, 10_000, 'Ω'),
  q: bounded('Q', 0.5, 2000, ''),
})
const resistorsLoadSchema = z.object({
  kind: z.literal('resistors'),
  name: shortText('Load name'),
  ohmEach: bounded('Resistance of one resistor', 0.1, 1e6, 'Ω'),
  count: z.int('The number of resistors must be whole.').min(1).max(1000),
  strayInductanceH: bounded('Stray inductance', 0, 1e-3, 'H'),
  strayCapacitanceF: bounded('Stray capacitance', 0, 1e-6, 'F'),
})
export const loadSchema = z
  .discriminatedUnion('kind', [
    fixedLoadSchema,
    swrLoadSchema,
    antennaLoadSchema,
    resonatorLoadSchema,
    resistorsLoadSchema,
  ])
  .meta({ id: 'Load' })
export type LoadDocument = z.infer<typeof loadSchema>

const foldbackSchema = z
  .array(z.tuple([bounded('SWR', ...limits.swr, ''), bounded('Foldback fraction', 0, 1, '')]))
  .max(40)
  .refine((points) => points.every((p, i) => i === 0 || p[0] > points[i - 1]![0]), {
    message: 'The SWR of each foldback point must be higher than the one before.',
  })

export const transmitterSchema = z
  .object({
    name: shortText('Transmitter name'),
    gearId: z.string().max(64).optional(),
    ratedW: powerW,
    behaviour: z.enum(['levelled', 'peaked']),
    /** [SWR, fraction of the set power] points. */
    foldback: foldbackSchema,
  })
  .meta({ id: 'Transmitter' })
export type TransmitterDocument = z.infer<typeof transmitterSchema>

export const modes = ['voice', 'data', 'CW', 'AM', 'FM'] as const
export type Mode = (typeof modes)[number]

export const channelSchema = z
  .object({
    id: idSchema,
    name: z.string().trim().max(40, 'A channel name may have at most 40 characters.').optional(),
    frequencyHz,
    mode: z.enum(modes),
    /** Set power, PEP. */
    powerW,
  })
  .meta({ id: 'Channel' })
export type ChannelDocument = z.infer<typeof channelSchema>

/** Raised when the shape changes; older documents are then migrated on reading. */
export const CHAIN_DOCUMENT_VERSION = 1

const uniqueIds = (items: readonly { id: string }[]) =>
  new Set(items.map((item) => item.id)).size === items.length

export const chainDocumentSchema = z
  .object({
    version: z.literal(CHAIN_DOCUMENT_VERSION),
    name: shortText('Chain name'),
    note: note.optional(),
    transmitter: transmitterSchema,
    stages: z
      .array(stageSchema)
      .max(40, 'A chain may have at most 40 stages.')
      .refine(uniqueIds, 'Two stages have the same id.'),
    load: loadSchema,
    channels: z
      .array(channelSchema)
      .min(1, 'A chain needs at least one channel.')
      .max(40, 'A chain may have at most 40 channels.')
      .refine(uniqueIds, 'Two channels have the same id.'),
  })
  .meta({ id: 'ChainDocument' })
export type ChainDocument = z.infer<typeof chainDocumentSchema>
