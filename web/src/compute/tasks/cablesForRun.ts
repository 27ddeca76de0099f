/** One section of a chain with every cable that could be in it. */
import {
  answerChain,
  middleW,
  type Cable,
  type Chain,
  InputError,
  type OperatingPoint,
  withCable,
} from '@saltline/core'
import type { Task } from '../task.ts'

export interface CablesForRunRequest {
  chain: Chain
  at: OperatingPoint
  /** Index of the section. */
  stage: number
  cables: { id: string; cable: Cable }[]
}

/** Watts at the antenna by cable; null where the chain has no figure. */
export type CablesForRun = Record<string, number | null>

export const cablesForRunTask: Task<CablesForRunRequest, CablesForRun> = (
  { chain, at, stage, cables },
  progress,
): CablesForRun => {
  const section = chain.stages[stage]!
  return Object.fromEntries(
    cables.map(({ id, cable }, k): [string, number | null] => {
      progress(k / cables.length)
      try {
        const stages = chain.stages.with(stage, withCable(section, cable))
        return [id, middleW(answerChain({ ...chain, stages }, at))]
      } catch (error) {
        if (error instanceof InputError) return [id, null]
        throw error
      }
    }),
  )
}
