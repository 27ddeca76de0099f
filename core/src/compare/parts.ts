/** What each part of a chain could give at most. */
import type { Chain, OperatingPoint } from '../chain/chain.ts'
import { answerChain, middleW } from '../chain/phaseRange.ts'
import { cableClasses, type CableClass } from '../cables/cableClass.ts'
import { withCable } from '../stages/withCable.ts'
import { modelOf } from '../stages/stage.ts'

export interface PartGain {
  /** Index of the stage. */
  stage: number
  /** More at the antenna if it lost nothing, dB. */
  idealDb: number
  /** The class of the same impedance that gives most there, and how much more; null for what is no cable. */
  best: { cable: CableClass; db: number } | null
}

/** Classes this near in impedance may stand in for each other, Ω. */
const SAME_OHM = 5

/**
 * For every part in circuit that takes power, what the antenna would get more without its loss, and with the best
 * class of cable in its place. Largest first.
 *
 * @param fits whether a class may stand in a stage, by its index
 * @throws InputError where the chain has no answer
 */
export function partGains(
  chain: Chain,
  at: OperatingPoint,
  fits: (stage: number, cable: CableClass) => boolean = () => true,
): PartGain[] {
  const answer = answerChain(chain, at)
  const now = answer.solution
  const nowW = middleW(answer)
  const gain = (stages: Chain['stages']) =>
    10 * Math.log10(middleW(answerChain({ ...chain, stages }, at)) / nowW)
  return chain.stages
    .flatMap((stage, k): PartGain[] => {
      if (stage.bypassed || stage.kind === 'amplifier' || !(now.stages[k]!.lossW > 0)) return []
      const ideal = modelOf(stage).lossless(stage)
      const idealDb = gain(ideal ? chain.stages.with(k, ideal) : chain.stages.toSpliced(k, 1))
      if (stage.kind !== 'line') return [{ stage: k, idealDb, best: null }]
      // What loses least of itself may make another mismatch: every class is solved.
      const best = cableClasses
        .filter((sheet) => Math.abs(sheet.z0Ohm - stage.cable.z0Ohm) < SAME_OHM && fits(k, sheet))
        .map((cable) => ({ cable, db: gain(chain.stages.with(k, withCable(stage, cable))) }))
        .reduce<PartGain['best']>((a, b) => (a && a.db >= b.db ? a : b), null)
      return [{ stage: k, idealDb, best }]
    })
    .sort((a, b) => b.idealDb - a.idealDb)
}
