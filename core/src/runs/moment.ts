/** A step at the moment in which it is done: on the chain as it then stands, with what is known of the station. */
import type { ExpandedStep, RunChannel } from './expand.ts'
import { cold } from './heat.ts'
import type { RatedStage } from '../limits/ratings.ts'
import { isKeyed } from './sheet.ts'
import { chainOfStep, setPowerOf, settable } from './stateOf.ts'
import { type Circuit, type Keyed, type StationState, tunerKey } from './station.ts'
import { loadOfStep, permittedPower, type RunStation, type StepLoad } from './stepLoad.ts'

/** How much power a tuner is set with. */
export interface TuningPower {
  /** A tenth of what transmitter and tuner are rated for, W. */
  tenthW: number
  /** What its maker gives for its own input, W. */
  windowW: readonly [number, number] | null
  /** Set power that is never too much for it, W, and the one to tune with. */
  mostW: number
  aimW: number
}

export interface Moment {
  step: ExpandedStep
  state: StationState
  channel: RunChannel
  keyed: boolean
  circuit: Circuit
  /** Whether the chain, up to what takes the power, has such a part at all, in circuit or switched through. */
  has: { tuner: boolean; amplifier: boolean }
  /** What it has more than one of: a sheet that says “the tuner” does not say which. */
  several: 'tuner' | 'amplifier' | null
  /** Why the network in circuit is not known to be set for this step; null where it is, or where there is none. */
  unset: 'not tuned' | 'match not read' | 'no match' | null
  /** What is set, W. */
  setW: number
  /** The longest that the key may be down, s: half as long again as the step says. */
  seconds: number
  tuning: TuningPower
  /** Most that may be set here, W, after rest and with its networks set. */
  fullW: number
  /** Null where the chain has no answer on this channel; then `why` says so. */
  load: StepLoad | null
  why: string
}

/** A step without a time of its own is keyed for so long, s. */
export const USUAL_S = 10
/** The key may be down for so many times what a step says. */
export const LATE = 1.5
/** In a window: at least so far up that the tuner senses the reflection, at most so far that nothing is too much. */
const WINDOW_LOW = 0.25
const WINDOW_HIGH = 0.7
const TENTH = 0.1

/**
 * A station as sheets see it. What keying does to the chain is worked out once for every state that it can be in.
 */
export function runModel(station: RunStation) {
  const loads = new Map<string, StepLoad | string>()
  const loadOf = (step: ExpandedStep, channel: RunChannel): StepLoad | string => {
    const { tuner, amplifier, load, carrier } = step.state ?? {}
    const key = JSON.stringify([channel.id, tuner, amplifier, load, carrier])
    const known = loads.get(key)
    if (known !== undefined) return known
    // Shares and watts are no part of what is worked out for all powers.
    const made = loadOfStep(station, { state: { tuner, amplifier, load, carrier } }, channel)
    loads.set(key, made)
    return made
  }
  const channelOf = (step: ExpandedStep): RunChannel =>
    station.channels.find(({ id }) => id === step.channelId) ?? station.channels[0]!

  const fulls = new Map<StepLoad, Map<number, number>>()
  const fullOf = (load: StepLoad, seconds: number, channel: RunChannel): number => {
    const known = fulls.get(load) ?? new Map<number, number>()
    fulls.set(load, known)
    let full = known.get(seconds)
    if (full === undefined) {
      const { powerW } = permittedPower(load, { unset: false, seconds, warmth: cold })
      known.set(seconds, (full = Math.min(channel.powerW, powerW)))
    }
    return full
  }

  const momentOf = (step: ExpandedStep, state: StationState): Moment => {
    const channel = channelOf(step)
    const stages = chainOfStep(station.chain, step, channel).chain.stages
    const inUse = (kind: string) => stages.findIndex((s) => s.kind === kind && !s.bypassed)
    const [tuner, amplifier] = [inUse('tuner'), inUse('amplifier')]
    const ahead =
      (step.state?.load ?? 'antenna') === 'antenna' ? stages : stages.slice(0, amplifier + 1)
    const found = isKeyed(step) ? loadOf(step, channel) : ''
    const load = typeof found === 'string' ? null : found
    const seconds = (step.seconds ?? USUAL_S) * LATE
    const circuit: Circuit = {
      load: step.state?.load ?? 'antenna',
      tuner: tuner >= 0,
      tunerAhead: tuner >= 0 && stages.findLastIndex(({ kind }) => kind === 'amplifier') > tuner,
      amplifier: amplifier >= 0,
    }
    return {
      step,
      state,
      channel,
      keyed: isKeyed(step),
      circuit,
      has: {
        tuner: ahead.some(({ kind }) => kind === 'tuner'),
        amplifier: station.chain.stages.some(({ kind }) => kind === 'amplifier'),
      },
      several: severalOf(ahead),
      unset: circuit.tuner ? whyUnset(step, state, circuit, load) : null,
      setW: setPowerOf(step.state ?? {}, channel),
      seconds,
      tuning: tuningPower(station, channel, load),
      fullW: load ? fullOf(load, seconds, channel) : channel.powerW,
      load,
      why: typeof found === 'string' ? found : '',
    }
  }

  /** What a step does to the chain once it is keyed; null where it is not. */
  const keyedOf = (moment: Moment): Keyed | null => {
    const { keyed, circuit, load, setW, fullW, unset } = moment
    return keyed
      ? {
          circuit,
          share: fullW > 0 ? setW / fullW : 1,
          heated: load?.heated(setW, unset !== null) ?? [],
          showsMatch: load !== null && showsMatch(moment.step, load),
        }
      : null
  }
  /** Whether a step reads the match of the tuner: in front of it, with no amplifier in between. */
  const showsMatch = (step: ExpandedStep, { tuner, stepped }: StepLoad): boolean => {
    if (tuner < 0 || (step.figures ?? 'forward') === 'forward') return false
    const { plane } = chainOfStep(station.chain, step, channelOf(step))
    const between = stepped.chain.stages.slice(plane, tuner)
    return plane <= tuner && !between.some((s) => s.kind === 'amplifier' && !s.bypassed)
  }

  /** Whether a step is read where a tuner that is set shows its match. */
  const readsMatch = (step: ExpandedStep): boolean => {
    const load = loadOf(step, channelOf(step))
    return typeof load !== 'string' && showsMatch(step, load)
  }

  return { station, momentOf, keyedOf, channelOf, loadOf, readsMatch }
}
export type RunModel = ReturnType<typeof runModel>

/**
 * The carrier that a tuner is set with: the least that its window leaves room for, so that it senses the reflection and
 * nothing is too much; without a window, a tenth of the rated power.
 */
function tuningPower(
  { tuner = {} }: RunStation,
  { powerW, around }: RunChannel,
  load: StepLoad | null,
): TuningPower {
  const tenthW = TENTH * Math.min(around?.ratedW ?? powerW, tuner.ratedW ?? Infinity)
  const windowW = tuner.tuneWindowW ?? null
  const perWatt = load && load.perWattAtTuner > 0 ? load.perWattAtTuner : 1
  if (!windowW) return { tenthW, windowW, mostW: tenthW, aimW: settable(Math.min(powerW, tenthW)) }
  const [low, high] = windowW
  const within = (share: number) => (low + share * (high - low)) / perWatt
  return {
    tenthW,
    windowW,
    mostW: Math.min(powerW, high / perWatt),
    aimW: settable(Math.min(powerW, within(WINDOW_HIGH), Math.max(within(WINDOW_LOW), tenthW))),
  }
}

/** A network that leaves more than this at its input is not set. */
export const MATCHED_SWR = 3

/** Why a network in circuit is not known to be set; while it is being set it is not. */
function whyUnset(
  step: ExpandedStep,
  { tunedFor, matched }: StationState,
  circuit: Circuit,
  load: StepLoad | null,
): Moment['unset'] {
  if (step.tunes === 'tuner' || tunedFor !== tunerKey(step, circuit)) return 'not tuned'
  if (load && load.swrAtTuner!.low > MATCHED_SWR) return 'no match'
  return matched ? null : 'match not read'
}

const severalOf = (stages: readonly RatedStage[]): Moment['several'] =>
  (['tuner', 'amplifier'] as const).find(
    (own) => stages.filter(({ kind }) => kind === own).length > 1,
  ) ?? null
