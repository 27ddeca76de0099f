import { type Abcd, reactanceAt, writeThrough } from './twoPort.ts'

/** An impedance in the way of the current, Ω. */
export interface SeriesStage {
  kind: 'series'
  rOhm: number
  xOhm: number
  /** Where the reactance was stated, Hz; without it X is the same at every frequency. */
  atHz?: number | undefined
}

export function writeSeries(stage: SeriesStage, frequencyHz: number, out: Abcd): void {
  writeThrough(out)
  out[2] = stage.rOhm
  out[3] = reactanceAt(stage.xOhm, stage.atHz, frequencyHz)
}
