/** What a part may bear: from its class in the catalogue, or as the operator knows it. */
import type { CableClass } from '../cables/cableClass.ts'
import { attenuationDbPer100m } from '../line/cable.ts'
import { inHz, nearestPoint, partRatings, type Ratings } from '../stages/rating.ts'
import { modelOf, type Stage } from '../stages/stage.ts'

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

/** The ratings of a stage. */
export function ratingsOf(stage: RatedStage): Ratings {
  const { limits = {} } = stage
  const own: Ratings = {
    ...(limits.voltageRms !== undefined && { voltageRms: limits.voltageRms }),
    ...(limits.firingVoltageDc !== undefined && { firingVoltageDc: limits.firingVoltageDc }),
    ...(limits.averageW !== undefined && { averageW: [[1, limits.averageW]] }),
    ...(limits.timeConstantS !== undefined && { timeConstantS: limits.timeConstantS }),
  }
  return { ...(modelOf(stage).ratings?.(stage) ?? partRatings(stage)), ...own }
}

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
