/** What a run sheet is: a procedure as data. */
import type { FarEnd } from '../chain/farEnd.ts'

/** How the chain stands while a step is done; what is not said is as the chain has it. */
export interface RunState {
  tuner?: 'bypass' | 'set' | undefined
  amplifier?: 'bypass' | 'on' | undefined
  /** What takes the power; the antenna unless given. See `RunLoad`. */
  load?: RunLoad | undefined
  /** A steady carrier instead of the channel's own mode. */
  carrier?: boolean | undefined
  /** Set power as a share of the most that the chain permits here, or of the channel's where that is less. */
  share?: number | undefined
  /** Set power in watts, at most the channel's; goes before the share. */
  watts?: number | undefined
  /** Power for tuning: inside the tuner's own window where that is known, a tenth of the rated power otherwise. */
  window?: boolean | undefined
}

/**
 * What the power goes into: the antenna; a dummy load of 50 Ω in the place of everything behind the output; or a dummy load
 * at the far end of the cable under test (the longest section behind the output), which takes the place of the rest.
 */
export type RunLoad = 'antenna' | 'dummy' | 'cable'

/** What a step changes in the station once it is done. */
export interface StationChange {
  load?: RunLoad | undefined
  amplifier?: 'bypass' | 'on' | undefined
  tuner?: 'bypass' | 'in' | undefined
  power?: 'down' | undefined
}

/** Where a figure is read, as the practice names it; which plane that is depends on the chain. */
export type RunPlace = 'radio' | 'output' | 'meter' | 'tuner' | 'antenna'

/**
 * `check`: tick it off; `do`: do it; `read`: note what the meter shows; `wait`: look until it has settled; `hold`: key, or
 * rest, for a time; `decide`: choose how it goes on; `caution`: read it before anything else.
 */
export type StepKind = 'check' | 'do' | 'read' | 'wait' | 'hold' | 'decide' | 'caution'

/**
 * What an analyser looks along, and what is at its far end: the chain from where its line begins behind the tuners, or its
 * longest cable alone.
 */
export interface SweepTarget {
  of: 'line' | 'cable'
  farEnd: FarEnd
}

export interface RunChoice {
  label: string
  /** Goes back to this step; on to the next without it. */
  backTo?: string | undefined
  /** Ends the run here, as this. */
  end?: 'done' | 'stopped' | undefined
}

export interface RunStep {
  id: string
  kind: StepKind
  title: string
  text?: string | undefined
  /** What the program knows of it stands with the step: the parts that are near their ratings or past them. */
  shows?: 'ratings' | undefined
  /** Only where the chain is so; on every chain unless given. */
  when?: RunCondition | undefined
  state?: RunState | undefined
  makes?: StationChange | undefined
  /** Keyed, this step sets the tuner or the amplifier's output network for its channel. */
  tunes?: 'tuner' | 'amplifier' | undefined
  place?: RunPlace | undefined
  /** Of a `read`: forward alone, forward and reflected, or the SWR. */
  figures?: 'forward' | 'both' | 'swr' | undefined
  /** How long to hold or to wait; on other steps, the longest time with the key down. */
  seconds?: number | undefined
  /** The timer counts rest, not key-down. */
  rest?: boolean | undefined
  /** More than this, and it is stopped; unless given, the limit follows from what the chain should show. */
  mostSwr?: number | undefined
  /** Whose dials are written down here. */
  dials?: 'tuner' | 'amplifier' | undefined
  choices?: readonly RunChoice[] | undefined
  /** Asks for a sweep of an analyser; it may be done without. Of steps with the key up alone. */
  sweep?: SweepTarget | undefined
  /** On the chain's highest channel, not on the one that the run is about. */
  on?: 'highest' | undefined
}

/** Steps done again at several levels of drive, or on every channel. In words, {level} is the level or the channel. */
export interface RunLoop {
  over: 'levels' | 'channels'
  /** Shares of the set power, for levels. */
  levels?: readonly number[] | undefined
  steps: readonly RunStep[]
}

/** What a chain must have for a sheet to fit. */
export type RunNeed = 'tuner' | 'hand tuner' | 'automatic tuner' | 'amplifier' | 'cable'

/** How a chain must be for a step to belong to it. */
export const runConditions = [
  'tuner',
  'tuner in use',
  'tuner not in use',
  'amplifier',
  'amplifier in use',
  'amplifier not in use',
  'tuned amplifier',
  'tuned amplifier in use',
] as const
export type RunCondition = (typeof runConditions)[number]

export interface RunSheet {
  id: string
  /** Raised with every change of its steps. */
  version: number
  title: string
  /** What it is for, in one line. */
  purpose: string
  needs: readonly RunNeed[]
  steps: readonly (RunStep | RunLoop)[]
}

/**
 * Whether the key is down during a step: a reading, a hold that is no rest, and whatever has a time with the key down.
 *
 * @example isKeyed({ kind: 'check' }) // false
 */
export const isKeyed = ({ kind, rest, seconds }: Pick<RunStep, 'kind' | 'rest' | 'seconds'>) =>
  kind === 'read' || (!rest && (kind === 'hold' || seconds !== undefined))
