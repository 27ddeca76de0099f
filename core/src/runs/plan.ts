/** A sheet written out for a station: every power, every rest, and what cannot be done safely on this chain. */
import {
  expandSheet,
  type ExpandedStep,
  type RunChannel,
  withLevel,
  type WrittenStep,
} from './expand.ts'
import { cold, restS } from './heat.ts'
import { FIRST_SHARE, isOfChain, type Violation, violationsOf } from './invariants.ts'
import { LATE, MATCHED_SWR, type Moment, type RunModel, USUAL_S } from './moment.ts'
import { isKeyed, type RunSheet } from './sheet.ts'
import { settable } from './stateOf.ts'
import { afterStep, atTheBeginning, type StationState, type StepDone } from './station.ts'
import { permittedPower, type RunStation } from './stepLoad.ts'

/** A step with what is set for it. */
export interface PlannedStep extends ExpandedStep {
  /** What it would do that must never happen; it is then not keyed. */
  dangers?: readonly Violation[] | undefined
  /** Those among them that would be there on any chain: the sheet's own mistakes. */
  mistakes?: readonly Violation[] | undefined
}

/** What remains of a step at less than this share of its power is no step any more. */
const WORTH_KEYING = 0.02

/**
 * Writes a sheet out and goes through it as an operator would who does every step and reads what should be read. Powers
 * are what the chain permits; rests are as long as the parts need, and put in where the sheet has none.
 *
 * @param model of the station that it is for
 * @param channel where the run begins
 * @param progress share done, 0 to 1
 */
export function planRun(
  sheet: Pick<RunSheet, 'steps'>,
  model: RunModel,
  channel: RunChannel,
  progress?: (done: number) => void,
): PlannedStep[] {
  const { station } = model
  const written = expandSheet(sheet, station.chain, channel, station.channels)
  const planned: PlannedStep[] = []
  const ofWritten: WrittenStep[] = []
  let states: States = { real: atTheBeginning, meant: atTheBeginning }
  written.forEach((own, i) => {
    states = planStep(model, forTuner(own, station), states, planned)
    while (ofWritten.length < planned.length) ofWritten.push(own)
    progress?.((i + 1) / written.length)
  })
  return named(planned, ofWritten)
}

/** A step that was done as it is meant, with the key down for as long as it may be. */
export const doneAsMeant = (state: StationState, step: ExpandedStep): StepDone => {
  const seconds = isKeyed(step)
    ? (step.seconds ?? USUAL_S) * LATE
    : step.rest
      ? (step.seconds ?? 0)
      : 0
  return {
    outcome: 'done',
    withinLimits: true,
    atS: state.atS + seconds,
    keyedS: isKeyed(step) ? seconds : 0,
  }
}

/** The station with what must not be done left out, and as the sheet means it. */
interface States {
  real: StationState
  meant: StationState
}

/** Adds a step, and a rest in front of it where it needs one; gives the station after it. */
function planStep(
  model: RunModel,
  own: ExpandedStep,
  before: States,
  planned: PlannedStep[],
): States {
  let states = before
  let step: PlannedStep = own.state ? withPower(model, own, states.real) : own
  let short: Violation[] = []
  if (isKeyed(own)) {
    const asked: ExpandedStep = { ...own, seconds: own.seconds ?? USUAL_S }
    const given = powerFor(model, asked, states.real)
    step = { ...asked, state: { ...asked.state, watts: given.watts } }
    short = given.short
    const rest = restBefore(model, step, states.real)
    if (rest > 0) {
      addRest(planned, step, rest)
      const resting: ExpandedStep = { ...step, kind: 'hold', rest: true, seconds: rest }
      states = {
        real: afterStep(states.real, resting, doneAsMeant(states.real, resting), null),
        meant: afterStep(states.meant, resting, doneAsMeant(states.meant, resting), null),
      }
    }
  }
  if (step.kind === 'read' && step.mostSwr === undefined && model.readsMatch(step))
    step = { ...step, mostSwr: MATCHED_SWR }
  const moment = model.momentOf(step, states.real)
  const meant = model.momentOf(step, states.meant)
  const dangers = [...violationsOf(moment), ...short]
  const mistakes = violationsOf(meant).filter(
    (violation) => violation.rule !== 'rest' && !isOfChain(violation),
  )
  planned.push({
    ...step,
    ...(dangers.length > 0 && { dangers }),
    ...(mistakes.length > 0 && { mistakes }),
  })
  const after = (state: StationState, own: Moment) =>
    afterStep(state, step, doneAsMeant(state, step), model.keyedOf(own))
  return {
    real: dangers.length > 0 ? states.real : after(states.real, moment),
    meant: after(states.meant, meant),
  }
}

/** How long parts must rest before a step, s; 0 where no rest would help. */
function restBefore(model: RunModel, step: ExpandedStep, state: StationState): number {
  const { load, setW, seconds, unset } = model.momentOf(step, state)
  const rest = load ? restS(state.warmth, load.heated(setW, unset !== null), seconds) : 0
  return rest < Infinity ? Math.ceil(rest) : 0
}

/** A step at which power is set and the key stays up: what will be right once it is down. */
const withPower = (model: RunModel, step: ExpandedStep, state: StationState): ExpandedStep => {
  const { watts } = powerFor(model, { ...step, kind: 'read' }, state)
  return { ...step, state: { ...step.state, watts } }
}

/** What is set for a step, W; and why that is hardly anything. */
function powerFor(
  model: RunModel,
  step: ExpandedStep,
  state: StationState,
): { watts: number; short: Violation[] } {
  const moment = model.momentOf(step, state)
  const { channel, load, fullW, tuning, seconds } = moment
  const { watts, share = 1, window } = step.state ?? {}
  // A sheet that names watts means them: where they are too many, that is said.
  if (watts !== undefined && !window) return { watts: moment.setW, short: [] }
  const asked = window ? tuning.aimW : share * channel.powerW
  // Without a window of its own, a tuner is begun with like everything else.
  const low = tuning.windowW ? tuning.aimW : Math.min(tuning.aimW, FIRST_SHARE * fullW)
  const wanted = window ? low : share * fullW
  if (!load) return { watts: settable(wanted), short: [] }
  const unset = moment.unset !== null
  const most = permittedPower(load, { unset, seconds, warmth: cold })
  const given = settable(Math.min(wanted, most.powerW))
  return given < WORTH_KEYING * asked && most.by
    ? { watts: given, short: [{ rule: 'rating', stress: most.by, setW: asked }] }
    : { watts: given, short: [] }
}

/** The rest in front of a step made long enough, or put in. */
function addRest(planned: PlannedStep[], { id, channelId }: ExpandedStep, seconds: number): void {
  const last = planned.findLastIndex((step) => step.rest || isKeyed(step))
  const before = planned[last]
  if (before?.rest) planned[last] = { ...before, seconds: (before.seconds ?? 0) + seconds }
  else
    planned.push({
      id: `${id}-rest`,
      channelId,
      kind: 'hold',
      title: 'Unkey. Rest',
      rest: true,
      seconds,
    })
}

/** The carrier of the tuner's window, and as long as it takes. */
function forTuner<S extends ExpandedStep>(step: S, { tuner = {} }: RunStation): S {
  if (!step.state?.window) return step
  const { tuneWindowW, tuneTimeS } = tuner
  return {
    ...step,
    ...(step.kind === 'hold' && tuneTimeS !== undefined && { seconds: tuneTimeS }),
    ...(tuneWindowW &&
      (step.tunes === 'tuner' || !isKeyed(step)) && {
        text: [`${tuneWindowW[0]} to ${tuneWindowW[1]} W is the tuner’s window.`, step.text]
          .filter(Boolean)
          .join(' '),
      }),
  }
}

/** The watts of each level in the words of its steps. */
function named(planned: readonly PlannedStep[], written: readonly WrittenStep[]): PlannedStep[] {
  const labels = new Map<number, string>()
  planned.forEach((step, i) => {
    const { round } = written[i]!
    const watts = step.state?.watts
    if (round !== undefined && watts !== undefined && !labels.has(round))
      labels.set(round, `${Number(watts.toPrecision(3))} W`)
  })
  return planned.map((step, i) => {
    const { round } = written[i]!
    return round === undefined ? step : withLevel(step, labels.get(round) ?? '')
  })
}
