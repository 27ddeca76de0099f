/** What a run sheet is: a procedure as data. */

/** How the chain stands while a step is done; what is not said is as the chain has it. */
export interface RunState {
  tuner?: 'bypass' | 'set' | undefined
  amplifier?: 'bypass' | 'on' | undefined
  /** A dummy load takes the place of everything behind the output; the antenna unless given. */
  load?: 'antenna' | 'dummy' | undefined
  /** A steady carrier instead of the channel's own mode. */
  carrier?: boolean | undefined
  /** Set power as a share of the channel's. */
  share?: number | undefined
  /** Set power in watts, at most the channel's; goes before the share. */
  watts?: number | undefined
  /** Inside the tuner's own tuning window, in its upper part, where that is known; the share otherwise. */
  window?: boolean | undefined
}

/** Where a figure is read, as the practice names it; which plane that is depends on the chain. */
export type RunPlace = 'radio' | 'output' | 'meter' | 'tuner' | 'antenna'

/**
 * `check`: tick it off; `do`: do it; `read`: note what the meter shows; `wait`: look until it has settled; `hold`: key, or
 * rest, for a time; `decide`: choose how it goes on; `caution`: read it before anything else.
 */
export type StepKind = 'check' | 'do' | 'read' | 'wait' | 'hold' | 'decide' | 'caution'

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
  state?: RunState | undefined
  place?: RunPlace | undefined
  /** Of a `read`: forward alone, forward and reflected, or the SWR. */
  figures?: 'forward' | 'both' | 'swr' | undefined
  /** How long to hold or to wait; on other steps, the longest time with the key down. */
  seconds?: number | undefined
  /** The timer counts rest, not key-down. */
  rest?: boolean | undefined
  /** More than this, and it is stopped. */
  mostSwr?: number | undefined
  /** Whose dials are written down here. */
  dials?: 'tuner' | 'amplifier' | undefined
  choices?: readonly RunChoice[] | undefined
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
