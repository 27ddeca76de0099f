/** Sweeps of an analyser looking along a line, kept with the log. */
import { z } from 'zod'
import { bounded, frequencyHz, note, textLimits, timestamp } from './fields.ts'
import { idSchema } from './ids.ts'
import { list } from './list.ts'
import { farEnds, placeKey } from './reading.ts'
import { line } from './text.ts'

/** The largest file that is read as a sweep, characters. */
export const MOST_SWEEP_TEXT = 8_000_000
/** More points say nothing more of a line. */
export const MOST_SWEEP_POINTS = 20_001

const known = {
  /** The plane where the analyser was connected: a stage's id, or `load`. */
  before: placeKey,
  /** Taken of the cable `before` by itself, connected at one of its ends, and not of all that follows. */
  alone: z.boolean().default(false),
  /** What the far end of the line was. */
  farEnd: z.enum(farEnds).default('antenna'),
  readAt: timestamp,
  name: line('A name', textLimits.name).default('sweep'),
  instrument: line('An instrument', 80).default(''),
  /** How far it may be off after its calibration, dB below a reflection of everything; a usual one’s unless given. */
  analyser: z
    .object({
      directivityDb: bounded('Directivity', 10, 90, 'dB'),
      sourceMatchDb: bounded('Source match', 10, 90, 'dB'),
      noiseDb: bounded('Noise floor', 20, 140, 'dB'),
    })
    .optional(),
  by: line('A name', 40).default(''),
  weather: line('The weather', 80).default(''),
  note: note.default(''),
}

export const lineSweepBodySchema = z
  .object({
    ...known,
    /** The text of a Touchstone file of one port, of two (what its first port sees), or of a table with the phase. */
    touchstone: z.string().max(MOST_SWEEP_TEXT, 'The file is too large for a sweep.'),
  })
  .meta({ id: 'LineSweepBody' })
export type LineSweepBody = z.input<typeof lineSweepBodySchema>
export type LineSweepFile = z.output<typeof lineSweepBodySchema>

const figure = z.object({ value: z.number(), low: z.number(), high: z.number() })

export const lineSweepSummarySchema = z
  .object({
    ...known,
    id: idSchema,
    chainId: idSchema,
    /** The chain of its day. */
    chainRevision: z.int(),
    /** What the plane was called. */
    place: z.string(),
    pointCount: z.int(),
    lowHz: z.number(),
    highHz: z.number(),
    /** Against the chain of its day; see `SweepFigures` of core. */
    figures: z.object({
      dips: z.array(z.object({ at: figure, swr: figure, bandwidthHz: figure.nullable() })).max(20),
      extraLossDb: figure.nullable(),
      endM: figure.nullable(),
    }),
  })
  .meta({ id: 'LineSweepSummary' })
export type LineSweepSummary = z.infer<typeof lineSweepSummarySchema>

/** What is kept of a sweep beside its place, its time and its points. */
export type LineSweepKept = Omit<
  LineSweepSummary,
  'id' | 'chainId' | 'chainRevision' | 'before' | 'place' | 'readAt' | 'pointCount'
>

const parts = list(bounded('Reflection', -1.5, 1.5, ''), MOST_SWEEP_POINTS, 'points')
const points = {
  /** Reflection on 50 Ω at rising frequencies. */
  frequencyHz: list(frequencyHz, MOST_SWEEP_POINTS, 'points'),
  re: parts,
  im: parts,
}

export const lineSweepSchema = lineSweepSummarySchema.extend(points).meta({ id: 'LineSweep' })
export type LineSweep = z.infer<typeof lineSweepSchema>

/** A sweep as a station file carries it. */
export const lineSweepInFileSchema = z
  .object({
    ...known,
    id: idSchema,
    chainId: idSchema,
    place: z.string().max(120),
    figures: lineSweepSummarySchema.shape.figures,
    ...points,
  })
  .refine(
    (s) =>
      s.frequencyHz.length > 1 &&
      s.re.length === s.frequencyHz.length &&
      s.im.length === s.frequencyHz.length,
    {
      message: 'A sweep needs two points or more, and as many real and imaginary parts.',
      path: ['frequencyHz'],
    },
  )
  .refine((s) => s.frequencyHz.every((hz, i) => hz > (s.frequencyHz[i - 1] ?? 0)), {
    message: 'The frequencies of a sweep must rise.',
    path: ['frequencyHz'],
  })
