/** The chain document: the one source of truth about a path from a transmitter to an antenna. */
import { z } from 'zod'
import {
  bounded,
  frequencyHz,
  note,
  powerW,
  reactanceOhm,
  resistanceOhm,
  shortText,
  swr,
} from './fields.ts'
import { idSchema } from './ids.ts'
import { migrateChainDocument } from './migrate.ts'
import { modes, transmitterSchema } from './source.ts'
import { stageSchema } from './stage.ts'

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

export const channelSchema = z
  .object({
    id: idSchema,
    name: z.string().trim().max(40, 'A channel name may have at most 40 characters.').optional(),
    frequencyHz,
    mode: z.enum(modes),
    /** Set power, PEP. */
    powerW,
    /** Mean over PEP while keyed, where it is not the mode's usual one. */
    meanToPeak: bounded('Mean over peak', 0.01, 1, '').optional(),
    /** Share of an over with power out, where it is not the mode's usual one. */
    keyDown: bounded('Key-down share', 0.01, 1, '').optional(),
    /** How long an over lasts at most. */
    longestOverS: bounded('Longest over', 1, 86_400, 's').optional(),
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
  /** Gain of the antenna over isotropic, dBi. */
  antennaGainDbi: bounded('Antenna gain', -40, 60, 'dBi').optional(),
  /** What the antenna, or a dummy load, bears on average. */
  loadAverageW: powerW.optional(),
  /** A dummy load bears more for a while. */
  loadBurst: z.object({ watts: powerW, minutes: bounded('Minutes', 0.1, 600, 'min') }).optional(),
  /** Ambient temperature; cable ratings hold at 40 °C. */
  ambientC: bounded('Ambient temperature', -60, 75, '°C').optional(),
  /** What the licence allows. */
  licence: z.object({ kind: z.enum(['PEP', 'EIRP', 'ERP']), watts: powerW }).optional(),
  /** How well it is known, as shares that hold nineteen times in twenty; the usual ones unless given. */
  tolerances: z
    .object({
      length: bounded('Tolerance of lengths', 0, 0.5, ''),
      cable: bounded('Tolerance of cable loss', 0, 1, ''),
      parts: bounded('Tolerance of small parts', 0, 2, ''),
      source: bounded('Tolerance of the transmitter', 0, 0.5, ''),
      reflection: bounded('Tolerance of the antenna’s reflection', 0, 1, ''),
    })
    .optional(),
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
