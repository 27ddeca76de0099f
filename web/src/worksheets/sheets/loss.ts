/** What all sheets that measure a loss have in common. */
import {
  decimals,
  formatFrequency,
  lineConstants,
  matchedLossDb,
  type MeasuredLoss,
} from '@saltline/core'
import { leadOf, type SheetResult, type Subject, withRange } from '../worksheet.ts'

/** What the data sheet gives for the subject at a frequency, dB. */
export function sheetLossDb(subject: Subject | null, lengthM: number | null, hz: number) {
  const length = lengthM ?? subject?.lengthM
  if (subject?.kind !== 'line' || !subject.cable || !length) return null
  return matchedLossDb(lineConstants(subject.cable, hz), length)
}

/** The result of losses at one or several frequencies; the one that is known best leads. */
export function lossResult(
  losses: readonly MeasuredLoss[],
  subject: Subject | null,
  lengthM: number | null,
  working: readonly string[],
): SheetResult {
  const best = losses.reduce((a, b) =>
    b.blindDb / Math.max(b.lossDb.value, 1e-3) < a.blindDb / Math.max(a.lossDb.value, 1e-3) ? b : a,
  )
  const sheetDb = sheetLossDb(subject, lengthM, best.frequencyHz)
  const blind = best.lossDb.low <= 0
  return {
    answer: `${subject?.name ?? 'The piece'} loses ${withRange(best.lossDb, 2, 'dB')} on ${formatFrequency(best.frequencyHz)}.`,
    lead: leadOf('loss', 'dB', best.lossDb, best.frequencyHz),
    rows: losses.map(({ frequencyHz, lossDb, dbPer100m }) => [
      formatFrequency(frequencyHz),
      withRange(lossDb, 2, 'dB') +
        (dbPer100m === null ? '' : `, ${decimals(dbPer100m, 1)}\u00a0dB per 100 m`) +
        (sheetLossDb(subject, lengthM, frequencyHz) === null
          ? ''
          : `; sheet ${decimals(sheetLossDb(subject, lengthM, frequencyHz)!, 2)}`),
    ]),
    because: best.lossDb.because,
    working,
    loss: losses.map(({ frequencyHz, lossDb }) => [frequencyHz, lossDb.value]),
    ...(sheetDb !== null && { sheetDb }),
    ...(blind && {
      mind: `This reading cannot tell the loss from nothing: it is known to ± ${decimals(best.blindDb, 2)}\u00a0dB. Use a longer piece, a higher frequency, or a meter that reads better.`,
    }),
  }
}
