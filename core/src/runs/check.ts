/** A sheet checked like a program: straight on, and back by every choice that leads back. */
import { isOfChain, type Violation, violationsOf } from './invariants.ts'
import type { RunModel } from './moment.ts'
import { doneAsMeant, planRun, type PlannedStep } from './plan.ts'
import type { RunChannel } from './expand.ts'
import { isKeyed, type RunSheet } from './sheet.ts'
import { afterStep, atTheBeginning, type StationState } from './station.ts'

/** What a sheet would do that must never happen, at which of its steps. */
export interface Danger {
  stepId: string
  title: string
  violation: Violation
  /** Whether the sheet is wrong, or the chain does not allow the step: then it is left out. */
  of: 'sheet' | 'chain'
  /** The choice that led back to it; straight on unless given. */
  after?: string | undefined
}

/**
 * What a sheet would do that must never happen, written out for a station.
 */
export function checkSheet(
  sheet: Pick<RunSheet, 'steps'>,
  model: RunModel,
  channel: RunChannel,
): Danger[] {
  return dangersOf(planRun(sheet, model, channel), model)
}

/** The same of a sheet that is written out already. */
export function dangersOf(steps: readonly PlannedStep[], model: RunModel): Danger[] {
  const found: Danger[] = []
  let state = atTheBeginning
  steps.forEach((step, i) => {
    const where = { stepId: step.id, title: step.title }
    for (const violation of step.mistakes ?? []) found.push({ ...where, violation, of: 'sheet' })
    for (const violation of (step.dangers ?? []).filter(isOfChain))
      found.push({ ...where, violation, of: 'chain' })
    state = after(model, step, state)
    for (const { backTo, label } of step.choices ?? []) {
      const from = steps.findIndex(({ id }) => id === backTo)
      if (from >= 0) found.push(...again(model, steps.slice(from, i + 1), state, label))
    }
  })
  return found
}

const after = (model: RunModel, step: PlannedStep, state: StationState): StationState =>
  step.dangers && isKeyed(step)
    ? state
    : afterStep(state, step, doneAsMeant(state, step), model.keyedOf(model.momentOf(step, state)))

/** Steps done once more, from where a choice leads back to. */
function again(
  model: RunModel,
  steps: readonly PlannedStep[],
  from: StationState,
  label: string,
): Danger[] {
  let state = from
  return steps.flatMap((step) => {
    if (step.dangers) return []
    // A rest that is too short the second time is lengthened by the run itself.
    const violations = violationsOf(model.momentOf(step, state)).filter(
      ({ rule }) => rule !== 'rest',
    )
    if (violations.length === 0) state = after(model, step, state)
    return violations.map((violation) => ({
      stepId: step.id,
      title: step.title,
      violation,
      of: isOfChain(violation) ? ('chain' as const) : ('sheet' as const),
      after: label,
    }))
  })
}
