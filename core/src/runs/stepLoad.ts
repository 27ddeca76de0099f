/** What keying a step does to the parts of a chain, and the most that may be set for it. */
import { answerChain } from '../chain/phaseRange.ts'
import { InputError } from '../errors.ts'
import { type DummyLoad, keyingTime } from '../limits/faults.ts'
import {
  type MostPower,
  mostPowerOf,
  type RatedChain,
  stressesByPower,
} from '../limits/mostPower.ts'
import { ratingsOf } from '../limits/ratings.ts'
import type { Surroundings } from '../limits/stress.ts'
import { RATED_AMBIENT_C, type Stress } from '../stages/stress.ts'
import { type AmplifierStage, ceilingW, driveForW } from '../source/amplifier.ts'
import type { ModeId } from '../source/modes.ts'
import type { Range } from '../statistics/quantile.ts'
import type { RunChannel } from './expand.ts'
import { COOL, type Heated, shortTimeFactor, type Warmth } from './heat.ts'
import type { RunStep } from './sheet.ts'
import { chainOfStep, type SteppedChain } from './stateOf.ts'
import { aheadOfUnset, atPower, timesPower } from './unsetNetwork.ts'

/** The station that sheets are written out for. */
export interface RunStation {
  chain: RatedChain
  channels: readonly RunChannel[]
  tuner?: TuningNeeds | undefined
  /** The dummy load of the shack; where it is not known, its rating is the operator's to check. */
  dummy?: DummyLoad | undefined
  /** Where the chain itself ends in a dummy load: what it withstands for a while. */
  loadBurst?: DummyLoad['burst'] | undefined
}

/** What the tuner of a chain needs for tuning, as its maker gives it. */
export interface TuningNeeds {
  /** Least and most carrier at its own input, W. */
  tuneWindowW?: readonly [number, number] | undefined
  /** How long it takes at most, s. */
  tuneTimeS?: number | undefined
  /** What it is rated for, W PEP. */
  ratedW?: number | undefined
}

/** Modes of constant envelope: an amplifier that must run lower on one of them must on a tuning carrier. */
const STEADY: readonly ModeId[] = ['key-down', 'FM', 'data']
export interface StepLoad {
  stepped: SteppedChain
  /** Index of the first tuner in circuit; −1 without one. */
  tuner: number
  /** Index of the last amplifier in circuit; −1 without one. */
  amplifier: number
  /** Whether that amplifier's output network is tuned for its load. */
  tunedOutput: boolean
  /** SWR at the tuner's input with its network set as well as it can be, over the phases of the load; null without a tuner. */
  swrAtTuner: Range | null
  /** Most net power into the tuner while nothing is known of its network, W for one watt set; 0 without a tuner. */
  perWattAtTuner: number
  /** Every stress at a set power (W), for a network that is set or one that may stand anywhere. */
  stresses: (powerW: number, unset: boolean) => Stress[]
  /** The parts among them that have a thermal time constant. */
  heated: (powerW: number, unset: boolean) => Heated[]
}

/**
 * What keying a step does.
 *
 * @returns why there is no answer, where the chain has none on this channel
 */
export function loadOfStep(
  station: RunStation,
  step: Pick<RunStep, 'state' | 'place'>,
  channel: RunChannel,
): StepLoad | string {
  try {
    return solvedLoad(station, step, channel)
  } catch (error) {
    if (!(error instanceof InputError)) throw error
    return error.message
  }
}

function solvedLoad(
  station: RunStation,
  step: Pick<RunStep, 'state' | 'place'>,
  channel: RunChannel,
): StepLoad {
  const stepped = chainOfStep(station.chain, step, channel)
  const { chain } = stepped
  const { stages } = chain
  const at = { ...stepped.at, powerW: Math.max(channel.powerW, 1e-3) }
  const onDummy = (step.state?.load ?? 'antenna') !== 'antenna'
  const around = aroundOf(station, step, channel)
  const tuner = stages.findIndex(({ kind, bypassed }) => kind === 'tuner' && !bypassed)
  const amplifier = stages.findLastIndex(({ kind, bypassed }) => kind === 'amplifier' && !bypassed)
  const last = stages[amplifier]
  const set = stressesByPower(chain, at, around)
  const { solution, spread } = answerChain(chain, at)
  const ahead =
    tuner < 0 || (amplifier >= 0 && amplifier < tuner)
      ? null
      : aheadOfUnset(chain, at, tuner, around)
  // Behind a network that stands anywhere there may be what goes into it, and no more than that.
  const raised =
    ahead === null
      ? 1
      : Math.max(
          1,
          (ahead.perWatt * at.powerW) /
            (spread?.planes[tuner + 1]!.netW.low ?? solution.planes[tuner + 1]!.netW),
        )
  const stresses = remembered((powerW, unset) => {
    const own = set(powerW).map((stress) => steadily(stress, chain, at.mode))
    if (!unset || !ahead) return own
    return own.map((stress) => {
      if (stress.part > tuner) return timesPower(stress, raised)
      // Set as well as it can be it may leave the radio a mismatch; while it is set, the radio may meet a match.
      if (stress.part === tuner && stress.kind === 'power')
        return atPower(stress, Math.max(stress.stress, ahead.mostPerWatt * powerW))
      const worst = ahead.stresses.find(
        ({ part, kind }) => part === stress.part && kind === stress.kind,
      )
      const unsetStress = worst && timesPower(worst, powerW)
      // Set as well as it can be it may still not match.
      return unsetStress && unsetStress.stress > stress.stress ? unsetStress : stress
    })
  })
  const tauS = (part: number): number | undefined =>
    part < 0
      ? undefined
      : part < stages.length
        ? ratingsOf(stages[part]!).timeConstantS
        : loadTimeConstantS(station, onDummy, around)
  return {
    stepped,
    tuner,
    amplifier,
    tunedOutput: last?.kind === 'amplifier' && last.behaviour === 'peaked',
    swrAtTuner:
      tuner < 0
        ? null
        : (spread?.planes[tuner]!.swr ?? {
            low: solution.planes[tuner]!.swr,
            high: solution.planes[tuner]!.swr,
          }),
    perWattAtTuner: ahead?.perWatt ?? 0,
    stresses,
    heated: (powerW, unset) =>
      stresses(powerW, unset).flatMap(({ kind, part, stress, limit }) => {
        const tau = kind === 'heat' ? tauS(part) : undefined
        if (tau === undefined || !limit) return []
        const key = part < stages.length ? `${part}` : onDummy ? 'dummy' : 'antenna'
        return [{ key, part, tauS: tau, share: stress / limit }]
      }),
  }
}

/** The same step is looked at many times: planned, followed, checked. */
function remembered(make: (powerW: number, unset: boolean) => Stress[]): StepLoad['stresses'] {
  const known = { set: new Map<number, Stress[]>(), unset: new Map<number, Stress[]>() }
  return (powerW, unset) => {
    const own = known[unset ? 'unset' : 'set']
    const found = own.get(powerW) ?? make(powerW, unset)
    own.set(powerW, found)
    return found
  }
}

function aroundOf(
  { dummy }: RunStation,
  { state = {} }: Pick<RunStep, 'state'>,
  { mode, around }: RunChannel,
): Surroundings {
  const usual: Surroundings = around ?? { emission: { mode }, ambientC: RATED_AMBIENT_C }
  const onDummy = (state.load ?? 'antenna') !== 'antenna'
  return {
    ...usual,
    emission: state.carrier ? { mode: 'key-down' } : usual.emission,
    // The times of a sheet are counted, not taken from a habit.
    longestOverS: undefined,
    ...(onDummy && { licence: undefined, loadAverageW: dummy?.continuousW }),
  }
}

/** Time constant of what takes the power at the end, s; undefined where it is not known. */
function loadTimeConstantS(
  { dummy, loadBurst }: RunStation,
  onDummy: boolean,
  { loadAverageW }: Surroundings,
): number | undefined {
  const load: DummyLoad | undefined = onDummy
    ? dummy
    : loadAverageW !== undefined && loadBurst
      ? { continuousW: loadAverageW, burst: loadBurst }
      : undefined
  const minutes = load ? keyingTime(load, load.continuousW).timeConstantMinutes : 0
  return minutes > 0 ? minutes * 60 : undefined
}

/** Most output of an amplifier in a mode, W PEP: a carrier is held to the least ceiling of all modes as steady as it is. */
export const permittedOutputW = (stage: AmplifierStage, mode: ModeId | undefined): number =>
  Math.min(
    ceilingW(stage, mode),
    ...(mode === 'key-down' ? STEADY.flatMap((each) => stage.ceilings?.[each] ?? []) : []),
  )

function steadily(stress: Stress, { stages }: RatedChain, mode: ModeId | undefined): Stress {
  const stage = stages[stress.part]
  if (stress.kind !== 'drive' || stage?.kind !== 'amplifier') return stress
  const limit = driveForW(stage, permittedOutputW(stage, mode))
  return { ...stress, limit, headroomDb: 10 * Math.log10(limit / Math.max(stress.stress, 1e-12)) }
}

/**
 * Stresses for a step of some seconds: a part with a time constant may be given more than its continuous rating, from where
 * it is up to its limit.
 */
export function forSeconds(
  stresses: readonly Stress[],
  heated: readonly Heated[],
  seconds: number,
  warmth: Warmth,
): Stress[] {
  return stresses.map((own) => {
    const part = own.kind === 'heat' ? heated.find(({ part }) => part === own.part) : undefined
    if (!part || own.headroomDb === null) return own
    const factor = shortTimeFactor(warmth.get(part.key)?.share ?? COOL, seconds, part.tauS)
    return { ...own, headroomDb: own.headroomDb + 10 * Math.log10(Math.max(factor, 1e-12)) }
  })
}

/** What decides how much may be set for a step of some seconds, and how much that is. */
export const permittedPower = (
  { stresses, heated, stepped }: StepLoad,
  { unset, seconds, warmth }: { unset: boolean; seconds: number; warmth: Warmth },
): MostPower =>
  mostPowerOf(
    (powerW) => forSeconds(stresses(powerW, unset), heated(powerW, unset), seconds, warmth),
    stepped.at.powerW,
  )
