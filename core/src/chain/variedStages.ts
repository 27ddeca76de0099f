/** Stages whose figures are drawn within what is known of them: one table for every kind. */
import type { Stage } from '../stages/stage.ts'
import { normal, type Random } from '../statistics/random.ts'
import type { Tolerances } from './tolerances.ts'

/** Tolerances are two deviations of a normal spread. */
export const half = (random: Random): number => normal(random) / 2

interface Variation<S> {
  /** A copy whose drawn figures may be overwritten. */
  copy: (stage: S) => S
  /** Draws the figures of `to` anew around those of `from`. */
  draw: (from: S, to: S, tolerances: Tolerances, random: Random) => void
}

/** Kinds whose figures are taken as they are given. */
const held = { copy: <S>(stage: S): S => stage, draw: () => {} }

const variations: { [K in Stage['kind']]: Variation<Extract<Stage, { kind: K }>> } = {
  line: {
    copy: (stage) => ({ ...stage, cable: { ...stage.cable } }),
    draw: (from, to, tolerances, random) => {
      to.lengthM = from.lengthM * Math.max(0, 1 + half(random) * tolerances.length)
      const loss = Math.max(0, 1 + half(random) * tolerances.cable)
      to.cable.k1DbPer100m = from.cable.k1DbPer100m * loss
      to.cable.k2DbPer100m = from.cable.k2DbPer100m * loss
    },
  },
  pad: {
    copy: (stage) => ({ ...stage }),
    draw: (from, to, tolerances, random) => {
      const loss = Math.max(0, 1 + half(random) * tolerances.parts)
      to.lossDb = from.lossDb * loss
      if (from.points) to.points = from.points.map(([hz, db]) => [hz, db * loss] as const)
    },
  },
  // Measured, or given by its values: better known than anything that a rule of practice would draw.
  measured: held,
  series: held,
  shunt: held,
  // What a tuner does follows from the load it meets, and that is drawn; so is an amplifier's drive.
  tuner: held,
  amplifier: held,
}

/** Copies of some stages, and a function that draws their figures anew in place. */
export function variedStages(nominal: readonly Stage[]): {
  stages: Stage[]
  draw: (tolerances: Tolerances, random: Random) => void
} {
  const variationOf = (stage: Stage) => variations[stage.kind] as Variation<Stage>
  const stages = nominal.map((stage) => variationOf(stage).copy(stage))
  return {
    stages,
    draw: (tolerances, random) =>
      nominal.forEach((from, k) => variationOf(from).draw(from, stages[k]!, tolerances, random)),
  }
}
