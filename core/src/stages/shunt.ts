import { heatStress, voltageStress, voltsAcross } from './stress.ts'
import type { StageModel } from './model.ts'
import { type Abcd, reactanceAt, writeThrough } from './twoPort.ts'

/** A branch from the line to ground: R and X in series with each other, Ω. */
export interface ShuntStage {
  kind: 'shunt'
  rOhm: number
  xOhm: number
  /** Where the reactance was stated, Hz; without it X is the same at every frequency. */
  atHz?: number | undefined
}

/**
 * Matrix of an impedance across the line.
 *
 * @internal
 */
function writeShunt(stage: ShuntStage, frequencyHz: number, out: Abcd): void {
  writeThrough(out)
  const x = reactanceAt(stage.xOhm, stage.atHz, frequencyHz)
  const d = stage.rOhm * stage.rOhm + x * x
  out[4] = stage.rOhm / d
  out[5] = -x / d
}

/**
 * Checks, matrix and tolerances of an impedance across the line.
 *
 * @internal
 */
export const shuntModel: StageModel<ShuntStage> = {
  check: ({ rOhm, xOhm }, { notNegative, refuse }) => {
    notNegative(rOhm, 'Resistance', 'rOhm')
    if (rOhm === 0 && xOhm === 0)
      refuse('A shunt of 0 Ω is a short circuit: nothing gets past it.', 'rOhm')
  },
  write: (stage, hz, _reference, out) => writeShunt(stage, hz, out),
  flat: ({ atHz }) => atHz === undefined,
  stresses: (_stage, at) => [voltageStress(at, voltsAcross(at)), heatStress(at)],
  lossless: (stage) => (stage.xOhm === 0 ? null : { ...stage, rOhm: 0 }),
}
