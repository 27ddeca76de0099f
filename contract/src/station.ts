import { z } from 'zod'
import { cableSchema } from './cable.ts'
import { transmitterSchema } from './source.ts'
import { amplifierStageSchema, tunerStageSchema } from './stage.ts'
import { environments } from './environment.ts'
import { gearId, note, price, shortText, swr, textLimits, timestamp } from './fields.ts'
import { idSchema } from './ids.ts'
import { instrumentSchema } from './instrument.ts'
import { runSheetSchema } from './run.ts'
import { line } from './text.ts'

/** The operator's own prices; what is not in it is not known, and never counts as nothing. */
export const pricesSchema = z
  .object({
    /** Of cables by their class, per metre. An own cable carries its own. */
    perM: z.record(gearId, price).default({}),
    /** Of the two connectors of a lead, put on. */
    connectorPair: price.optional(),
  })
  .meta({ id: 'Prices' })
export type Prices = z.output<typeof pricesSchema>

export const stationBodySchema = z
  .object({
    name: shortText('Station name'),
    place: line('Place', textLimits.place).default(''),
    note: note.default(''),
    /** The SWR the station wants to stay under. */
    swrLimit: swr.default(2),
    environment: z.enum(environments).default('rural'),
    /** Of prices, as it is written beside a figure. */
    currency: line('A currency', 8).min(1, 'Give a currency, such as EUR.').default('EUR'),
    prices: pricesSchema.default({ perM: {} }),
  })
  .meta({ id: 'StationBody' })
export type StationBody = z.output<typeof stationBodySchema>

export const chainSummarySchema = z
  .object({ id: idSchema, name: z.string(), revision: z.int(), savedAt: timestamp })
  .meta({ id: 'ChainSummary' })
export type ChainSummary = z.infer<typeof chainSummarySchema>

/** Gear of the station's own: what a chain takes a copy of when it is put in. */
export const gearBodySchema = z
  .discriminatedUnion('kind', [
    z.object({ kind: z.literal('cable'), document: cableSchema }),
    z.object({ kind: z.literal('transmitter'), document: transmitterSchema }),
    z.object({ kind: z.literal('amplifier'), document: amplifierStageSchema }),
    z.object({ kind: z.literal('tuner'), document: tunerStageSchema }),
    z.object({ kind: z.literal('instrument'), document: instrumentSchema }),
    z.object({ kind: z.literal('sheet'), document: runSheetSchema }),
  ])
  .meta({ id: 'GearBody' })
export type GearBody = z.infer<typeof gearBodySchema>

export const gearSchema = z
  .intersection(gearBodySchema, z.object({ id: idSchema }))
  .meta({ id: 'Gear' })
export type Gear = z.infer<typeof gearSchema>

/** False where only |ρ| was measured: it then stands in the real parts and the imaginary ones are 0. */
export const phaseKnown = z.boolean().default(true)

export const sweepSummarySchema = z
  .object({
    id: idSchema,
    name: z.string(),
    addedAt: timestamp,
    pointCount: z.int(),
    lowHz: z.number(),
    highHz: z.number(),
    phaseKnown,
  })
  .meta({ id: 'SweepSummary' })

export const antennaSchema = z
  .object({
    id: idSchema,
    name: z.string(),
    note: z.string(),
    /** Newest first. */
    sweeps: z.array(sweepSummarySchema),
  })
  .meta({ id: 'Antenna' })
export type Antenna = z.infer<typeof antennaSchema>

export const stationSchema = stationBodySchema
  .extend({
    id: idSchema,
    chains: z.array(chainSummarySchema),
    gear: z.array(gearSchema),
    antennas: z.array(antennaSchema),
  })
  .meta({ id: 'Station' })
export type Station = z.infer<typeof stationSchema>

export const stationListSchema = z.array(
  z.object({
    id: idSchema,
    name: z.string(),
    place: z.string(),
    chains: z.array(chainSummarySchema),
  }),
)
export type StationList = z.infer<typeof stationListSchema>

export const antennaBodySchema = z
  .object({
    name: shortText('Antenna name'),
    note: note.default(''),
    sweepName: line('Sweep name', textLimits.name).default('sweep'),
    /** The text of a Touchstone one-port file. */
    touchstone: z.string().max(30_000_000),
    phaseKnown,
  })
  .meta({ id: 'AntennaBody' })
export type AntennaBody = z.input<typeof antennaBodySchema>
export type AntennaFile = z.output<typeof antennaBodySchema>

export const sweepSchema = z
  .object({
    id: idSchema,
    antennaId: idSchema,
    name: z.string(),
    /** Reference that re and im are stated on, Ω. */
    referenceOhm: z.number(),
    frequencyHz: z.array(z.number()),
    re: z.array(z.number()),
    im: z.array(z.number()),
    phaseKnown,
  })
  .meta({ id: 'Sweep' })
export type Sweep = z.infer<typeof sweepSchema>

/** Something that was deleted and can be taken back. */
export const binEntrySchema = z
  .object({
    kind: z.enum(['chain', 'reading', 'gear', 'event', 'bench sheet', 'duty', 'thing', 'sweep']),
    id: idSchema,
    name: z.string(),
    deletedAt: timestamp,
    /** What goes with it when the bin is emptied: readings of a chain. */
    readings: z.int(),
  })
  .meta({ id: 'BinEntry' })
export type BinEntry = z.infer<typeof binEntrySchema>

export const deletedStationSchema = z
  .object({ id: idSchema, name: z.string(), deletedAt: timestamp, readings: z.int() })
  .meta({ id: 'DeletedStation' })
export type DeletedStation = z.infer<typeof deletedStationSchema>
