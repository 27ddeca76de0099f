/** A run that is on: what is known of the station from what was done, and whether the key may go down. */
import { type Violation, violationsOf } from './invariants.ts'
import type { Moment, RunModel } from './moment.ts'
import type { ExpandedStep } from './expand.ts'
import { isKeyed, type StationChange } from './sheet.ts'
import { afterStep, atTheBeginning, type StationState, type StepDone } from './station.ts'

/** What was done on a run, in the order of time. */
export interface Done extends StepDone {
  stepId: string
}

/** The station after one more step of a run. */
export function afterDone(
  model: RunModel,
  step: ExpandedStep,
  before: StationState,
  { keyedS, ...entry }: StepDone,
): StationState {
  const moment = model.momentOf(step, before)
  // Without a stopwatch the key was down for as long as it may be.
  const seconds = keyedS ?? (isKeyed(step) ? moment.seconds : 0)
  return afterStep(before, step, { ...entry, keyedS: seconds }, model.keyedOf(moment))
}

/**
 * The station after what was done. Entries of steps that are no more say nothing.
 *
 * @param model of the chain as it is now
 */
export function followed(
  model: RunModel,
  steps: readonly ExpandedStep[],
  done: readonly Done[],
): StationState {
  const byId = new Map(steps.map((step) => [step.id, step]))
  const [first] = done
  const begun = first ? { ...atTheBeginning, atS: first.atS - (first.keyedS ?? 0) } : atTheBeginning
  return done.reduce((state, entry) => {
    const step = byId.get(entry.stepId)
    return step ? afterDone(model, step, state, entry) : state
  }, begun)
}

/** The station some time later, when nothing was keyed in between. */
export const later = (state: StationState, atS: number): StationState =>
  afterStep(state, NOTHING, { outcome: 'done', atS }, null)
const NOTHING: ExpandedStep = { id: '', channelId: '', kind: 'wait', title: '' }

/** What stands against a step now. */
export const against = (model: RunModel, step: ExpandedStep, state: StationState): Violation[] =>
  violationsOf(model.momentOf(step, state))

/** What a step must make, or set, to put a violation right; null where no step can. */
function mends(
  violation: Violation,
  { step, circuit }: Moment,
): ((other: ExpandedStep) => boolean) | null {
  const makes = (change: StationChange) => (other: ExpandedStep) =>
    Object.entries(change).every(
      ([key, value]) => other.makes?.[key as keyof StationChange] === value,
    )
  switch (violation.rule) {
    case 'load':
      return makes({ load: violation.needs })
    case 'amplifier':
      return makes({ amplifier: violation.needs })
    case 'amplifier while tuning':
      return makes({ amplifier: 'bypass' })
    case 'tuner':
      return makes({ tuner: violation.needs })
    case 'power down':
      return makes({ power: 'down' })
    case 'unset':
      return violation.why === 'match not read'
        ? (other) =>
            other.kind === 'read' &&
            other.channelId === step.channelId &&
            other.state?.window === true
        : (other) =>
            other.tunes === 'tuner' &&
            other.channelId === step.channelId &&
            (other.state?.load ?? 'antenna') === circuit.load
    case 'retrim':
      return (other) => other.tunes === 'amplifier' && other.channelId === step.channelId
    case 'in steps':
      return (other) =>
        other.kind === 'read' && isKeyed(other) && other.channelId === step.channelId
    default:
      return null
  }
}

/** Index of the step that puts a violation right: the nearest one in front of a step; null where there is none. */
export function cureOf(
  violation: Violation,
  moment: Moment,
  steps: readonly ExpandedStep[],
): number | null {
  const mending = mends(violation, moment)
  const here = steps.findIndex(({ id }) => id === moment.step.id)
  const found = mending ? steps.slice(0, here).findLastIndex(mending) : -1
  return found < 0 ? null : found
}
