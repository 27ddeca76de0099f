import { type Abcd, hyperbolic, writeReal } from './twoPort.ts'

const hyper = new Float64Array(2)

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
  hyperbolic((padLossDb(stage, frequencyHz) * Math.LN10) / 20, hyper)
  const cosh = hyper[0]!
  const sinh = hyper[1]!
  writeReal(out, cosh, referenceOhm * sinh, sinh / referenceOhm, cosh)
}
