import { attenuationDbPer100m, findsCable, ratedPowerAt } from '@saltline/core'
import type { CableChoice } from '../../model/cableFacts.ts'

/** A cable of the catalogue or of the station, as the table shows it. */
export type CableRow = CableChoice

export type SortKey = 'name' | 'outer' | 'loss' | 'power' | 'voltage' | 'weight' | 'bend' | 'price'

/** What a column sorts by; rows that do not know it come last. */
const sortValue: Record<SortKey, (row: CableRow, hz: number) => number | string> = {
  name: ({ name }) => name.toLowerCase(),
  outer: ({ outerMm }) => outerMm ?? Infinity,
  loss: ({ cable }, hz) => attenuationDbPer100m(cable, hz),
  power: ({ sheet }, hz) => (sheet ? -ratedPowerAt(sheet, hz) : Infinity),
  voltage: ({ sheet }) => (sheet ? -sheet.ratedVoltageRms : Infinity),
  weight: ({ weightKgPer100m }) => weightKgPer100m ?? Infinity,
  bend: ({ minBendMm }) => minBendMm ?? Infinity,
  price: ({ pricePerM }) => pricePerM ?? Infinity,
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

/** Every word typed must begin a word of name, construction, jacket marking or trade size. */
export const matches = ({ name, cable, sheet }: CableRow, query: string): boolean =>
  findsCable({ name, z0Ohm: cable.z0Ohm, sheet: sheet ?? undefined }, query)
