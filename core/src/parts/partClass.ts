import type { SheetPoints } from '../cables/cableClass.ts'
import parts from './parts.json' with { type: 'json' }

export type PartKind =
  | 'connector'
  | 'switch'
  | 'arrester'
  | 'meter'
  | 'filter'
  | 'choke'
  | 'attenuator'

/**
 * A class of small parts on the way. Values are typical of the class, not of any one make; a figure
 * that is not given is not known.
 */
export interface PartClass {
  id: string
  part: PartKind
  name: string
  /** Insertion loss between matched ends, dB over MHz. */
  pointsDb: SheetPoints
  maxMhz: number
  /** Of a filter: what it lets through, MHz. */
  passesMhz?: readonly [low: number, high: number]
  /** Average power into a match, W over MHz. */
  ratedPowerW: SheetPoints
  ratedVoltageRms?: number
  /** DC firing voltage of an arrester; it fires on the peak. */
  firingVoltageDc?: number
  note: string
}

/** The catalogue of small parts: connectors, arresters, relays and the like, by class. */
export const partClasses = parts as unknown as readonly PartClass[]
