/** What is known of the station while a sheet is run: it begins with nothing known, and every step that is done adds to it. */
import { cold, type Heated, type Warmth, warmed } from './heat.ts'
import type { ExpandedStep } from './expand.ts'
import { isKeyed, type RunLoad } from './sheet.ts'

export interface StationState {
  load: RunLoad | 'unknown'
  amplifier: 'on' | 'bypass' | 'unknown'
  tuner: 'in' | 'bypass' | 'unknown'
  /** Where the tuner was set for: a channel, a load, and an amplifier behind it in circuit or not. */
  tunedFor: string | null
  /** Whether a reading has shown its match since. */
  matched: boolean
  /** How often the tuner was set. */
  tunings: number
  /** What the amplifier's output network was tuned for: a channel, a load, and a setting of the tuner. */
  loadedFor: string | null
  /** Highest share of the permitted power at which a reading was within its limits, by what was connected and set then. */
  proven: ReadonlyMap<string, number>
  /** Whether the power was up since it was last turned down. */
  powerUp: boolean
  warmth: Warmth
  /** When that was, s. */
  atS: number
}

export const atTheBeginning: StationState = {
  load: 'unknown',
  amplifier: 'unknown',
  tuner: 'unknown',
  tunedFor: null,
  matched: false,
  tunings: 0,
  loadedFor: null,
  proven: new Map(),
  powerUp: false,
  warmth: cold,
  atS: 0,
}

/** The parts of a chain, during a step, that a state is about. */
export interface Circuit {
  load: RunLoad
  tuner: boolean
  /** Whether what lies behind that tuner includes the amplifier. */
  tunerAhead: boolean
  amplifier: boolean
}

/** What a tuner must be set for to be set for a step. */
export const tunerKey = (
  { channelId }: Pick<ExpandedStep, 'channelId'>,
  { load, tunerAhead, amplifier }: Circuit,
): string => [channelId, load, ...(tunerAhead ? [amplifier ? 'on' : 'bypass'] : [])].join(' ')

/** What an amplifier's output network must be tuned for. */
export const loadingKey = (
  { channelId }: Pick<ExpandedStep, 'channelId'>,
  { load, tuner, tunerAhead }: Circuit,
  { tunings }: Pick<StationState, 'tunings'>,
): string => [channelId, load, ...(tuner && !tunerAhead ? [tunings] : [])].join(' ')

/** What power is brought up into. */
export const provenKey = (
  { channelId }: Pick<ExpandedStep, 'channelId'>,
  { load, tuner, amplifier }: Circuit,
  { tunings }: Pick<StationState, 'tunings'>,
): string => [channelId, load, amplifier ? 'on' : 'bypass', tuner ? tunings : 'bypass'].join(' ')

/** What became of a step. */
export interface StepDone {
  outcome: 'done' | 'skipped' | 'stopped'
  /** Whether a figure that says something of the match was read, within its limits. */
  withinLimits?: boolean | undefined
  /** When it was done, s on any clock that goes on. */
  atS: number
  /** How long the key was down, s. */
  keyedS?: number | undefined
}

/** What a keyed step did to the chain. */
export interface Keyed {
  circuit: Circuit
  /** What is set, as a share of what is permitted there. */
  share: number
  heated: readonly Heated[]
  /** Whether it is read where the match of the tuner shows. */
  showsMatch: boolean
}

/**
 * The station after a step. What was skipped was not done.
 *
 * @param keyed what it did to the chain; null where the key was up
 */
export function afterStep(
  before: StationState,
  step: ExpandedStep,
  { outcome, withinLimits = false, atS, keyedS = 0 }: StepDone,
  keyed: Keyed | null,
): StationState {
  const rested = {
    ...before,
    warmth: warmed(before.warmth, [], Math.max(0, atS - keyedS - before.atS)),
    atS: Math.max(atS, before.atS),
  }
  const heated =
    keyed && outcome !== 'skipped'
      ? { ...rested, powerUp: true, warmth: warmed(rested.warmth, keyed.heated, keyedS) }
      : rested
  if (outcome !== 'done') return heated
  return isKeyed(step)
    ? keyed
      ? afterKeying(heated, step, keyed, withinLimits)
      : heated
    : changed(heated, step)
}

function changed(before: StationState, { makes }: ExpandedStep): StationState {
  if (!makes) return before
  return {
    ...before,
    ...(makes.load && { load: makes.load }),
    ...(makes.amplifier && { amplifier: makes.amplifier }),
    ...(makes.tuner && { tuner: makes.tuner }),
    ...(makes.power === 'down' && { powerUp: false }),
  }
}

function afterKeying(
  before: StationState,
  step: ExpandedStep,
  { circuit, share, showsMatch }: Keyed,
  withinLimits: boolean,
): StationState {
  const state = { ...before }
  if (step.tunes === 'tuner') {
    state.tunings += 1
    state.tunedFor = tunerKey(step, circuit)
    state.matched = false
  }
  if (step.tunes === 'amplifier') state.loadedFor = loadingKey(step, circuit, state)
  if (step.kind !== 'read' || !withinLimits) return state
  const key = provenKey(step, circuit, state)
  return {
    ...state,
    matched: state.matched || (showsMatch && state.tunedFor === tunerKey(step, circuit)),
    proven: new Map(state.proven).set(key, Math.max(share, state.proven.get(key) ?? 0)),
  }
}
