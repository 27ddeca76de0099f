/** What the meter should show at the steps of a run, and what the parts bear there. */
import {
  chainOfStep,
  type ExpandedStep,
  type ExpectedReading,
  expectStep,
  InputError,
  limitsOfStep,
  type Meter,
  type RatedChain,
  type RunChannel,
  type Stress,
  type Surroundings,
  type Tolerances,
} from '@saltline/core'
import { serve } from './serve.ts'

export interface StepFiguresRequest {
  chain: RatedChain
  steps: { step: ExpandedStep; channel: RunChannel; around: Surroundings }[]
  tolerances: Tolerances
  meter: Meter
}

export interface StepFigures {
  expected: ExpectedReading
  limits: Stress[]
}

/** By the id of the step; why there is no figure otherwise. */
export type AllStepFigures = Record<string, StepFigures | string>

serve(({ chain, steps, tolerances, meter }: StepFiguresRequest, progress): AllStepFigures => {
  const all: AllStepFigures = {}
  steps.forEach(({ step, channel, around }, i) => {
    try {
      all[step.id] = {
        expected: expectStep(chain, step, channel, { tolerances, meter }),
        // A limit that the chain as it stands passes already is Headroom's to say, not the reading's.
        limits: limitsOfStep(chainOfStep(chain, step, channel), around),
      }
    } catch (error) {
      if (!(error instanceof InputError)) throw error
      all[step.id] = error.message
    }
    progress((i + 1) / steps.length)
  })
  return all
})
