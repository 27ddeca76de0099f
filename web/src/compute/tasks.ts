/**
 * All that is computed off the page, by name. The page knows no more of it than the types: it is the worker's, which
 * loads a task when it is first asked for.
 */
export const tasks = {
  alongLine: async () => (await import('./tasks/alongLine.ts')).alongLineTask,
  band: async () => (await import('./tasks/band.ts')).bandTask,
  board: async () => (await import('./tasks/board.ts')).boardTask,
  cablesForRun: async () => (await import('./tasks/cablesForRun.ts')).cablesForRunTask,
  compare: async () => (await import('./tasks/compare.ts')).compareTask,
  compareCurves: async () => (await import('./tasks/compareCurves.ts')).compareCurvesTask,
  diagnosis: async () => (await import('./tasks/uncertainty.ts')).diagnosisTask,
  drill: async () => (await import('./tasks/drill.ts')).drillTask,
  faults: async () => (await import('./tasks/faults.ts')).faultsTask,
  limits: async () => (await import('./tasks/uncertainty.ts')).limitsTask,
  lineFit: async () => (await import('./tasks/lineFit.ts')).lineFitTask,
  match: async () => (await import('./tasks/match.ts')).matchTask,
  most: async () => (await import('./tasks/most.ts')).mostTask,
  nextSweep: async () => (await import('./tasks/uncertainty.ts')).nextSweepTask,
  plan: async () => (await import('./tasks/plan.ts')).planTask,
  ranges: async () => (await import('./tasks/uncertainty.ts')).rangesTask,
  readings: async () => (await import('./tasks/readings.ts')).readingsTask,
  runPlan: async () => (await import('./tasks/runPlan.ts')).runPlanTask,
  stepFigures: async () => (await import('./tasks/stepFigures.ts')).stepFiguresTask,
  sweepFile: async () => (await import('./tasks/sweepFile.ts')).sweepFileTask,
  tunerPlaces: async () => (await import('./tasks/tunerPlaces.ts')).tunerPlacesTask,
  worth: async () => (await import('./tasks/uncertainty.ts')).worthTask,
}

export type TaskName = keyof typeof tasks
type TaskOf<N extends TaskName> = Awaited<ReturnType<(typeof tasks)[N]>>
export type RequestOf<N extends TaskName> = Parameters<TaskOf<N>>[0]
export type ResultOf<N extends TaskName> = Awaited<ReturnType<TaskOf<N>>>
