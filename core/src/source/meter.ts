/** What a wattmeter shows of a signal. Peak meters hold the PEP, averaging ones the mean. */
import { type Emission, meanToPeakOf } from './modes.ts'

export type MeterKind = 'averaging' | 'peak'

export interface Meter {
  kind: MeterKind
  /** Full scales to choose from, W, rising. */
  rangesW: readonly number[]
  /** Accuracy as a share of full scale. */
  accuracy: number
}

/** A through-line meter as many stations have one. */
export const usualMeter: Meter = {
  kind: 'averaging',
  rangesW: [5, 20, 50, 200, 500, 2000],
  accuracy: 0.05,
}

export interface Expectation {
  watts: number
  /** Full scale to use; null where the meter has none that is large enough. */
  rangeW: number | null
  /** Uncertainty of the reading, ± W. */
  doubtW: number
  /** Share of the scale that the needle uses, 0 to 1. */
  ofScale: number
}

/** Power of a PEP as the meter shows it in this mode, with the smallest range that holds it. */
export function expectOn(meter: Meter, pepW: number, emission: Emission): Expectation {
  const watts = meter.kind === 'peak' ? pepW : pepW * meanToPeakOf(emission)
  // The peaks of a voice must fit as well, whatever the needle says.
  const rangeW = meter.rangesW.find((full) => full >= watts) ?? null
  const full = rangeW ?? meter.rangesW.at(-1) ?? watts
  return { watts, rangeW, doubtW: full * meter.accuracy, ofScale: watts / full }
}

/** How a reading compares with what was expected, dB (negative: less than expected), and in words. */
export function compareReading(
  readW: number,
  expected: Expectation,
): { db: number; inside: boolean; words: string } {
  const db = 10 * Math.log10(readW / expected.watts)
  const inside = Math.abs(readW - expected.watts) <= expected.doubtW
  const words = inside
    ? 'inside what the meter can tell'
    : db > 0
      ? 'more than expected: is the power set higher, or the meter on another scale?'
      : db < -2.5 && db > -3.5
        ? 'half of it: is the radio in a reduced-power mode?'
        : 'less than expected: is the power set lower, or lost on the way here?'
  return { db, inside, words }
}
