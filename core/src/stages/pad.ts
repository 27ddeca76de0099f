import type { Abcd } from './twoPort.ts'

/** A matched two-port of known loss: connector, switch, arrester, meter, filter, choke, attenuator. */
export interface PadStage {
  kind: 'pad'
  /** Insertion loss between matched ends, dB ≥ 0. */
  lossDb: number
  /** Where the loss was stated, Hz; it then grows as √f. Without it the loss is flat. */
  atHz?: number | undefined
}

export const padLossDb = (stage: PadStage, frequencyHz: number): number =>
  stage.atHz === undefined ? stage.lossDb : stage.lossDb * Math.sqrt(frequencyHz / stage.atHz)

/** A matched attenuator is a lossy line of no length: [cosh a, Z₀·sinh a; sinh a/Z₀, cosh a]. */
export function writePad(
  stage: PadStage,
  frequencyHz: number,
  referenceOhm: number,
  out: Abcd,
): void {
  const nepers = (padLossDb(stage, frequencyHz) * Math.LN10) / 20
  out.fill(0)
  out[0] = Math.cosh(nepers)
  out[2] = referenceOhm * Math.sinh(nepers)
  out[4] = Math.sinh(nepers) / referenceOhm
  out[6] = out[0]
}
