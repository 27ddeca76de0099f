/** What a meter shows of a signal, and how well. Peak meters hold the PEP, averaging ones the mean. */
import type { Uncertain } from '../statistics/propagate.ts'
import type { Range } from '../statistics/quantile.ts'
import { type Emission, meanToPeakOf } from '../source/modes.ts'

export type MeterKind = 'averaging' | 'peak'

export interface Meter {
  kind: MeterKind
  /** Full scales to choose from, W, rising. Empty for a meter that finds its own range. */
  rangesW: readonly number[]
  /** Largest error, as a share of what `accuracyOf` says. */
  accuracy: number
  /** Full scale unless given. */
  accuracyOf?: 'full scale' | 'reading' | undefined
  /** Marks from 0 to full scale of a needle; half a mark is added to its error. */
  divisions?: number | undefined
  /** How well it keeps forward and reflected apart, dB; infinite unless given. */
  directivityDb?: number | undefined
}

/** A through-line meter as many stations have one. */
export const usualMeter: Meter = {
  kind: 'averaging',
  rangesW: [5, 20, 50, 200, 500, 2000],
  accuracy: 0.05,
  directivityDb: 25,
}

/** The smallest range that holds a power, W; null where none does or the meter finds its own. */
export const rangeFor = ({ rangesW }: Meter, watts: number): number | null =>
  rangesW.find((full) => full >= watts) ?? null

/**
 * Largest error of a reading, ± W: accuracy of full scale or of the reading, and half a division.
 *
 * @param rangeW it was read on; the smallest that holds it unless given
 */
export function readingDoubtW(meter: Meter, shownW: number, rangeW?: number | null): number {
  const { doubt, and } = doubtsW(meter, shownW, rangeW)
  return doubt + and
}

/** The two parts of it, which have nothing to do with each other: its accuracy, and half a division of its needle. */
function doubtsW(meter: Meter, shownW: number, rangeW?: number | null) {
  const full = rangeW ?? rangeFor(meter, shownW) ?? meter.rangesW.at(-1) ?? shownW
  return {
    doubt: meter.accuracy * (isOfReading(meter) ? shownW : full),
    and: halfMarkW(meter, full),
  }
}

/** Where the errors of one reading stand between their limits, −1 … 1: of its scale, and of half a mark of its needle. */
export interface ReadingErrors {
  off: number
  mark: number
}

/**
 * What a meter shows of watts with its errors, on a range (W) or, unless that is given, on the smallest on which it stays on
 * its scale.
 */
export function showing(
  meter: Meter,
  watts: number,
  errors: ReadingErrors,
  rangeW?: number | null,
): number {
  if (rangeW != null) return showingOn(meter, watts, errors, rangeW)
  for (const full of meter.rangesW) {
    const shown = showingOn(meter, watts, errors, full)
    if (shown <= full) return shown
  }
  return showingOn(meter, watts, errors, meter.rangesW.at(-1) ?? watts)
}

function showingOn(
  meter: Meter,
  watts: number,
  { off, mark }: ReadingErrors,
  full: number,
): number {
  const scale = meter.accuracy * (isOfReading(meter) ? watts : full)
  return Math.max(0, watts + off * scale + mark * halfMarkW(meter, full))
}

/** Whether it errs by a share of what it reads. */
const isOfReading = ({ accuracyOf, rangesW }: Meter): boolean =>
  accuracyOf === 'reading' || rangesW.length === 0

const halfMarkW = ({ divisions }: Meter, full: number): number =>
  divisions ? full / divisions / 2 : 0

/**
 * A reading with how far it may be off, W.
 *
 * @param rangeW it was read on; unless given the smallest that holds it, or the next one where that might not have held what
 *   was there
 */
export function asRead(meter: Meter, shownW: number, rangeW?: number | null): Uncertain {
  const own = { value: shownW, ...doubtsW(meter, shownW, rangeW) }
  if (rangeW != null || isOfReading(meter)) return own
  const above = rangeFor(meter, shownW)
  const next = meter.rangesW.find((full) => above !== null && full > above)
  if (above === null || next === undefined) return own
  const { doubt, and } = doubtsW(meter, shownW, next)
  const most = shownW + doubt + and + own.doubt + own.and
  return most > above ? { ...own, orOn: { doubt, and, above } } : own
}

/** What a meter shows of a PEP in a mode, W. */
export const shownOf = (meter: Pick<Meter, 'kind'>, pepW: number, emission: Emission): number =>
  meter.kind === 'peak' ? pepW : pepW * meanToPeakOf(emission)

export interface Compared {
  /** Read over expected, dB; negative where less was read. */
  db: number
  /** `half`: 2.5 to 3.5 dB less, as in a reduced-power mode. */
  is: 'inside' | 'more' | 'half' | 'less'
}

/**
 * How a reading (W) compares with what was expected (W).
 *
 * @param range in which a reading is as expected, W
 * @example compareReading(51, 100, { low: 90, high: 110 }) // { db: -2.924, is: 'half' }
 */
export function compareReading(readW: number, expectedW: number, range: Range): Compared {
  const db = 10 * Math.log10(readW / expectedW)
  if (readW >= range.low && readW <= range.high) return { db, is: 'inside' }
  if (db > 0) return { db, is: 'more' }
  return { db, is: db < -2.5 && db > -3.5 ? 'half' : 'less' }
}

/** |ρ| that the meter makes of nothing, 10^(−D/20). */
export const leakOf = ({ directivityDb = Infinity }: Pick<Meter, 'directivityDb'>): number =>
  10 ** (-directivityDb / 20)
