/** A sheet written out for a station, and what is dangerous about it. */
import {
  type Danger,
  dangersOf,
  InputError,
  type PlannedStep,
  planRun,
  runModel,
  type RunSheet,
  type RunStation,
} from '@saltline/core'
import type { Task } from '../task.ts'

export interface RunPlanRequest {
  sheet: RunSheet
  station: RunStation
  channelId: string
}

export interface RunPlan {
  steps: PlannedStep[]
  dangers: Danger[]
}

export const runPlanTask: Task<RunPlanRequest, RunPlan> = (
  { sheet, station, channelId },
  progress,
): RunPlan => {
  const channel = station.channels.find(({ id }) => id === channelId)
  if (!channel) throw new InputError('The channel is no longer in the chain.')
  const model = runModel(station)
  const steps = planRun(sheet, model, channel, progress)
  return { steps, dangers: dangersOf(steps, model) }
}
