/** Stress against limit of one part in circuit: what kinds of stages measure theirs with. */
import type { PlaneState, StageState } from '../chain/solution.ts'
import { NEPER_PER_M, REFERENCE_OHM } from '../constants.ts'
import { attenuationDbPer100m, type Cable } from '../line/cable.ts'
import { averageRatingAt, nearestPoint, type Ratings } from './rating.ts'

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

/** Cable ratings hold at this ambient temperature, °C. */
export const RATED_AMBIENT_C = 40

/** A part in circuit: where it stands, what it bears, and what it may bear. */
export interface InCircuit {
  /** Its index. */
  part: number
  /** The planes on either side of it. */
  before: PlaneState
  behind: PlaneState
  state: StageState
  ratings: Ratings
  frequencyHz: number
  /** Mean over PEP that heats it. */
  share: number
  ambientC: number
}

/** The higher of the voltages on both sides, V rms. */
export const voltsAcross = ({ before, behind }: InCircuit): number =>
  Math.max(before.voltageRms, behind.voltageRms)

/** Headroom in dB of power: volts count double. */
const headroom = (stress: number, limit: number, volts: boolean): number =>
  (volts ? 20 : 10) * Math.log10(limit / Math.max(stress, 1e-12))

/** One stress with its headroom. */
export const stressOf = (
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

/** A voltage at PEP against the part's rating. */
export const voltageStress = ({ part, ratings }: InCircuit, volts: number): Stress =>
  stressOf(part, 'voltage', volts, ratings.voltageRms, 'V rms', 'PEP')

/** The heat of a small part, W, against its rating whatever the frequency. */
export const heatStress = ({ part, ratings, state, share }: InCircuit): Stress =>
  stressOf(part, 'heat', state.lossW * share, ratings.averageW?.[0]?.[1], 'W', 'mean')

/** The power on a matched line that brings the same voltage or current, W, against the rating on this frequency. */
export const powerStress = (
  { part, ratings: { averageW }, share, frequencyHz }: InCircuit,
  ...planes: PlaneState[]
): Stress =>
  stressOf(
    part,
    'heat',
    matchedEquivalentW(planes) * share,
    averageW && averageRatingAt(averageW, frequencyHz),
    'W',
    'mean',
  )

/** What a part bears that the line goes through: an arrester fires on the peak, others have a voltage that they stand. */
export const throughStresses = (at: InCircuit): Stress[] => {
  const volts = voltsAcross(at)
  const { firingVoltageDc } = at.ratings
  return [
    firingVoltageDc === undefined
      ? voltageStress(at, volts)
      : stressOf(at.part, 'firing', volts * Math.SQRT2, firingVoltageDc, 'V peak', 'PEP'),
    powerStress(at, at.before, at.behind),
  ]
}

/** What comes back ends in a part's own load, W, against what that bears. */
export const heatOfLoad = ({ part, behind, share }: InCircuit, loadW: number | undefined): Stress =>
  stressOf(part, 'heat', behind.reflectedW * share, loadW, 'W', 'mean')

/** The heat of a cable's hottest metre, W/m at PEP, against what it may have. */
export const heatPerMetreStress = (at: InCircuit, cable: Cable, heatWPerM: number): Stress =>
  stressOf(at.part, 'heat', heatWPerM * at.share, permittedHeatWPerM(cable, at), 'W/m', 'mean')

const matchedEquivalentW = (planes: readonly PlaneState[]): number =>
  Math.max(
    ...planes.map(({ voltageRms, currentRms }) =>
      Math.max(voltageRms ** 2 / REFERENCE_OHM, currentRms ** 2 * REFERENCE_OHM),
    ),
  )

/**
 * Heat that a cable may have per metre, W/m: its rated power P gives P·2α on a flat line at 40 °C, derated
 * by (Tmax − Tamb)/(Tmax − 40). The cable is the new one: with age the loss rises and the same heat is reached earlier.
 */
export function permittedHeatWPerM(
  cable: Cable,
  {
    ratings: { averageW, maxTemperatureC },
    frequencyHz,
    ambientC,
  }: Pick<InCircuit, 'ratings' | 'frequencyHz' | 'ambientC'>,
): number | null {
  if (!averageW || averageW.length === 0) return null
  const [hz, watts] = nearestPoint(averageW, frequencyHz)
  // One figure without a frequency is taken at this one.
  const at = averageW.length === 1 ? frequencyHz : hz
  const neper = 2 * attenuationDbPer100m(cable, at) * NEPER_PER_M
  if (maxTemperatureC === undefined) return watts * neper
  const derate = (maxTemperatureC - ambientC) / (maxTemperatureC - RATED_AMBIENT_C)
  return Math.max(0, watts * neper * derate)
}
