import { InputError } from '../errors.ts'
import { type Meter, readingDoubtW } from '../measure/meter.ts'
import { robustDeviation } from '../statistics/quantile.ts'

/** A meter held against a better one: what it showed, and what was true, W; rising. */
export type CalibrationPoints = readonly (readonly [shownW: number, trueW: number])[]

export interface Calibration {
  points: CalibrationPoints
  /** How far a corrected reading may still be off, as a share: the better meter's error and the scatter together. */
  doubt: number
  /** The scatter alone, as a share. */
  scatter: number
}

/** Readings this near to each other are of one power. */
const SAME_SHARE = 0.02

/**
 * The correction of a meter: readings near each other are joined, the rest stands as read.
 *
 * @param pairs what the meter showed and what a known one showed, W, on one signal
 * @throws InputError, under `pairs`, where a reading is not more than 0 W
 * @example calibrate([{ shownW: 50, trueW: 45 }, { shownW: 100, trueW: 92 }], meter).points // [[50, 45], [100, 92]]
 */
export function calibrate(
  pairs: readonly { shownW: number; trueW: number }[],
  known: Meter,
): Calibration {
  if (pairs.length === 0) throw new InputError('Read both meters at one power at least.', ['pairs'])
  pairs.forEach(({ shownW, trueW }, i) => {
    if (!(shownW > 0) || !(trueW > 0))
      throw new InputError('A meter must show more than 0 W.', ['pairs', i])
  })
  const groups: { shownW: number; trueW: number }[][] = []
  for (const pair of pairs.toSorted((a, b) => a.shownW - b.shownW)) {
    const last = groups.at(-1)
    if (last && pair.shownW <= last[0]!.shownW * (1 + SAME_SHARE)) last.push(pair)
    else groups.push([pair])
  }
  const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length
  const points = groups.map(
    (group) => [mean(group.map((p) => p.shownW)), mean(group.map((p) => p.trueW))] as const,
  )
  const residuals = pairs.map(({ shownW, trueW }) => trueW / correctedW(points, shownW) - 1)
  const scatter = pairs.length > groups.length ? 2 * robustDeviation(residuals) : 0
  const own = Math.max(...pairs.map(({ trueW }) => readingDoubtW(known, trueW) / trueW))
  return { points, scatter, doubt: Math.hypot(own, scatter) }
}

/**
 * A reading put right: the factor true over shown, straight between the points over the logarithm of power, and held
 * beyond them.
 *
 * @example correctedW([[50, 45], [100, 92]], 200) // 184
 */
export function correctedW(points: CalibrationPoints, shownW: number): number {
  const first = points[0]
  if (!first || !(shownW > 0)) return shownW
  const last = points[points.length - 1]!
  if (shownW <= first[0]) return (shownW * first[1]) / first[0]
  if (shownW >= last[0]) return (shownW * last[1]) / last[0]
  let i = 1
  while (points[i]![0] < shownW) i++
  const [s0, t0] = points[i - 1]!
  const [s1, t1] = points[i]!
  const t = Math.log(shownW / s0) / Math.log(s1 / s0)
  return shownW * (t0 / s0 + t * (t1 / s1 - t0 / s0))
}

/** A meter that may have been held against a better one. */
export type Calibrated<M extends Meter> = M & {
  calibration?: { points: CalibrationPoints; doubt: number } | undefined
}

/** The meter as its corrected readings are to be trusted: what calibration left of its error, as a share of the reading. */
export const calibratedMeter = <M extends Meter>(meter: Calibrated<M>): Meter =>
  meter.calibration
    ? { ...meter, accuracy: meter.calibration.doubt, accuracyOf: 'reading', divisions: undefined }
    : meter
