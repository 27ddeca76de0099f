/** What the meter should show at the steps of a run, what the parts withstand there, and what stands against keying. */
import {
  against,
  cureOf,
  type Done,
  type ExpandedStep,
  type ExpectedStep,
  expectStep,
  followed,
  InputError,
  later,
  limitsAt,
  type Meter,
  runModel,
  type RunStation,
  type Stress,
  type Tolerances,
  type Violation,
} from '@saltline/core'
import type { Task } from '../task.ts'

export interface StepFiguresRequest {
  station: RunStation
  /** The steps that are asked about. */
  steps: ExpandedStep[]
  tolerances: Tolerances
  meter: Meter
  /** Of a run that is on: all of its steps, what was done, and the time now, s. */
  run?: { steps: ExpandedStep[]; done: Done[]; nowS: number } | undefined
}

export interface StepFigures {
  /** What the meter should show; why nothing is expected; null where nothing is read. */
  expected: ExpectedStep | string | null
  limits: Stress[]
  /** What stands against the step now, with the step that puts it right. */
  against: { violation: Violation; cure: number | null }[]
}

/** By the id of the step. */
export type AllStepFigures = Record<string, StepFigures>

export const stepFiguresTask: Task<StepFiguresRequest, AllStepFigures> = (
  { station, steps, tolerances, meter, run },
  progress,
): AllStepFigures => {
  const all: AllStepFigures = {}
  const model = runModel(station)
  const state = later(followed(model, run?.steps ?? [], run?.done ?? []), run?.nowS ?? 0)
  steps.forEach((step, i) => {
    const moment = model.momentOf(step, state)
    const expect = () => {
      try {
        return expectStep(station.chain, step, moment.channel, { tolerances, meter })
      } catch (error) {
        if (!(error instanceof InputError)) throw error
        return error.message
      }
    }
    all[step.id] = {
      expected: step.kind === 'read' ? expect() : null,
      limits: step.kind === 'read' ? limitsAt(moment) : [],
      against: run
        ? against(model, step, state).map((violation) => ({
            violation,
            cure: cureOf(violation, moment, run.steps),
          }))
        : [],
    }
    progress((i + 1) / steps.length)
  })
  return all
}
