/** Stages without a matrix of their own: a tuner is set for the load it meets, an amplifier begins anew. */
import type { AmplifierStage } from '../source/amplifier.ts'
import type { TunerStage } from '../tuner/kinds.ts'
import type { StageModel } from './model.ts'

/** What a tuner does follows from the load it meets, and that is drawn. */
export const tunerModel: StageModel<TunerStage> = {
  check: (stage, { positive, notNegative }) => {
    if (stage.method === 'given') notNegative(stage.lossDb, 'Loss', 'lossDb')
    else {
      positive(stage.coilQ, 'Coil Q', 'coilQ')
      positive(stage.capacitorQ, 'Capacitor Q', 'capacitorQ')
    }
  },
}

/**
 * Checks, matrix and tolerances of an amplifier: a through connection whose gain is solved by the drive.
 *
 * @internal
 */
export const amplifierModel: StageModel<AmplifierStage> = {
  check: ({ driveW, fullW, inputOhm }, { positive }) => {
    positive(driveW, 'Drive', 'driveW')
    positive(fullW, 'Full output', 'fullW')
    positive(inputOhm.rOhm, 'Input resistance', 'inputOhm', 'rOhm')
  },
}
