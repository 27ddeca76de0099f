/**
 * What must never happen while a sheet is run, whoever wrote it. Every rule looks at one step in the state that the station
 * is known to be in; `Violation` says what is wrong and with which figures. Sheets are written out with these rules, a run
 * asks them before the key goes down, and the editor of sheets names what they find.
 */
import type { Stress } from '../stages/stress.ts'
import { brokenBySwr, tightest } from '../limits/stress.ts'
import { cold, restS } from './heat.ts'
import { isKeyed, type RunLoad } from './sheet.ts'
import { forSeconds } from './stepLoad.ts'
import { loadingKey, provenKey } from './station.ts'
import type { Moment } from './moment.ts'

export type Violation =
  /** Nothing is known to take the power, or something else does. */
  | { rule: 'load'; needs: RunLoad; now: RunLoad | 'unknown' }
  | { rule: 'amplifier'; needs: 'on' | 'bypass'; now: 'on' | 'bypass' | 'unknown' }
  | { rule: 'tuner'; needs: 'in' | 'bypass'; now: 'in' | 'bypass' | 'unknown' }
  /** More than the tuner's window at its own input. */
  | { rule: 'window'; watts: number; mostW: number }
  /** Too much for a network that is not known to be set for this channel. */
  | {
      rule: 'unset'
      why: NonNullable<Moment['unset']>
      setW: number
      mostW: number
      swr?: number
    }
  /** Two tuners or two amplifiers: nothing says which of them a step is about. */
  | { rule: 'which'; of: 'tuner' | 'amplifier' }
  | { rule: 'amplifier while tuning'; why: NonNullable<Moment['unset']> }
  /** More than a part, a ceiling or the licence allows. */
  | { rule: 'rating'; stress: Stress; setW: number }
  /** A part is still too warm. */
  | { rule: 'rest'; seconds: number }
  /** Nothing says what the meter should show, and with it when to stop. */
  | { rule: 'no limits'; why: string }
  /** More than a quarter of what is permitted, and more than four times what was read to be well. */
  | { rule: 'in steps'; setW: number; mostW: number }
  /** The amplifier's output network is not tuned for what it now feeds. */
  | { rule: 'retrim' }
  /** What is connected is changed before the power is down. */
  | { rule: 'power down' }

export type InvariantRule = Violation['rule']

/** Nothing is brought up in greater steps than to a quarter, and then four times as much, */
export const FIRST_SHARE = 0.25
/** and a hair, since a power that is set has three figures. */
const STEP = 4.08
/** Settings have three figures. */
const ROUNDING = 1.005

/** What power may go into a network that is not set, W set: its maker's window, or a tenth of the rated power. */
const mostWhileUnset = ({ step, tuning }: Moment): number =>
  step.tunes === 'tuner' || step.state?.window
    ? Math.max(tuning.mostW, tuning.tenthW)
    : tuning.tenthW

type Rule = (moment: Moment) => Violation | null

/** The rules in the order in which they are named to the operator: what to connect and to switch first. */
const rules: Record<InvariantRule, Rule> = {
  'power down': ({ step, state }) =>
    !isKeyed(step) && step.makes?.load && step.makes.load !== state.load && state.powerUp
      ? { rule: 'power down' }
      : null,
  which: ({ keyed, several }) => (keyed && several ? { rule: 'which', of: several } : null),
  load: ({ keyed, state, circuit }) =>
    keyed && state.load !== circuit.load
      ? { rule: 'load', needs: circuit.load, now: state.load }
      : null,
  amplifier: ({ keyed, state, circuit, has }) => {
    const needs = circuit.amplifier ? 'on' : 'bypass'
    return keyed && has.amplifier && state.amplifier !== needs
      ? { rule: 'amplifier', needs, now: state.amplifier }
      : null
  },
  tuner: ({ keyed, state, circuit, has }) => {
    const needs = circuit.tuner ? 'in' : 'bypass'
    return keyed && has.tuner && state.tuner !== needs
      ? { rule: 'tuner', needs, now: state.tuner }
      : null
  },
  'amplifier while tuning': (moment) =>
    moment.keyed && moment.circuit.amplifier && moment.unset !== null
      ? { rule: 'amplifier while tuning', why: moment.unset }
      : null,
  unset: (moment) => {
    const { keyed, setW, load, unset: why } = moment
    const mostW = mostWhileUnset(moment) * ROUNDING
    return keyed && moment.circuit.tuner && why !== null && setW > mostW
      ? {
          rule: 'unset',
          why,
          setW,
          mostW,
          ...(why === 'no match' && load && { swr: load.swrAtTuner!.low }),
        }
      : null
  },
  window: ({ keyed, step, setW, load, tuning }) => {
    if (!keyed || step.tunes !== 'tuner' || !load || !tuning.windowW) return null
    const watts = setW * load.perWattAtTuner
    const mostW = tuning.windowW[1]
    return watts > mostW * ROUNDING ? { rule: 'window', watts, mostW } : null
  },
  'no limits': ({ keyed, step, setW, load, why, tuning }) =>
    keyed && !load && (setW > tuning.tenthW || (step.kind === 'read' && step.mostSwr === undefined))
      ? { rule: 'no limits', why }
      : null,
  retrim: ({ keyed, step, state, circuit, load }) =>
    keyed &&
    load?.tunedOutput &&
    step.tunes !== 'amplifier' &&
    state.loadedFor !== loadingKey(step, circuit, state)
      ? { rule: 'retrim' }
      : null,
  rest: (moment) => {
    if (!moment.keyed || !moment.load) return null
    const heated = moment.load.heated(moment.setW, moment.unset !== null)
    const seconds = restS(moment.state.warmth, heated, moment.seconds)
    return seconds > 0 && seconds < Infinity ? { rule: 'rest', seconds } : null
  },
  rating: (moment) => {
    const { keyed, load, setW } = moment
    if (!keyed || !load) return null
    const unset = moment.unset !== null
    const stresses = forSeconds(
      load.stresses(setW, unset),
      load.heated(setW, unset),
      moment.seconds,
      cold,
    )
    const by = brokenBySwr(stresses) ?? tightest(stresses)
    return by && (by.headroomDb === null || by.headroomDb < -ROUNDING_DB)
      ? { rule: 'rating', stress: by, setW }
      : null
  },
  'in steps': ({ keyed, step, state, circuit, load, setW, fullW, tuning }) => {
    if (!keyed || !load) return null
    const before = state.proven.get(provenKey(step, circuit, state)) ?? 0
    // What a tuner needs to sense its match, a small radio gives at once.
    const tuningW =
      tuning.windowW && (step.tunes === 'tuner' || step.state?.window) ? tuning.mostW : 0
    const mostW = Math.max(FIRST_SHARE * fullW, STEP * before * fullW, tuningW)
    return setW > mostW * ROUNDING ? { rule: 'in steps', setW, mostW } : null
  },
}

const ROUNDING_DB = 10 * Math.log10(ROUNDING)

/** What a step would do that must never happen; empty where it is safe. */
export const violationsOf = (moment: Moment): Violation[] =>
  Object.values(rules).flatMap((rule) => rule(moment) ?? [])

/** Whether it is the chain that does not allow it, whatever a sheet does. */
export const isOfChain = (violation: Violation): boolean =>
  violation.rule === 'rating' ||
  violation.rule === 'which' ||
  violation.rule === 'no limits' ||
  ('why' in violation && violation.why === 'no match')
