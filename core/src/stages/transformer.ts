import { powerStress, voltageStress, voltsAcross } from './stress.ts'
import { half } from '../statistics/random.ts'
import type { StageModel } from './model.ts'
import { writePad } from './pad.ts'
import { type Abcd, thenRatio, thenSeries, thenShunt } from './twoPort.ts'

/**
 * A transformer, balun or unun: an ideal ratio with what is known of its losses and reactances, which all sit on the
 * transmitter's side of it. With nothing known but its loss it is that loss on 50 Ω and the ratio.
 */
export interface TransformerStage {
  kind: 'transformer'
  /** Impedance on the antenna's side over that on the transmitter's: 4 makes 50 Ω of 200 Ω. */
  ratio: number
  /** Insertion loss between matched ends, dB ≥ 0, without what core and reactances below take. */
  lossDb: number
  /** Where the reactances were stated, Hz; they go with f. */
  atHz: number
  /** Leakage reactance, in series, Ω at `atHz`. */
  leakageOhm?: number | undefined
  /** Magnetising reactance, in parallel, Ω at `atHz`. */
  magnetisingOhm?: number | undefined
  /** Core loss as a resistance in parallel, Ω; the same at every frequency. */
  coreOhm?: number | undefined
}

/** Loss, core and magnetising branch across, leakage in line, then the ideal ratio. */
function writeTransformer(
  stage: TransformerStage,
  frequencyHz: number,
  referenceOhm: number,
  out: Abcd,
): void {
  const { ratio, lossDb, atHz, leakageOhm, magnetisingOhm, coreOhm } = stage
  const f = frequencyHz / atHz
  writePad({ kind: 'pad', lossDb }, frequencyHz, referenceOhm, out)
  thenShunt(out, coreOhm ? 1 / coreOhm : 0, magnetisingOhm ? -1 / (magnetisingOhm * f) : 0)
  if (leakageOhm) thenSeries(out, 0, leakageOhm * f)
  thenRatio(out, Math.sqrt(ratio))
}

/**
 * Checks, matrix and tolerances of a transformer.
 *
 * @internal
 */
export const transformerModel: StageModel<TransformerStage> = {
  check: ({ ratio, lossDb, atHz, leakageOhm, magnetisingOhm, coreOhm }, checks) => {
    checks.positive(ratio, 'Impedance ratio', 'ratio')
    checks.notNegative(lossDb, 'Loss', 'lossDb')
    checks.positive(atHz, 'Frequency', 'atHz')
    if (leakageOhm !== undefined) checks.notNegative(leakageOhm, 'Leakage reactance', 'leakageOhm')
    if (magnetisingOhm !== undefined)
      checks.positive(magnetisingOhm, 'Magnetising reactance', 'magnetisingOhm')
    if (coreOhm !== undefined) checks.positive(coreOhm, 'Core loss resistance', 'coreOhm')
  },
  write: writeTransformer,
  varied: {
    copy: (stage) => ({ ...stage }),
    draw: (from, to, tolerances, random) => {
      to.lossDb = from.lossDb * Math.max(0, 1 + half(random) * tolerances.parts)
    },
  },
  stresses: (_stage, at) => [
    voltageStress(at, voltsAcross(at)),
    // On the transmitter's side, where its loss sits.
    powerStress(at, at.before),
  ],
  lossless: (stage) => ({ ...stage, lossDb: 0, coreOhm: undefined }),
}
