import { half } from '../statistics/random.ts'
import type { StageModel } from './model.ts'
import { heatOfLoad, powerStress, voltageStress, voltsAcross } from './stress.ts'
import { type Abcd, writeReal } from './twoPort.ts'

/**
 * A circulator with a load on its third port: what goes out passes, what comes back goes into the load. Matched on both
 * sides.
 */
export interface IsolatorStage {
  kind: 'isolator'
  /** Toward the antenna, dB ≥ 0. */
  lossDb: number
  /** Back toward the transmitter, dB, more than the loss. */
  isolationDb: number
  /** What its load bears on average, W. */
  loadW?: number | undefined
}

/** ABCD of S11 = S22 = 0, S21 = 10^(−loss/20), S12 = 10^(−isolation/20). Pozar, Microwave Engineering, table 4.2. */
function writeIsolator(
  { lossDb, isolationDb }: IsolatorStage,
  referenceOhm: number,
  out: Abcd,
): void {
  const through = 10 ** (-lossDb / 20)
  const both = 10 ** (-(lossDb + isolationDb) / 20)
  const sum = (1 + both) / (2 * through)
  const difference = (1 - both) / (2 * through)
  writeReal(out, sum, referenceOhm * difference, difference / referenceOhm, sum)
  out[8] = 0
}

/**
 * Checks, matrix, stresses and tolerances of an isolator.
 *
 * @internal
 */
export const isolatorModel: StageModel<IsolatorStage> = {
  check: ({ lossDb, isolationDb }, { notNegative, refuse }) => {
    notNegative(lossDb, 'Loss', 'lossDb')
    if (!(isolationDb >= lossDb))
      refuse('An isolator holds back more than it takes: raise the isolation.', 'isolationDb')
  },
  write: (stage, _hz, reference, out) => writeIsolator(stage, reference, out),
  varied: {
    copy: (stage) => ({ ...stage }),
    draw: (from, to, tolerances, random) => {
      to.lossDb = from.lossDb * Math.max(0, 1 + half(random) * tolerances.parts)
    },
  },
  flat: () => true,
  stresses: ({ loadW }, at) => [
    voltageStress(at, voltsAcross(at)),
    powerStress(at, at.before),
    // What comes back ends in its load.
    heatOfLoad(at, loadW),
  ],
  lossless: (stage) => ({ ...stage, lossDb: 0 }),
}
