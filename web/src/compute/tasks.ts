/** All that is computed off the page, by name. The page knows no more of it than the types: it is the worker's. */
import { alongLineTask } from './tasks/alongLine.ts'
import { bandTask } from './tasks/band.ts'
import { boardTask } from './tasks/board.ts'
import { cablesForRunTask } from './tasks/cablesForRun.ts'
import { compareTask } from './tasks/compare.ts'
import { compareCurvesTask } from './tasks/compareCurves.ts'
import { drillTask } from './tasks/drill.ts'
import { lineFitTask } from './tasks/lineFit.ts'
import { matchTask } from './tasks/match.ts'
import { mostTask } from './tasks/most.ts'
import { planTask } from './tasks/plan.ts'
import { readingsTask } from './tasks/readings.ts'
import { runPlanTask } from './tasks/runPlan.ts'
import { stepFiguresTask } from './tasks/stepFigures.ts'
import { sweepFileTask } from './tasks/sweepFile.ts'
import { tunerPlacesTask } from './tasks/tunerPlaces.ts'
import {
  diagnosisTask,
  limitsTask,
  nextSweepTask,
  rangesTask,
  worthTask,
} from './tasks/uncertainty.ts'

export const tasks = {
  alongLine: alongLineTask,
  band: bandTask,
  board: boardTask,
  cablesForRun: cablesForRunTask,
  compare: compareTask,
  compareCurves: compareCurvesTask,
  diagnosis: diagnosisTask,
  drill: drillTask,
  limits: limitsTask,
  lineFit: lineFitTask,
  match: matchTask,
  most: mostTask,
  nextSweep: nextSweepTask,
  plan: planTask,
  ranges: rangesTask,
  readings: readingsTask,
  runPlan: runPlanTask,
  stepFigures: stepFiguresTask,
  sweepFile: sweepFileTask,
  tunerPlaces: tunerPlacesTask,
  worth: worthTask,
}

export type TaskName = keyof typeof tasks
export type RequestOf<N extends TaskName> = Parameters<(typeof tasks)[N]>[0]
export type ResultOf<N extends TaskName> = Awaited<ReturnType<(typeof tasks)[N]>>
