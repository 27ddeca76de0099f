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
import { migrateChainDocument } from './migrate.ts'

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
    /** Loss over frequency, [Hz, dB]; where it is given, it counts instead. */
    points: z
      .array(z.tuple([frequencyHz, lossDb]))
      .min(1)
      .max(100, 'A part may have at most 100 points of loss.')
      .refine((points) => points.every((p, i) => i === 0 || p[0] > points[i - 1]![0]), {
        message: 'The frequencies of the points must rise.',
      })
      .optional(),
    /** The class of part it was taken from. */
    gearId: z.string().max(64).optional(),
  })
  .meta({ id: 'PadStage' })

/** More points of S-parameters than a chain can carry; an import leaves out what lines give back. */
export const MEASURED_POINTS = 400

export const measuredStageSchema = z
  .object({
    ...stageBase,
    kind: z.literal('measured'),
    frequencyHz: z.array(frequencyHz).min(1).max(MEASURED_POINTS),
    /** Eight numbers a frequency: real and imaginary part of S11, S21, S12, S22, on 50 Ω. */
    s: z.array(bounded('An S-parameter', -1.1, 1.1, '')),
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
    measuredStageSchema,
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

export const modes = [
  'voice-plain',
  'voice-processed',
  'CW',
  'AM',
  'FM',
  'data',
  'key-down',
  'own',
] as const
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

/** Raised when the shape changes; `migrate.ts` brings older documents up on reading. */
export const CHAIN_DOCUMENT_VERSION = 2

const uniqueIds = (items: readonly { id: string }[]) =>
  new Set(items.map((item) => item.id)).size === items.length

const chainShape = z.object({
  version: z.literal(CHAIN_DOCUMENT_VERSION, {
    error:
      'This chain has a version that this Salt Line does not know. Update Salt Line, or check “version”.',
  }),
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

/** Takes every version there ever was and gives the present one. */
export const chainDocumentSchema = z
  .preprocess(migrateChainDocument, chainShape)
  .meta({ id: 'ChainDocument' })
export type ChainDocument = z.infer<typeof chainDocumentSchema>
