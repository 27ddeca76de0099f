import { fitAttenuation } from './attenuationFit.ts'
import classes from './classes.json' with { type: 'json' }
import type { CableConstruction } from './construction.ts'
import type { Cable } from '../line/cable.ts'

/** [frequency in MHz, value] points of a data sheet, frequencies rising. */
export type SheetPoints = readonly (readonly [mhz: number, value: number])[]

export type Dielectric = 'solid PE' | 'foam PE' | 'half-air PE' | 'PTFE'
export type Shield = 'braid' | 'double braid' | 'foil and braid' | 'corrugated' | 'solid'

/** What a data sheet says of a cable of one class. */
export interface CableData {
  id: string
  name: string
  dielectric: Dielectric
  shield: Shield
  construction: CableConstruction
  z0Ohm: number
  velocityFactor: number
  capacitancePfPerM: number
  pointsDbPer100m: SheetPoints
  /** Average power for a matched line at 40 °C ambient, W over MHz. */
  ratedPowerW: SheetPoints
  ratedVoltageRms: number
  minTemperatureC: number
  /** What the inner conductor may reach. */
  maxTemperatureC: number
  outerMm: number
  weightKgPer100m: number
  minBendMm: number
  /** 1 (cheap) to 5 (dear), per metre. */
  priceLevel: number
  maxHz: number
  /** Standard type designations seen on jackets of this class. */
  jacketMarkings: readonly string[]
}

/**
 * Classes of coaxial cable by what they are. Values are typical of the class, not of any one make:
 * points as a data sheet would give them, dimensions of a typical sample. A test holds every entry
 * to its own construction.
 */
const cableData = classes as unknown as readonly CableData[]

/** A class with its attenuation law fitted to its points. */
export type CableClass = CableData & Cable

/** The catalogue of cable classes, by construction and size, each with its attenuation law α = k₁√f + k₂f fitted. */
export const cableClasses: readonly CableClass[] = cableData.map((data) => {
  const { k1DbPer100m, k2DbPer100m } = fitAttenuation(data.pointsDbPer100m)
  return { ...data, k1DbPer100m, k2DbPer100m }
})
