/** Stress against limit on every part of a solved chain. docs/how-it-computes.md says how. */
import { type RadiatedKind, radiatedW } from './radiated.ts'
import type { Solution } from '../chain/solution.ts'
import { type Emission, heatShareOf } from '../source/modes.ts'
import { modelOf } from '../stages/stage.ts'
import { type Stress, stressOf } from '../stages/stress.ts'
import { type RatedStage, ratingsOf } from './ratings.ts'

/** What a licence allows on one frequency. */
export interface Licence {
  /** Where its watts are: at the output, at the antenna, or radiated. */
  kind: 'PEP' | 'antenna' | RadiatedKind
  watts: number
  /** It speaks of average power instead of PEP. */
  average?: boolean | undefined
}

/** What else bounds a station: its licence, and the heat around it. */
export interface Surroundings {
  emission: Emission
  /** Longest over, s, followed by as long a pause. */
  longestOverS?: number | undefined
  /** °C; cable ratings hold at 40. */
  ambientC: number
  /** Rated PEP of the transmitter on this frequency, W. */
  ratedW?: number | undefined
  licence?: Licence | undefined
  /** Over isotropic, on this frequency; without it a licence that speaks of radiated power is not judged. */
  antennaGainDbi?: number | undefined
  /** What the antenna or dummy load bears on average, W. */
  loadAverageW?: number | undefined
}

/**
 * Mean over PEP that heats a part: the long-run mean, or the peak of heating and cooling where the over
 * and the part's time constant are known (an over, then as long a pause): m/(1 + e^(−T/τ)).
 */
export function thermalShare(
  { emission, longestOverS }: Surroundings,
  timeConstantS: number | undefined,
): number {
  const share = heatShareOf(emission)
  if (longestOverS === undefined || timeConstantS === undefined) return share
  return share / (1 + Math.exp(-longestOverS / timeConstantS))
}

/** Every stress of a solved chain, in the order of the chain. */
export function stressesOf(
  stages: readonly RatedStage[],
  solution: Solution,
  around: Surroundings,
): Stress[] {
  return [
    ...sourceStresses(solution, around),
    ...stages.flatMap((stage, k) =>
      stage.bypassed ? [] : stageStresses(stage, k, solution, around),
    ),
    ...antennaStresses(stages.length, solution, around),
  ]
}

/** Power that a licence speaks of, W at PEP, against what it allows. */
function licenceStress(
  part: number,
  watts: number,
  { watts: allowed, average = false }: Licence,
  emission: Emission,
): Stress {
  const value = average ? watts * heatShareOf(emission) : watts
  return stressOf(part, 'licence', value, allowed, 'W', average ? 'mean' : 'PEP')
}

function sourceStresses(solution: Solution, { ratedW, licence, emission }: Surroundings): Stress[] {
  const outputs = solution.stages.map(({ amplifier }, k) => (amplifier ? k : -1))
  const amplifier = outputs.findLast((k) => k >= 0)
  const out =
    amplifier === undefined ? solution.transmitterNetW : solution.planes[amplifier + 1]!.netW
  return [
    ...(ratedW === undefined ? [] : [stressOf(-1, 'power', solution.settingW, ratedW, 'W', 'PEP')]),
    ...(licence?.kind === 'PEP' ? [licenceStress(-1, out, licence, emission)] : []),
  ]
}

function antennaStresses(part: number, { antennaW }: Solution, around: Surroundings): Stress[] {
  const { loadAverageW, emission } = around
  const licensed = licensedW(antennaW, around)
  return [
    ...(loadAverageW === undefined
      ? []
      : [stressOf(part, 'heat', antennaW * heatShareOf(emission), loadAverageW, 'W', 'mean')]),
    ...(licensed === null ? [] : [licenceStress(part, licensed, around.licence!, emission)]),
  ]
}

/** What a licence counts of power at the antenna, W; null where it counts at the output, or a gain that it needs is unknown. */
function licensedW(antennaW: number, { licence, antennaGainDbi }: Surroundings): number | null {
  if (!licence || licence.kind === 'PEP') return null
  if (licence.kind === 'antenna') return antennaW
  return antennaGainDbi === undefined ? null : radiatedW(antennaW, antennaGainDbi, licence.kind)
}

/** What one stage in circuit bears. */
function stageStresses(
  stage: RatedStage,
  part: number,
  { planes, stages, frequencyHz }: Solution,
  around: Surroundings,
): Stress[] {
  const ratings = ratingsOf(stage)
  return modelOf(stage).stresses(stage, {
    part,
    before: planes[part]!,
    behind: planes[part + 1]!,
    state: stages[part]!,
    ratings,
    frequencyHz,
    share: thermalShare(around, ratings.timeConstantS),
    ambientC: around.ambientC,
  })
}

/**
 * The stress with the least headroom, among those that are known.
 *
 * @example tightest([]) // null
 */
export const tightest = (stresses: readonly Stress[]): Stress | null =>
  stresses.reduce<Stress | null>(
    (worst, s) =>
      s.headroomDb !== null && (worst === null || s.headroomDb < worst.headroomDb!) ? s : worst,
    null,
  )

/** Whether anything is past its limit, whatever the power: an amplifier that trips by SWR. */
export const brokenBySwr = (stresses: readonly Stress[]): Stress | null =>
  stresses.find((s) => s.kind === 'SWR' && s.limit !== null && s.stress > s.limit) ?? null

export type Standing = 'ok' | 'tight' | 'over' | 'unknown'

/** Less than this is called tight, dB. */
const TIGHT_DB = 2

/** Whether a part is within its limit: over, tight (less than 2 dB, or 85 % of a limit of SWR), ok, or unknown. */
export function standingOf({ headroomDb, limit, stress, kind }: Stress): Standing {
  if (limit === null) return 'unknown'
  if (kind === 'SWR') return stress > limit ? 'over' : stress > limit * 0.85 ? 'tight' : 'ok'
  return headroomDb! < 0 ? 'over' : headroomDb! < TIGHT_DB ? 'tight' : 'ok'
}
