/** What a part may bear: from its class in the catalogue, or as the operator knows it. */
import { type CableClass, cableClasses, type SheetPoints } from '../cables/cableClass.ts'
import { attenuationDbPer100m } from '../line/cable.ts'
import { partClasses } from '../parts/partClass.ts'
import type { Stage } from '../stages/stage.ts'

/** Ratings of one part; what is missing is not known. */
export interface Ratings {
  voltageRms?: number | undefined
  /** DC firing voltage of an arrester; it fires on the peak. */
  firingVoltageDc?: number | undefined
  /** Average power into a match, [Hz, W]; for a cable at 40 °C. */
  averageW?: readonly (readonly [hz: number, watts: number])[] | undefined
  /** What the inner conductor of a cable may reach, °C. */
  maxTemperatureC?: number | undefined
  /** Peak envelope power, W. */
  pepW?: number | undefined
  /** Thermal time constant, s. */
  timeConstantS?: number | undefined
}

/** What an operator may know of a part; it goes before the catalogue. */
export interface OwnLimits {
  voltageRms?: number | undefined
  /** DC firing voltage of an arrester. */
  firingVoltageDc?: number | undefined
  averageW?: number | undefined
  timeConstantS?: number | undefined
}

/** A stage of a document: it names the class it was taken from. */
export type RatedStage = Stage & {
  gearId?: string | undefined
  limits?: OwnLimits | undefined
  ratedW?: number | undefined
}

const inHz = (points: SheetPoints) =>
  points.map(([mhz, watts]): [number, number] => [mhz * 1e6, watts])

/** The ratings of a stage. */
export function ratingsOf(stage: RatedStage): Ratings {
  const { limits = {} } = stage
  const own: Ratings = {
    ...(limits.voltageRms !== undefined && { voltageRms: limits.voltageRms }),
    ...(limits.firingVoltageDc !== undefined && { firingVoltageDc: limits.firingVoltageDc }),
    ...(limits.averageW !== undefined && { averageW: [[1, limits.averageW]] }),
    ...(limits.timeConstantS !== undefined && { timeConstantS: limits.timeConstantS }),
  }
  return { ...catalogueRatings(stage), ...own }
}

function catalogueRatings(stage: RatedStage): Ratings {
  if (stage.kind === 'tuner') return { pepW: stage.ratedW }
  if (stage.kind === 'line' || stage.kind === 'stub') {
    const { gearId } = stage.cable as { gearId?: string }
    const found = cableClasses.find(({ id }) => id === gearId)
    return found ? cableRatings(found) : {}
  }
  const found = partClasses.find(({ id }) => id === stage.gearId)
  if (!found) return {}
  return {
    voltageRms: found.ratedVoltageRms,
    firingVoltageDc: found.firingVoltageDc,
    averageW: inHz(found.ratedPowerW),
  }
}

/** What a cable class may carry: RMS voltage (V) and average power over frequency (W). */
const cableRatings = (cable: CableClass): Ratings => ({
  voltageRms: cable.ratedVoltageRms,
  averageW: inHz(cable.ratedPowerW),
  maxTemperatureC: cable.maxTemperatureC,
})

/**
 * Rated average power between the points of a cable's sheet, W: it goes with the inverse of the loss
 * from the nearest point.
 *
 * @example ratedPowerAt(cableClasses[0], 10e6) // 770
 */
export function ratedPowerAt(sheet: CableClass, frequencyHz: number): number {
  const [hz, watts] = nearestPoint(inHz(sheet.ratedPowerW), frequencyHz)
  return (watts * attenuationDbPer100m(sheet, hz)) / attenuationDbPer100m(sheet, frequencyHz)
}

/** The point of a rating nearest to a frequency, on a logarithmic scale. */
export const nearestPoint = (
  points: readonly (readonly [number, number])[],
  frequencyHz: number,
): readonly [hz: number, watts: number] =>
  points.reduce((best, point) =>
    Math.abs(Math.log(point[0] / frequencyHz)) < Math.abs(Math.log(best[0] / frequencyHz))
      ? point
      : best,
  )

/** Rating of a small part at a frequency, straight on logarithmic axes, held at its ends. */
export function averageRatingAt(
  points: readonly (readonly [number, number])[],
  frequencyHz: number,
): number {
  const first = points[0]!
  const last = points.at(-1)!
  if (frequencyHz <= first[0]) return first[1]
  if (frequencyHz >= last[0]) return last[1]
  const i = points.findIndex(([hz]) => hz >= frequencyHz)
  const [f0, a] = points[i - 1]!
  const [f1, b] = points[i]!
  return a * (b / a) ** (Math.log(frequencyHz / f0) / Math.log(f1 / f0))
}
