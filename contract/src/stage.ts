/** The stages of a chain. */
import { z } from 'zod'
import { cableSchema } from './cable.ts'
import {
  bounded,
  frequencyHz,
  gearId,
  lengthM,
  limits,
  lossDb,
  note,
  powerW,
  reactanceOhm,
  resistanceOhm,
  shortText,
  swr,
  textLimits,
} from './fields.ts'
import { idSchema } from './ids.ts'
import { list } from './list.ts'
import { foldbackSchema, modes } from './source.ts'
import { line } from './text.ts'

/** What the operator knows a part to bear; it goes before its class in the catalogue. */
export const ownLimitsSchema = z
  .object({
    voltageRms: bounded('Rated voltage', ...limits.ratedVoltageRms, 'V').optional(),
    firingVoltageDc: bounded('Firing voltage', ...limits.firingVoltageDc, 'V').optional(),
    /** Average, W; of a cable at 40 °C and on the channel’s frequency. */
    averageW: powerW.optional(),
    timeConstantS: bounded('Time constant', ...limits.timeConstantS, 's').optional(),
  })
  .meta({ id: 'OwnLimits' })

const stageBase = {
  id: idSchema,
  name: shortText('Stage name'),
  bypassed: z.boolean().optional(),
  note: note.optional(),
  limits: ownLimitsSchema.optional(),
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
    factor: bounded('Ageing factor', ...limits.ageingFactor, ''),
    reason: line('A reason', textLimits.reason).default(''),
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
    temperatureC: bounded('Temperature', ...limits.cableC, '°C').optional(),
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
    points: list(z.tuple([frequencyHz, lossDb]), 100, 'points of loss of a part')
      .refine((points) => points.length > 0, 'A part needs at least one point of loss.')
      .refine((points) => points.every((p, i) => i === 0 || p[0] > points[i - 1]![0]), {
        message: 'The frequencies of the points must rise.',
      })
      .optional(),
    /** The class of part it was taken from. */
    gearId: gearId.optional(),
  })
  .meta({ id: 'PadStage' })

/** More points of S-parameters than a chain can carry; an import leaves out what lines give back. */
export const MEASURED_POINTS = 400

export const measuredStageSchema = z
  .object({
    ...stageBase,
    kind: z.literal('measured'),
    frequencyHz: list(frequencyHz, MEASURED_POINTS, 'points of a measured part').refine(
      (frequencies) => frequencies.length > 0,
      'A measured part needs at least one point.',
    ),
    /** Eight numbers a frequency: real and imaginary part of S11, S21, S12, S22, on 50 Ω. */
    s: list(bounded('An S-parameter', -1.1, 1.1, ''), 8 * MEASURED_POINTS, 'S-parameters'),
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

export const transformerStageSchema = z
  .object({
    ...stageBase,
    kind: z.literal('transformer'),
    /** Impedance on the antenna’s side over that on the transmitter’s. */
    ratio: bounded('Impedance ratio', ...limits.transformerRatio, ''),
    lossDb,
    /** Where the reactances were stated; they go with f. */
    atHz: frequencyHz,
    leakageOhm: bounded('Leakage reactance', ...limits.leakageOhm, 'Ω').optional(),
    magnetisingOhm: bounded('Magnetising reactance', ...limits.parallelOhm, 'Ω').optional(),
    coreOhm: bounded('Core loss resistance', ...limits.parallelOhm, 'Ω').optional(),
  })
  .meta({ id: 'TransformerStage' })

export const stubStageSchema = z
  .object({
    ...stageBase,
    kind: z.literal('stub'),
    lengthM,
    cable: cableSchema,
    end: z.enum(['open', 'short']),
  })
  .refine((stub) => stub.end === 'open' || stub.lengthM > 0, {
    path: ['lengthM'],
    message: 'A shorted stub of no length is a short circuit: give it a length.',
  })
  .meta({ id: 'StubStage' })

const partQuality = {
  coilQ: bounded('Coil Q', ...limits.coilQ, ''),
  /** Where the coil’s Q was stated; it then goes as √f. */
  coilQAtHz: frequencyHz.optional(),
  capacitorQ: bounded('Capacitor Q', ...limits.capacitorQ, ''),
}
const henry = bounded('Inductance', ...limits.inductanceH, 'H')
const farad = bounded('Capacitance', ...limits.capacitanceF, 'F')
const rising = (noun: string, value: z.ZodNumber) =>
  z.tuple([value, value]).refine(([least, most]) => least < most, {
    path: [1],
    message: `The largest ${noun} must be more than the smallest.`,
  })
const bits = (noun: string) =>
  bounded(noun, ...limits.relays, 'relays').int(`${noun} must be a whole number.`)

/** What the dials of a part read, in the order of its front panel; empty where one was not noted. */
export const dialMarks = list(line('A dial mark', textLimits.dialMark), 3, 'dial marks')

const tunerBase = {
  ...stageBase,
  kind: z.literal('tuner'),
  /** What it is rated for, W PEP. */
  ratedW: powerW.optional(),
  /** Power that it needs to sense the match, least and most, W. */
  tuneWindowW: rising(
    'tuning power',
    bounded('Tuning power', ...limits.tuningPowerW, 'W'),
  ).optional(),
  /** How long it takes to tune at most, s. */
  tuneTimeS: bounded('Tuning time', ...limits.tuningTimeS, 's').optional(),
  /** Marks on its dials that were written down, by channel. */
  dials: z.record(idSchema, dialMarks).optional(),
}

/** Three ways to know a tuner: by its loss, by its network, by its relays. */
export const tunerStageSchema = z
  .discriminatedUnion('method', [
    z.object({
      ...tunerBase,
      method: z.literal('given'),
      lossDb,
      residualSwr: bounded('SWR that is left', ...limits.residualSwr, ''),
      reachSwr: swr.optional(),
    }),
    z.object({
      ...tunerBase,
      ...partQuality,
      method: z.literal('network'),
      /** True where motors set it anew on every frequency, not a hand. */
      automatic: z.boolean().optional(),
      network: z.enum(['L-low-pass', 'L-high-pass', 'T', 'pi']),
      shuntAt: z.enum(['either', 'antenna', 'transmitter']).default('either'),
      coilH: rising('inductance', henry),
      capacitorF: rising('capacitance', farad),
    }),
    z.object({
      ...tunerBase,
      ...partQuality,
      method: z.literal('stepped'),
      coilBits: bits('Coils'),
      coilStepH: henry,
      capacitorBits: bits('Capacitors'),
      capacitorStepF: farad,
      contentSwr: bounded('SWR it accepts', ...limits.acceptedSwr, ''),
    }),
  ])
  .meta({ id: 'TunerStage' })
export type TunerDocument = z.infer<typeof tunerStageSchema>

const inputOhm = { rOhm: bounded('Input resistance', ...limits.inputOhm, 'Ω'), xOhm: reactanceOhm }

export const amplifierStageSchema = z
  .object({
    ...stageBase,
    kind: z.literal('amplifier'),
    gearId: gearId.optional(),
    /** At small drive. */
    gainDb: bounded('Gain', ...limits.gainDb, 'dB'),
    driveW: powerW,
    fullW: powerW,
    /** Most output, W PEP, in modes it must not run fully in. */
    ceilings: z.partialRecord(z.enum(modes), powerW).optional(),
    behaviour: z.enum(['levelled', 'peaked']),
    foldback: foldbackSchema,
    tripSwr: swr.optional(),
    tripReflectedW: powerW.optional(),
    /** Marks on its tune and load controls that were written down, by channel. */
    dials: z.record(idSchema, dialMarks).optional(),
    inputOhm: z.object(inputOhm),
    inputBands: list(
      z.object({ lowHz: frequencyHz, highHz: frequencyHz, ...inputOhm }),
      20,
      'bands of an amplifier',
    ).optional(),
  })
  .refine((a) => a.driveW * 10 ** (a.gainDb / 10) >= a.fullW * 0.999, {
    path: ['gainDb'],
    message: 'With this gain the drive does not give full output: raise the gain or the drive.',
  })
  .meta({ id: 'AmplifierStage' })
export type AmplifierDocument = z.infer<typeof amplifierStageSchema>

export const stageSchema = z
  .discriminatedUnion('kind', [
    lineStageSchema,
    padStageSchema,
    seriesStageSchema,
    shuntStageSchema,
    transformerStageSchema,
    stubStageSchema,
    measuredStageSchema,
    tunerStageSchema,
    amplifierStageSchema,
  ])
  .meta({ id: 'Stage' })
export type StageDocument = z.infer<typeof stageSchema>
