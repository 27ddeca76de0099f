/** A tuner has no matrix of its own: it is set for the load it meets. */
import type { TunerStage } from '../tuner/kinds.ts'
import type { StageModel } from './model.ts'
import { heatStress, stressOf, voltageStress } from './stress.ts'

/** Of parts that lose nothing. */
const PERFECT_Q = 1e9

/**
 * Checks, stresses and tolerances of a tuner. What it does follows from the load it meets, and that is drawn.
 *
 * @internal
 */
export const tunerModel: StageModel<TunerStage & { ratedW?: number }> = {
  check: (stage, { positive, notNegative }) => {
    if (stage.method === 'given') notNegative(stage.lossDb, 'Loss', 'lossDb')
    else {
      positive(stage.coilQ, 'Coil Q', 'coilQ')
      positive(stage.capacitorQ, 'Capacitor Q', 'capacitorQ')
    }
  },
  stresses: (_stage, at) => {
    const { elements } = at.state.tuner!
    const worst = Math.max(0, ...elements.map((element) => element.voltageRms))
    return [
      stressOf(at.part, 'power', at.before.netW, at.ratings.pepW, 'W', 'PEP'),
      ...(elements.length > 0 ? [voltageStress(at, worst)] : []),
      ...(at.ratings.averageW ? [heatStress(at)] : []),
    ]
  },
  ratings: ({ ratedW }) => ({ pepW: ratedW }),
  lossless: (stage) =>
    stage.method === 'given'
      ? { ...stage, lossDb: 0 }
      : { ...stage, coilQ: PERFECT_Q, capacitorQ: PERFECT_Q },
}
