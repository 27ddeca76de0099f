/** Stages whose figures are drawn within what is known of them. */
import type { Random } from '../statistics/random.ts'
import { modelOf, type Stage } from '../stages/stage.ts'
import type { Tolerances } from './tolerances.ts'

/** Copies of some stages, and a function that draws their figures anew in place. */
export function variedStages(nominal: readonly Stage[]): {
  stages: Stage[]
  draw: (tolerances: Tolerances, random: Random) => void
} {
  const stages = nominal.map((stage) => modelOf(stage).varied?.copy(stage) ?? stage)
  return {
    stages,
    draw: (tolerances, random) =>
      nominal.forEach((from, k) =>
        modelOf(from).varied?.draw(from, stages[k]!, tolerances, random),
      ),
  }
}
