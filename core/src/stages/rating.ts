/** What a part of a kind may bear, by its class in the catalogue. */
import { cableClasses, type SheetPoints } from '../cables/cableClass.ts'
import type { Cable } from '../line/cable.ts'
import { partClasses } from '../parts/partClass.ts'

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

/** A sheet’s points of [MHz, W] as [Hz, W]. */
export const inHz = (points: SheetPoints): [hz: number, watts: number][] =>
  points.map(([mhz, watts]) => [mhz * 1e6, watts])

/** What the class of a cable may carry; a cable of one's own has no figure. */
export function cableRatings(cable: Cable & { gearId?: string }): Ratings {
  const found = cableClasses.find(({ id }) => id === cable.gearId)
  if (!found) return {}
  return {
    voltageRms: found.ratedVoltageRms,
    averageW: inHz(found.ratedPowerW),
    maxTemperatureC: found.maxTemperatureC,
  }
}

/** What the class of a part may carry. */
export function partRatings({ gearId }: { gearId?: string | undefined }): Ratings {
  const found = partClasses.find(({ id }) => id === gearId)
  if (!found) return {}
  return {
    voltageRms: found.ratedVoltageRms,
    firingVoltageDc: found.firingVoltageDc,
    averageW: inHz(found.ratedPowerW),
  }
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
