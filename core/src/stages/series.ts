import { heatStress, voltageStress } from './stress.ts'
import type { StageModel } from './model.ts'
import { type Abcd, reactanceAt, writeThrough } from './twoPort.ts'

/** An impedance in the way of the current, Ω. */
export interface SeriesStage {
  kind: 'series'
  rOhm: number
  xOhm: number
  /** Where the reactance was stated, Hz; without it X is the same at every frequency. */
  atHz?: number | undefined
}

/**
 * Matrix of an impedance in series.
 *
 * @internal
 */
function writeSeries(stage: SeriesStage, frequencyHz: number, out: Abcd): void {
  writeThrough(out)
  out[2] = stage.rOhm
  out[3] = reactanceAt(stage.xOhm, stage.atHz, frequencyHz)
}

/**
 * Checks, matrix and tolerances of an impedance in series.
 *
 * @internal
 */
export const seriesModel: StageModel<SeriesStage> = {
  check: ({ rOhm }, { notNegative }) => {
    notNegative(rOhm, 'Resistance', 'rOhm')
  },
  write: (stage, hz, _reference, out) => writeSeries(stage, hz, out),
  flat: ({ atHz }) => atHz === undefined,
  stresses: ({ rOhm, xOhm }, at) => [
    voltageStress(at, Math.hypot(rOhm, xOhm) * at.before.currentRms),
    heatStress(at),
  ],
  lossless: (stage) => ({ ...stage, rOhm: 0 }),
}

/**
 * The resistance in series that loses so much on a matched line, Ω: |S21| = 2·Z₀/(2·Z₀ + R).
 *
 * @example jointOhm(6.0206, 50) // 100
 */
export const jointOhm = (db: number, referenceOhm: number): number =>
  2 * referenceOhm * (10 ** (db / 20) - 1)
