/** An amplifier has no matrix: behind it a chain begins anew. */
import type { AmplifierStage } from '../source/amplifier.ts'
import type { StageModel } from './model.ts'
import { stressOf } from './stress.ts'

/**
 * Checks and stresses of an amplifier; its gain is solved by the drive.
 *
 * @internal
 */
export const amplifierModel: StageModel<AmplifierStage> = {
  check: ({ driveW, fullW, inputOhm }, { positive }) => {
    positive(driveW, 'Drive', 'driveW')
    positive(fullW, 'Full output', 'fullW')
    positive(inputOhm.rOhm, 'Input resistance', 'inputOhm', 'rOhm')
  },
  stresses: ({ tripReflectedW, tripSwr }, { part, behind, state }) => {
    const { driveW, mostDriveW } = state.amplifier!
    return [
      stressOf(part, 'drive', driveW, mostDriveW, 'W', 'PEP'),
      ...(tripReflectedW === undefined
        ? []
        : [stressOf(part, 'reflected', behind.reflectedW, tripReflectedW, 'W', 'PEP')]),
      ...(tripSwr === undefined
        ? []
        : [{ ...stressOf(part, 'SWR', behind.swr, tripSwr, '', 'PEP'), headroomDb: null }]),
    ]
  },
  lossless: () => null,
}
