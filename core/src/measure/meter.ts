/** What a meter shows of a signal, and how well. Peak meters hold the PEP, averaging ones the mean. */
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
  const full = rangeW ?? rangeFor(meter, shownW) ?? meter.rangesW.at(-1) ?? shownW
  const base = meter.accuracyOf === 'reading' || meter.rangesW.length === 0 ? shownW : full
  return base * meter.accuracy + (meter.divisions ? full / meter.divisions / 2 : 0)
}

/** What a meter shows of a PEP in a mode, W. */
export const shownOf = (meter: Pick<Meter, 'kind'>, pepW: number, emission: Emission): number =>
  meter.kind === 'peak' ? pepW : pepW * meanToPeakOf(emission)

export interface Expectation {
  watts: number
  /** Full scale to use; null where the meter has none that is large enough or finds its own. */
  rangeW: number | null
  /** Uncertainty of the reading, ± W. */
  doubtW: number
  /** Share of the scale that the needle uses, 0 to 1; 1 where the meter finds its own. */
  ofScale: number
}

/** Power of a PEP as the meter shows it in this mode, with the smallest range that holds it. */
export function expectOn(meter: Meter, pepW: number, emission: Emission): Expectation {
  const watts = shownOf(meter, pepW, emission)
  const rangeW = rangeFor(meter, watts)
  const full = rangeW ?? meter.rangesW.at(-1) ?? watts
  return {
    watts,
    rangeW,
    doubtW: readingDoubtW(meter, watts, full),
    ofScale: full > 0 ? watts / full : 1,
  }
}

export interface Compared {
  /** Read over expected, dB; negative where less was read. */
  db: number
  inside: boolean
  words: string
}

/**
 * How a reading compares with what was expected, and in words.
 *
 * @param doubtW of reading and expectation together, ± W
 */
export function compareReading(readW: number, expectedW: number, doubtW: number): Compared {
  const db = 10 * Math.log10(readW / expectedW)
  const inside = Math.abs(readW - expectedW) <= doubtW
  const words = inside
    ? 'inside the uncertainty'
    : db > 0
      ? 'more than expected: is the power set higher, or the meter on another scale?'
      : db < -2.5 && db > -3.5
        ? 'half of it: is the radio in a reduced-power mode?'
        : 'less than expected: is the power set lower, or lost on the way here?'
  return { db, inside, words }
}
