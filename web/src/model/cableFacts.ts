import type { CableDocument, Station } from '@saltline/contract'
import { type CableClass, cableClasses } from '@saltline/core'
import { ownCables } from './ownCables.ts'
import { copyOfClass } from './stages/line.ts'

/** What of a station says what its cables cost. */
export type Store = Pick<Station, 'gear' | 'prices'>

/** What a cable weighs, costs and bears; null where nobody has said it. */
export interface CableFacts {
  outerMm: number | null
  weightKgPer100m: number | null
  minBendMm: number | null
  /** Per metre, in the station's currency. */
  pricePerM: number | null
}

/** A cable that can be put into a chain, of the catalogue or of the station's own. */
export interface CableChoice extends CableFacts {
  id: string
  name: string
  cable: CableDocument
  sheet: CableClass | null
}

const orNull = (value: number | undefined): number | null => value ?? null

/**
 * What is known of a cable: what it carries itself, else what its class or the station's own cable says; the price of a
 * class is the station's.
 */
export function factsOf(cable: CableDocument, station: Store): CableFacts {
  const sheet = cableClasses.find(({ id }) => id === cable.gearId)
  const own = ownCables(station).find(({ id }) => id === cable.gearId)?.document
  return {
    outerMm: orNull(cable.outerMm ?? own?.outerMm ?? sheet?.outerMm),
    weightKgPer100m: orNull(
      cable.weightKgPer100m ?? own?.weightKgPer100m ?? sheet?.weightKgPer100m,
    ),
    minBendMm: orNull(cable.minBendMm ?? own?.minBendMm ?? sheet?.minBendMm),
    pricePerM: orNull(cable.pricePerM ?? own?.pricePerM ?? station.prices.perM[cable.gearId ?? '']),
  }
}

/** Every cable that the station could use: its own first, then the catalogue. */
export const cableChoices = (station: Store): CableChoice[] => [
  ...ownCables(station).map(({ id, document }) => {
    const cable = { ...document, gearId: id }
    return { id, name: document.name, cable, sheet: null, ...factsOf(cable, station) }
  }),
  ...cableClasses.map((sheet) => {
    const cable = copyOfClass(sheet)
    return { id: sheet.id, name: sheet.name, cable, sheet, ...factsOf(cable, station) }
  }),
]
