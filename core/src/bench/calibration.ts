import { InputError } from '../errors.ts'
import { type Meter, readingDoubtW } from '../measure/meter.ts'
import { normalShare } from '../statistics/gaussian.ts'

/** A meter held against a better one: what it showed, and what was true, W; rising. */
export type CalibrationPoints = readonly (readonly [shownW: number, trueW: number])[]

export interface Calibration {
  points: CalibrationPoints
  /** How far a corrected reading may still be off, as a share: the better meter's error and the scatter together. */
  doubt: number
  /** The scatter alone, as a share. */
  scatter: number
}

/** Readings of the known meter this near to each other are of one power. */
const SAME_SHARE = 0.02
/** Of a reading that is off by up to so much evenly, nine in ten lie within this share of it. */
const NINE_IN_TEN = 0.9

interface Pair {
  shownW: number
  trueW: number
}

/**
 * The correction of a meter: readings at one power are joined, the rest stands as read. How far a corrected reading may be
 * off follows from the known meter's error and from the scatter, so that nine in ten lie within nine tenths of it.
 *
 * @param pairs what the meter showed and what a known one showed, W, on one signal
 * @throws InputError, under `pairs`, where a reading is not more than 0 W
 * @example calibrate([{ shownW: 50, trueW: 45 }, { shownW: 100, trueW: 92 }], meter).points // [[50, 45], [100, 92]]
 */
export function calibrate(pairs: readonly Pair[], known: Meter): Calibration {
  if (pairs.length === 0) throw new InputError('Read both meters at one power at least.', ['pairs'])
  pairs.forEach(({ shownW, trueW }, i) => {
    if (!(shownW > 0) || !(trueW > 0))
      throw new InputError('A meter must show more than 0 W.', ['pairs', i])
  })
  const groups = groupsByPower(pairs)
  const points = groups.map((group): [number, number] => [
    mean(group.map((p) => p.shownW)),
    mean(group.map((p) => p.trueW)),
  ])
  const { deviation, freedom } = scatterOf(groups)
  // A new reading scatters, and so does the mean that it is corrected by.
  const each = pairs.length / groups.length
  const reading = deviation * Math.sqrt(1 + 1 / each) * studentFactor(freedom)
  const own = pairs.map(({ trueW }) => readingDoubtW(known, trueW) / trueW)
  return { points, scatter: 2 * deviation, doubt: nineInTen(own, reading) / NINE_IN_TEN }
}

const mean = (values: readonly number[]): number =>
  values.reduce((a, b) => a + b, 0) / values.length

/** Pairs of one power together, rising in what was shown: where scatter turns two powers round, they are joined. */
function groupsByPower(pairs: readonly Pair[]): Pair[][] {
  const groups: Pair[][] = []
  for (const pair of pairs.toSorted((a, b) => a.trueW - b.trueW)) {
    const last = groups.at(-1)
    if (last && pair.trueW <= last[0]!.trueW * (1 + SAME_SHARE)) last.push(pair)
    else groups.push([pair])
  }
  const shown = (group: readonly Pair[]) => mean(group.map((p) => p.shownW))
  for (let i = 1; i < groups.length;) {
    if (shown(groups[i]!) > shown(groups[i - 1]!)) i++
    else {
      groups.splice(i - 1, 2, [...groups[i - 1]!, ...groups[i]!])
      i = Math.max(1, i - 1)
    }
  }
  return groups
}

/**
 * Deviation of true over shown, as a share: from readings of one power; where every power was read once, from how far the
 * factors lie off a straight line between their neighbours.
 */
function scatterOf(groups: readonly (readonly Pair[])[]): { deviation: number; freedom: number } {
  const factors = groups.map((group) => group.map(({ shownW, trueW }) => trueW / shownW))
  const repeats = factors.reduce((sum, group) => sum + group.length - 1, 0)
  if (repeats > 0) {
    const squares = factors.reduce((sum, group) => {
      const middle = mean(group)
      return sum + group.reduce((own, factor) => own + (factor / middle - 1) ** 2, 0)
    }, 0)
    return { deviation: Math.sqrt(squares / repeats), freedom: repeats }
  }
  if (groups.length < 3) return { deviation: 0, freedom: Infinity }
  const at = groups.map((group) => Math.log(group[0]!.shownW))
  let squares = 0
  for (let i = 1; i < groups.length - 1; i++) {
    const t = (at[i]! - at[i - 1]!) / (at[i + 1]! - at[i - 1]!)
    const [f0, f1, f2] = [factors[i - 1]![0]!, factors[i]![0]!, factors[i + 1]![0]!]
    const off = f1 / (f0 + t * (f2 - f0)) - 1
    squares += off ** 2 / (1 + t ** 2 + (1 - t) ** 2)
  }
  return { deviation: Math.sqrt(squares / (groups.length - 2)), freedom: groups.length - 2 }
}

/** A deviation that was itself estimated counts for more: Student's t at 95 % over the normal's. Abramowitz & Stegun 26.7.5. */
function studentFactor(freedom: number): number {
  const z = 1.6449
  if (freedom < 3) return freedom < 2 ? 6.314 / z : 2.92 / z
  return 1 + (z ** 2 + 1) / (4 * freedom) + (5 * z ** 4 + 16 * z ** 2 + 3) / (96 * freedom ** 2)
}

/** What nine in ten errors stay within: even within ± own, and normal on top; all of `own` alike often. */
function nineInTen(own: readonly number[], deviation: number): number {
  const within = (q: number) => mean(own.map((most) => shareWithin(q, most, deviation)))
  let low = 0
  let high = Math.max(...own) + 4 * deviation
  for (let i = 0; i < 36; i++) {
    const middle = (low + high) / 2
    if (within(middle) < 0.9) low = middle
    else high = middle
  }
  return high
}

/** The share of even(± most) + normal(deviation) that lies within ± q. */
function shareWithin(q: number, most: number, deviation: number): number {
  if (deviation <= 0) return most <= 0 ? 1 : Math.min(1, q / most)
  const steps = 24
  let sum = 0
  for (let i = 0; i < steps; i++) {
    const at = most * ((2 * i + 1) / steps - 1)
    sum += normalShare((q - at) / deviation) - normalShare((-q - at) / deviation)
  }
  return sum / steps
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
