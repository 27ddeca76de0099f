import type { Station } from '@saltline/contract'
import {
  attenuationDbPer100m,
  type Cable,
  type CableClass,
  cableClasses,
  ratedPowerAt,
} from '@saltline/core'
import { ownCables } from '../../model/ownCables.ts'

/** A cable of the catalogue or of the station, as the table shows it. */
export interface CableRow {
  id: string
  name: string
  cable: Cable
  /** What the catalogue knows; null for a cable of the station's own. */
  sheet: CableClass | null
}

export const cableRows = (station: Station): CableRow[] => [
  ...ownCables(station).map(({ id, document }) => ({
    id,
    name: document.name,
    cable: document,
    sheet: null,
  })),
  ...cableClasses.map((sheet) => ({ id: sheet.id, name: sheet.name, cable: sheet, sheet })),
]

export type SortKey = 'name' | 'outer' | 'loss' | 'power' | 'voltage' | 'weight' | 'bend' | 'price'

/** What a column sorts by; rows that do not know it come last. */
export const sortValue: Record<SortKey, (row: CableRow, hz: number) => number | string> = {
  name: ({ name }) => name.toLowerCase(),
  outer: ({ sheet }) => sheet?.outerMm ?? Infinity,
  loss: ({ cable }, hz) => attenuationDbPer100m(cable, hz),
  power: ({ sheet }, hz) => (sheet ? -ratedPowerAt(sheet, hz) : Infinity),
  voltage: ({ sheet }) => (sheet ? -sheet.ratedVoltageRms : Infinity),
  weight: ({ sheet }) => sheet?.weightKgPer100m ?? Infinity,
  bend: ({ sheet }) => sheet?.minBendMm ?? Infinity,
  price: ({ sheet }) => sheet?.priceLevel ?? Infinity,
}

export function sortRows(rows: readonly CableRow[], key: SortKey, falling: boolean, hz: number) {
  const value = sortValue[key]
  const sign = falling ? -1 : 1
  return [...rows].sort((a, b) => {
    const [x, y] = [value(a, hz), value(b, hz)]
    if (x === Infinity || y === Infinity) return x === y ? 0 : x === Infinity ? 1 : -1
    return x < y ? -sign : x > y ? sign : 0
  })
}

/** Every word typed must be found somewhere in name, construction or jacket marking. */
export function matches({ name, cable, sheet }: CableRow, query: string): boolean {
  const hay = [
    name,
    `${cable.z0Ohm} Ω ohm`,
    sheet?.dielectric,
    sheet?.shield,
    ...(sheet?.jacketMarkings ?? []),
    ...(sheet?.jacketMarkings.map((m) => m.replace(/\W/g, '')) ?? []),
  ]
    .join(' ')
    .toLowerCase()
  return query
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .every((word) => hay.includes(word))
}
