/** Places on the spine as the record names them, and its days and hours. */
import type { ChainDocument } from './chain.ts'
import type { Reading } from './reading.ts'
import type { Gear } from './station.ts'

export interface Place {
  /** The stage it is in front of, or `load`. */
  before: string
  plane: number
  name: string
}

/** Every plane of a chain, from the radio to the antenna. */
export const placesOf = ({ stages, load }: Pick<ChainDocument, 'stages' | 'load'>): Place[] => [
  ...stages.map(({ id, name }, plane) => ({
    before: id,
    plane,
    name: plane === 0 ? 'at the radio' : `input of ${name}`,
  })),
  {
    before: 'load',
    plane: stages.length,
    name: stages.length === 0 ? 'at the radio' : `at the ${load.name}`,
  },
]

/** Index of the plane that a reading was taken at; null where the chain has lost its stage. */
export const planeOfReading = (document: ChainDocument, { before }: Pick<Reading, 'before'>) =>
  placesOf(document).find((place) => place.before === before)?.plane ?? null

export type Instrument = Extract<Gear, { kind: 'instrument' }>

const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })
const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' })

export const dayText = (at: string | number): string => day.format(new Date(at))
export const clockText = (at: string | number): string => clock.format(new Date(at))
