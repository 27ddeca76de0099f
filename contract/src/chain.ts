/** The chain document: the one source of truth about a path from a transmitter to an antenna. */
import { z } from 'zod'
import { alternativeSchema, MOST_ALTERNATIVES } from './alternative.ts'
import { cableSchema } from './cable.ts'
import { environments } from './environment.ts'
import {
  bounded,
  frequencyHz,
  lengthM,
  limits,
  note,
  powerW,
  shortText,
  textLimits,
} from './fields.ts'
import { idSchema } from './ids.ts'
import { list } from './list.ts'
import { loadSchema } from './load.ts'
import { migrateChainDocument } from './migrate.ts'
import { modes, transmitterSchema } from './source.ts'
import { stageSchema } from './stage.ts'
import { line } from './text.ts'

export const channelSchema = z
  .object({
    id: idSchema,
    name: line('A channel name', textLimits.channelName).optional(),
    frequencyHz,
    mode: z.enum(modes),
    /** Set power, PEP. */
    powerW,
    /** Mean over PEP while keyed, where it is not the mode's usual one. */
    meanToPeak: bounded('Mean over peak', ...limits.meanToPeak, '').optional(),
    /** Share of an over with power out, where it is not the mode's usual one. */
    keyDown: bounded('Key-down share', ...limits.keyDown, '').optional(),
    /** How long an over lasts at most. */
    longestOverS: bounded('Longest over', ...limits.longestOverS, 's').optional(),
  })
  .meta({ id: 'Channel' })
export type ChannelDocument = z.infer<typeof channelSchema>

/** Raised when the shape changes; `migrate.ts` brings older documents up on reading. */
export const CHAIN_DOCUMENT_VERSION = 3

const prior = bounded('How likely a cause is', ...limits.prior, '')

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
  stages: list(stageSchema, 40, 'stages of a chain')
    .refine(uniqueIds, 'Two stages have the same id.')
    .refine((stages) => {
      const things = stages.flatMap(({ thingId }) => thingId ?? [])
      return new Set(things).size === things.length
    }, 'One thing stands twice in this chain.'),
  load: loadSchema,
  /** Gain of the antenna over isotropic, dBi. */
  antennaGainDbi: bounded('Antenna gain', ...limits.antennaGainDbi, 'dBi').optional(),
  /** The same band by band; the one above holds everywhere else. */
  antennaGains: list(
    z
      .object({
        lowHz: frequencyHz,
        highHz: frequencyHz,
        dbi: bounded('Antenna gain', ...limits.antennaGainDbi, 'dBi'),
      })
      .refine(({ lowHz, highHz }) => lowHz < highHz, 'A band must end above where it begins.'),
    30,
    'bands with a gain',
  ).optional(),
  /** What the antenna, or a dummy load, bears on average. */
  loadAverageW: powerW.optional(),
  /** A dummy load bears more for a while. */
  loadBurst: z
    .object({ watts: powerW, minutes: bounded('Minutes', ...limits.loadMinutes, 'min') })
    .optional(),
  /** Ambient temperature; cable ratings hold at 40 °C. */
  ambientC: bounded('Ambient temperature', ...limits.ambientC, '°C').optional(),
  /** What the licence allows. */
  licence: z
    .object({
      /** Where its watts are: PEP at the output, at the antenna, or radiated. */
      kind: z.enum(['PEP', 'antenna', 'EIRP', 'ERP']),
      watts: powerW,
      /** It speaks of average power instead of PEP. */
      average: z.boolean().optional(),
      /** The same band by band; the watts above hold everywhere else. */
      bands: list(
        z
          .object({ lowHz: frequencyHz, highHz: frequencyHz, watts: powerW })
          .refine(({ lowHz, highHz }) => lowHz < highHz, 'A band must end above where it begins.'),
        30,
        'bands of a licence',
      ).optional(),
    })
    .optional(),
  /** How well it is known, as shares that hold nineteen times in twenty; the usual ones unless given. */
  tolerances: z
    .object({
      length: bounded('Tolerance of lengths', ...limits.lengthTolerance, ''),
      cable: bounded('Tolerance of cable loss', ...limits.cableTolerance, ''),
      parts: bounded('Tolerance of small parts', ...limits.partsTolerance, ''),
      source: bounded('Tolerance of the transmitter', ...limits.sourceTolerance, ''),
      reflection: bounded(
        'Tolerance of the antenna’s reflection',
        ...limits.reflectionTolerance,
        '',
      ),
    })
    .optional(),
  /** How likely each cause is before anything is read, against each other; the usual ones unless given. */
  priors: z
    .object({
      none: prior,
      transmitter: prior,
      transmitterOnChannel: prior,
      loss: prior,
      aged: prior,
      antenna: prior,
      antennaOnChannel: prior,
      meter: prior,
      averaging: prior,
      'common mode': prior,
      slip: prior,
    })
    .optional(),
  channels: list(channelSchema, 40, 'channels of a chain')
    .refine((channels) => channels.length > 0, 'A chain needs at least one channel.')
    .refine(uniqueIds, 'Two channels have the same id.'),
  /** What might be changed; see `alternative.ts`. */
  alternatives: list(alternativeSchema, MOST_ALTERNATIVES, 'alternatives of a chain')
    .refine(uniqueIds, 'Two alternatives have the same id.')
    .optional(),
  /** Of the station's receiver, on this chain. */
  receiverNoiseDb: bounded('Noise figure', ...limits.noiseFigureDb, 'dB').optional(),
  /** The station at the other end: its cable costs too, both ways. */
  farStation: z
    .object({
      cable: cableSchema,
      lengthM,
      noiseFigureDb: bounded('Noise figure', ...limits.noiseFigureDb, 'dB').default(10),
      environment: z.enum(environments),
    })
    .optional(),
})

/** Takes every version there ever was and gives the present one. */
export const chainDocumentSchema = z
  .preprocess(migrateChainDocument, chainShape)
  .meta({ id: 'ChainDocument' })
export type ChainDocument = z.infer<typeof chainDocumentSchema>
