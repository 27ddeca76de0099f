/** Stress against limit on every part of a solved chain. docs/how-it-computes.md says how. */
import { NEPER_PER_M, REFERENCE_OHM } from '../constants.ts'
import { attenuationDbPer100m } from '../line/cable.ts'
import { type Emission, heatShareOf } from '../source/modes.ts'
import { cableToday } from '../stages/line.ts'
import { stubStress } from '../stages/stub.ts'
import type { PlaneState, Solution } from '../chain/solve.ts'
import {
  averageRatingAt,
  nearestPoint,
  type RatedStage,
  type Ratings,
  ratingsOf,
} from './ratings.ts'

export type LimitKind =
  | 'voltage'
  | 'heat'
  | 'firing'
  | 'power'
  | 'drive'
  | 'SWR'
  | 'reflected'
  | 'licence'

/** One stress and its limit. */
export interface Stress {
  /** Index of the stage; −1 for the transmitter, the number of stages for the antenna. */
  part: number
  kind: LimitKind
  /** V, W/m, W or an SWR; at PEP or averaged, as `basis` says. */
  stress: number
  /** null where it is not known: never taken as fine. */
  limit: number | null
  unit: 'V rms' | 'V peak' | 'W/m' | 'W' | ''
  basis: 'PEP' | 'mean'
  /** Metres from the cable’s antenna end. */
  fromLoadM?: number
  /** How much more power the part could bear, dB; null where unknown or where power is not the point. */
  headroomDb: number | null
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
  licence?: { kind: 'PEP' | 'EIRP' | 'ERP'; watts: number } | undefined
  /** Over isotropic. */
  antennaGainDbi?: number | undefined
  /** What the antenna or dummy load bears on average, W. */
  loadAverageW?: number | undefined
}

/** Cable ratings hold at this ambient temperature, °C. */
export const RATED_AMBIENT_C = 40

/** A dipole’s gain over isotropic: ERP is that much less than EIRP. */
const DIPOLE_DBI = 2.15

/** Headroom in dB of power: volts count double. */
const headroom = (stress: number, limit: number, volts: boolean): number =>
  (volts ? 20 : 10) * Math.log10(limit / Math.max(stress, 1e-12))

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

const stressOf = (
  part: number,
  kind: LimitKind,
  stress: number,
  limit: number | null | undefined,
  unit: Stress['unit'],
  basis: Stress['basis'],
): Stress => ({
  part,
  kind,
  stress,
  limit: limit ?? null,
  unit,
  basis,
  headroomDb: limit == null ? null : headroom(stress, limit, unit.startsWith('V')),
})

function sourceStresses(solution: Solution, { ratedW, licence }: Surroundings): Stress[] {
  const outputs = solution.stages.map(({ amplifier }, k) => (amplifier ? k : -1))
  const amplifier = outputs.findLast((k) => k >= 0)
  const out =
    amplifier === undefined ? solution.transmitterNetW : solution.planes[amplifier + 1]!.netW
  return [
    ...(ratedW === undefined ? [] : [stressOf(-1, 'power', solution.settingW, ratedW, 'W', 'PEP')]),
    ...(licence?.kind === 'PEP' ? [stressOf(-1, 'licence', out, licence.watts, 'W', 'PEP')] : []),
  ]
}

function antennaStresses(part: number, { antennaW }: Solution, around: Surroundings): Stress[] {
  const { licence, antennaGainDbi = 0, loadAverageW, emission } = around
  const over = licence?.kind === 'ERP' ? antennaGainDbi - DIPOLE_DBI : antennaGainDbi
  return [
    ...(loadAverageW === undefined
      ? []
      : [stressOf(part, 'heat', antennaW * heatShareOf(emission), loadAverageW, 'W', 'mean')]),
    ...(licence && licence.kind !== 'PEP'
      ? [stressOf(part, 'licence', antennaW * 10 ** (over / 10), licence.watts, 'W', 'PEP')]
      : []),
  ]
}

function stageStresses(
  stage: RatedStage,
  k: number,
  solution: Solution,
  around: Surroundings,
): Stress[] {
  const ratings = ratingsOf(stage)
  const share = thermalShare(around, ratings.timeConstantS)
  const [before, behind] = [solution.planes[k]!, solution.planes[k + 1]!]
  const state = solution.stages[k]!
  const volts = Math.max(before.voltageRms, behind.voltageRms)
  switch (stage.kind) {
    case 'line': {
      const { maxVoltageRms, maxHeatWPerM, matchedLossDb } = state.line!
      const heat =
        matchedLossDb > 0 || stage.lengthM === 0
          ? stressOf(
              k,
              'heat',
              maxHeatWPerM.value * share,
              permittedHeatWPerM(stage, ratings, solution.frequencyHz, around.ambientC),
              'W/m',
              'mean',
            )
          : // A cable given without loss has no heat to judge: its rating is then held against the power.
            stressOf(
              k,
              'heat',
              matchedEquivalentW(before, behind) * share,
              onFrequency(ratings, solution),
              'W',
              'mean',
            )
      return [
        {
          ...stressOf(k, 'voltage', maxVoltageRms.value, ratings.voltageRms, 'V rms', 'PEP'),
          fromLoadM: maxVoltageRms.fromLoadM,
        },
        { ...heat, fromLoadM: maxHeatWPerM.fromLoadM },
      ]
    }
    case 'pad':
    case 'measured': {
      return [
        ...(ratings.firingVoltageDc === undefined
          ? [stressOf(k, 'voltage', volts, ratings.voltageRms, 'V rms', 'PEP')]
          : [stressOf(k, 'firing', volts * Math.SQRT2, ratings.firingVoltageDc, 'V peak', 'PEP')]),
        stressOf(
          k,
          'heat',
          matchedEquivalentW(before, behind) * share,
          onFrequency(ratings, solution),
          'W',
          'mean',
        ),
      ]
    }
    case 'series':
    case 'shunt': {
      const rated = ratings.averageW?.[0]?.[1]
      return [
        stressOf(
          k,
          'voltage',
          stage.kind === 'shunt' ? volts : acrossSeries(stage, before.currentRms),
          ratings.voltageRms,
          'V rms',
          'PEP',
        ),
        stressOf(k, 'heat', state.lossW * share, rated, 'W', 'mean'),
      ]
    }
    case 'transformer':
      return [
        stressOf(k, 'voltage', volts, ratings.voltageRms, 'V rms', 'PEP'),
        // On the transmitter's side, where its loss sits.
        stressOf(
          k,
          'heat',
          matchedEquivalentW(before) * share,
          onFrequency(ratings, solution),
          'W',
          'mean',
        ),
      ]
    case 'stub': {
      const along = stubStress(stage, solution.frequencyHz)
      const { lengthM, cable } = stage
      return [
        stressOf(k, 'voltage', volts * along.voltageRms, ratings.voltageRms, 'V rms', 'PEP'),
        stressOf(
          k,
          'heat',
          along.heatWPerM * volts ** 2 * share,
          permittedHeatWPerM(
            { kind: 'line', lengthM, cable },
            ratings,
            solution.frequencyHz,
            around.ambientC,
          ),
          'W/m',
          'mean',
        ),
      ]
    }
    case 'tuner': {
      const { elements } = state.tuner!
      const worst = Math.max(0, ...elements.map((element) => element.voltageRms))
      return [
        stressOf(k, 'power', before.netW, ratings.pepW, 'W', 'PEP'),
        // The same stresses whatever the power is: those of several phases are compared one by one.
        ...(elements.length > 0
          ? [stressOf(k, 'voltage', worst, ratings.voltageRms, 'V rms', 'PEP')]
          : []),
        ...(ratings.averageW
          ? [stressOf(k, 'heat', state.lossW * share, ratings.averageW[0]![1], 'W', 'mean')]
          : []),
      ]
    }
    case 'amplifier': {
      const { driveW, mostDriveW } = state.amplifier!
      const fixed = (kind: LimitKind, stress: number, limit: number, unit: Stress['unit']) => ({
        ...stressOf(k, kind, stress, limit, unit, 'PEP'),
      })
      return [
        stressOf(k, 'drive', driveW, mostDriveW, 'W', 'PEP'),
        ...(stage.tripReflectedW === undefined
          ? []
          : [fixed('reflected', behind.reflectedW, stage.tripReflectedW, 'W')]),
        ...(stage.tripSwr === undefined
          ? []
          : [{ ...fixed('SWR', behind.swr, stage.tripSwr, ''), headroomDb: null }]),
      ]
    }
  }
}

/** The power on a matched line that would bring the same voltage, or the same current, W PEP. */
const matchedEquivalentW = (...planes: Pick<PlaneState, 'voltageRms' | 'currentRms'>[]): number =>
  Math.max(
    ...planes.map(({ voltageRms, currentRms }) =>
      Math.max(voltageRms ** 2 / REFERENCE_OHM, currentRms ** 2 * REFERENCE_OHM),
    ),
  )

const onFrequency = ({ averageW }: Ratings, { frequencyHz }: Solution): number | undefined =>
  averageW && averageRatingAt(averageW, frequencyHz)

const acrossSeries = ({ rOhm, xOhm }: { rOhm: number; xOhm: number }, currentRms: number): number =>
  Math.hypot(rOhm, xOhm) * currentRms

/**
 * Heat that a cable may have per metre, W/m: its rated power P gives P·2α on a flat line at 40 °C, derated
 * by (Tmax − Tamb)/(Tmax − 40). With age the loss rises and the same heat is reached earlier.
 */
export function permittedHeatWPerM(
  stage: Extract<RatedStage, { kind: 'line' }>,
  { averageW, maxTemperatureC }: Ratings,
  frequencyHz: number,
  ambientC: number,
): number | null {
  if (!averageW || averageW.length === 0) return null
  const [hz, watts] = nearestPoint(averageW, frequencyHz)
  // One figure without a frequency is taken at this one.
  const at = averageW.length === 1 ? frequencyHz : hz
  const neper =
    2 *
    attenuationDbPer100m(cableToday({ ...stage, ageing: undefined, temperatureC: undefined }), at) *
    NEPER_PER_M
  if (maxTemperatureC === undefined) return watts * neper
  const derate = (maxTemperatureC - ambientC) / (maxTemperatureC - RATED_AMBIENT_C)
  return Math.max(0, watts * neper * derate)
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
