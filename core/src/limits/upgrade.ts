/** Is the chain good enough for more power, and what must be replaced? Section by section. */
import { type CableClass, cableClasses } from '../cables/cableClass.ts'
import type { OperatingPoint } from '../chain/chain.ts'
import { OutOfRangeError } from '../errors.ts'
import { attenuationDbPer100m } from '../line/cable.ts'
import { type Fault, faultsOf } from './faults.ts'
import { checkLimits, type RatedChain } from './mostPower.ts'
import type { RatedStage } from './ratings.ts'
import type { Stress } from '../stages/stress.ts'
import { type Surroundings, tightest } from './stress.ts'

export interface Replacement {
  cable: CableClass
  /** Of the section, once this cable is in it; the least over all channels. */
  headroomDb: number
}

export interface SectionVerdict {
  /** Index among the stages of the chain that was asked about. */
  stage: number
  /** The tightest stress over all channels; null where no limit is known. */
  worst: Stress | null
  /** Cable classes that would do, thinnest first; empty where it does already. */
  replacements: Replacement[]
}

export interface ChannelCase {
  at: OperatingPoint
  around: Surroundings
}

/** What is before the antenna's leg: its last amplifier's index, or −1. */
const lastAmplifier = (stages: readonly RatedStage[]): number =>
  stages.findLastIndex(({ kind, bypassed }) => kind === 'amplifier' && !bypassed)

/** Replacements to name for one section. */
const MOST_NAMED = 3

/** A cable that is only just enough is not worth climbing the mast for, dB. */
const MARGIN_DB = 1

/**
 * Asks the part of a chain behind its last amplifier whether it bears another power, on all channels. The
 * source is taken without foldback: a new one may have less of it.
 *
 * @param watts PEP at the output of the new radio or amplifier
 */
export function upgradeTo(
  chain: RatedChain,
  watts: number,
  cases: readonly ChannelCase[],
): SectionVerdict[] {
  const first = lastAmplifier(chain.stages) + 1
  const asked: RatedChain = {
    ...chain,
    transmitter: { behaviour: chain.transmitter.behaviour, foldback: [] },
    stages: chain.stages.slice(first),
  }
  const worstOf = (candidate: RatedChain): (Stress | null)[] => {
    const all = cases.flatMap(({ at, around }) => stressesAt(candidate, watts, at, around))
    return candidate.stages.map((_, k) => tightest(all.filter(({ part }) => part === k)))
  }
  return worstOf(asked).map((worst, k): SectionVerdict => {
    const stage = asked.stages[k]!
    const enough = worst !== null && worst.headroomDb! >= 0
    const replacements =
      stage.kind !== 'line' || enough
        ? []
        : cableClasses
            .filter((cable) => fits(cable, stage, cases))
            .sort((a, b) => a.outerMm - b.outerMm)
            .flatMap((cable): Replacement[] => {
              const swapped = { ...stage, cable: { ...cable, gearId: cable.id }, limits: undefined }
              const stages = asked.stages.map((s, i) => (i === k ? swapped : s))
              const headroomDb = worstOf({ ...asked, stages })[k]?.headroomDb ?? -Infinity
              return headroomDb >= MARGIN_DB ? [{ cable, headroomDb }] : []
            })
            .slice(0, MOST_NAMED)
    return { stage: first + k, worst, replacements }
  })
}

/**
 * The fault of the antenna that would do most harm at another power on any channel, with nothing to
 * protect: open or shorted. Null where no limit is known.
 *
 * @returns the fault as the chain that was asked about counts its planes and parts
 */
export function worstFaultAt(
  chain: RatedChain,
  watts: number,
  cases: readonly ChannelCase[],
): Fault | null {
  const first = lastAmplifier(chain.stages) + 1
  const asked: RatedChain = {
    ...chain,
    transmitter: { behaviour: 'levelled', foldback: [] },
    stages: chain.stages.slice(first),
  }
  const all = cases.flatMap(({ at, around }) =>
    onlyMeasured(() => faultsOf(asked, { ...at, powerW: watts, settings: undefined }, around)),
  )
  const worst = all
    .filter(({ kind, unheld }) => (kind === 'open' || kind === 'short') && unheld !== null)
    .reduce<Fault | null>(
      (a, b) => (a === null || b.unheld!.headroomDb! < a.unheld!.headroomDb! ? b : a),
      null,
    )
  return (
    worst && {
      ...worst,
      plane: worst.plane + first,
      unheld: { ...worst.unheld!, part: worst.unheld!.part + first },
    }
  )
}

/** Same impedance, and no more loss on the highest channel than what is there. */
function fits(
  cable: CableClass,
  stage: Extract<RatedStage, { kind: 'line' }>,
  cases: readonly ChannelCase[],
): boolean {
  const highest = Math.max(...cases.map(({ at }) => at.frequencyHz))
  return (
    Math.abs(cable.z0Ohm - stage.cable.z0Ohm) < 5 &&
    attenuationDbPer100m(cable, highest) <= attenuationDbPer100m(stage.cable, highest) * 1.05
  )
}

/** Nothing on a channel that some part or the antenna was not measured for. */
function stressesAt(
  chain: RatedChain,
  powerW: number,
  at: OperatingPoint,
  around: Surroundings,
): Stress[] {
  const free = { ...around, ratedW: undefined, licence: undefined }
  return onlyMeasured(() => checkLimits(chain, { ...at, powerW }, free).stresses)
}

function onlyMeasured<T>(look: () => T[]): T[] {
  try {
    return look()
  } catch (error) {
    if (error instanceof OutOfRangeError) return []
    throw error
  }
}
