/** What is measured with: meters, analysers, dummy loads. */
import { z } from 'zod'
import { bounded, day, limits, note, powerW, shortText } from './fields.ts'
import { list } from './list.ts'

export const instrumentTypes = [
  'through-line',
  'power meter',
  'analyser',
  'probe',
  'dummy load',
] as const

/** A full scale: something more than nothing. */
export const rangeW = bounded('Range', ...limits.rangeW, 'W')
const calibratedW = bounded('A power', ...limits.rangeW, 'W')

export const instrumentSchema = z
  .object({
    name: shortText('Instrument name'),
    type: z.enum(instrumentTypes),
    /** Whether it holds the peak or shows the mean. */
    kind: z.enum(['averaging', 'peak']),
    /** Full scales, W, rising; empty where it finds its own. */
    rangesW: list(rangeW, 16, 'ranges of an instrument').refine(
      (ranges) => ranges.every((r, i) => i === 0 || r > ranges[i - 1]!),
      {
        message: 'Ranges must rise.',
      },
    ),
    /** Largest error, as a share. */
    accuracy: bounded('Accuracy', ...limits.accuracy, ''),
    accuracyOf: z.enum(['full scale', 'reading']).optional(),
    /** Marks of a needle from 0 to full scale; half a mark is added to its error. */
    divisions: bounded('Divisions', ...limits.divisions, '')
      .int('Divisions must be a whole number.')
      .optional(),
    directivityDb: bounded('Directivity', ...limits.directivityDb, 'dB').optional(),
    /** When it was last compared with something better. */
    checkedOn: day.optional(),
    /** How it compares with a better one: its readings are corrected by it from then on. */
    calibration: z
      .object({
        on: day,
        /** What it showed and what was true, W; rising. */
        points: list(z.tuple([calibratedW, calibratedW]), 30, 'points of a calibration')
          .refine((points) => points.length > 0, 'A calibration needs at least one point.')
          .refine((points) => points.every((p, i) => i === 0 || p[0] > points[i - 1]![0]), {
            message: 'The readings of a calibration must rise.',
          }),
        /** How far a corrected reading may be off, as a share. */
        doubt: bounded('Uncertainty', ...limits.accuracy, ''),
      })
      .optional(),
    /** What a dummy load withstands: for ever, and for a while. */
    load: z
      .object({
        continuousW: powerW,
        burst: z.object({
          watts: powerW,
          minutes: bounded('Minutes', ...limits.loadMinutes, 'min'),
        }),
      })
      .refine(({ continuousW, burst }) => burst.watts >= continuousW, {
        path: ['burst', 'watts'],
        message: 'What it withstands for a while must be at least what it withstands for ever.',
      })
      .optional(),
    note: note.optional(),
  })
  .meta({ id: 'Instrument' })
export type InstrumentDocument = z.infer<typeof instrumentSchema>
