import { InputError } from '../errors.ts'
import { asRead, type Meter } from '../measure/meter.ts'
import { type Propagated, propagate, type Uncertain } from '../statistics/propagate.ts'

/** One frequency of a substitution: the meter with the short lead, then with the cable in between. */
export interface SubstitutionPoint {
  frequencyHz: number
  directW: number
  throughW: number
}

/** A loss that was measured at one frequency. */
export interface MeasuredLoss {
  frequencyHz: number
  lossDb: Propagated
  /** Of 100 m; null where no length is known. */
  dbPer100m: number | null
  /** Half of the 5 to 95 %: less than this cannot be told from nothing. */
  blindDb: number
}

export interface Substitution {
  meter: Meter
  points: readonly SubstitutionPoint[]
  /** Range that was read on; the smallest that holds each reading unless given. */
  rangeW?: number | null | undefined
  lengthM?: number | undefined
  /**
   * True where both readings were on one range of one meter, so that its scale is wrong by the same share
   * both times; what is left is half a division, or a fifth of the accuracy.
   */
  sharedError?: boolean | undefined
}

/** What is left of a shared scale error: a needle does not err by the same share everywhere. */
const SHARED_REST = 0.2

/**
 * Loss by substitution, 10·log₁₀(P₁/P₂) at every frequency.
 *
 * @throws InputError with the path of a reading that cannot be
 * @example substitution({ meter, points: [{ frequencyHz: 10e6, directW: 100, throughW: 80 }] })[0].lossDb.value
 *   // 0.9691
 */
export function substitution(sheet: Substitution): MeasuredLoss[] {
  return sheet.points.map(({ frequencyHz, directW, throughW }, i) => {
    if (!(directW > 0))
      throw new InputError('With the short lead the meter must show more than 0 W.', [
        'points',
        i,
        'directW',
      ])
    if (!(throughW > 0))
      throw new InputError(
        'With the cable in between nothing came through: is it open, or is the range too large to read?',
        ['points', i, 'throughW'],
      )
    const inputs = {
      'short lead': readOn(sheet, directW),
      'cable in between': readOn(sheet, throughW),
    }
    const lossDb = propagate(inputs, (v) =>
      v['short lead'] > 0 && v['cable in between'] > 0
        ? 10 * Math.log10(v['short lead'] / v['cable in between'])
        : NaN,
    )
    return measuredLoss(frequencyHz, lossDb, sheet.lengthM)
  })
}

function readOn({ meter, rangeW, sharedError }: Substitution, watts: number): Uncertain {
  const read = asRead(meter, watts, rangeW)
  return sharedError ? { ...read, doubt: read.doubt * SHARED_REST, orOn: undefined } : read
}

/** A loss measured at a frequency (Hz): the whole, per 100 m where the length (m) is known, and half of its range (dB). */
export const measuredLoss = (
  frequencyHz: number,
  lossDb: Propagated,
  lengthM: number | undefined,
): MeasuredLoss => ({
  frequencyHz,
  lossDb,
  dbPer100m: lengthM ? (lossDb.value * 100) / lengthM : null,
  blindDb: (lossDb.high - lossDb.low) / 2,
})
