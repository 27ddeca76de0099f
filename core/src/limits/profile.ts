/** Voltage and heat along a chain, as shares of their limits. */
import { stressAlongLine } from '../chain/solve.ts'
import type { Solution } from '../chain/solution.ts'
import { type RatedStage, ratingsOf } from './ratings.ts'
import { permittedHeatWPerM, type Stress } from '../stages/stress.ts'
import { stressesOf, type Surroundings, thermalShare } from './stress.ts'

/** Stress over limit; null where the limit is not known. One value a step along the stage. */
export interface StageProfile {
  voltage: number[] | null
  heat: number[] | null
}

const LINE_STEPS = 65

/** For every stage its steps from the transmitter's side; a device has one value at both its ends. */
export function profileOf(
  stages: readonly RatedStage[],
  solution: Solution,
  around: Surroundings,
): StageProfile[] {
  const stresses = stressesOf(stages, solution, around)
  return stages.map((stage, k): StageProfile => {
    if (stage.bypassed) return { voltage: null, heat: null }
    if (stage.kind !== 'line') {
      const share = (...kinds: Stress['kind'][]) => {
        const found = stresses.find((s) => s.part === k && kinds.includes(s.kind))
        return found?.limit ? [found.stress / found.limit, found.stress / found.limit] : null
      }
      return {
        voltage: share('voltage', 'firing'),
        heat: share('heat'),
      }
    }
    const ratings = ratingsOf(stage)
    const { voltageRms, heatWPerM } = stressAlongLine(stage, solution, k, LINE_STEPS)
    const permitted = permittedHeatWPerM(stage.cable, {
      ...around,
      ratings,
      frequencyHz: solution.frequencyHz,
    })
    const mean = thermalShare(around, ratings.timeConstantS)
    const { voltageRms: rated } = ratings
    return {
      voltage: rated === undefined ? null : voltageRms.map((v) => v / rated),
      heat: permitted ? heatWPerM.map((w) => (w * mean) / permitted) : null,
    }
  })
}
