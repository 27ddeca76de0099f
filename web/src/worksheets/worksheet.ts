/** What a worksheet is: a small laboratory with its set-up, steps, fields and a live result. */
import type { CableDocument, MeasurementBody, Station } from '@saltline/contract'
import { type CalibrationPoints, type Propagated, decimals, type Range } from '@saltline/core'
import type { SetupRow } from './Setup.tsx'

/** Under test: a piece of one of the station's chains, or a length of some class of cable. */
export interface Subject {
  /** How it is named in the address. */
  key: string
  /** Where it is, if it is a piece of a chain. */
  place: { chainId: string; stageId: string } | null
  /** The chain's name, or what kind of subject it is. */
  group: string
  name: string
  kind: 'line' | 'pad'
  lengthM?: number
  cable?: CableDocument
}

/** What reading the fields comes to. */
export interface SheetResult {
  /** The answer in one sentence, with its range. */
  answer: string
  /** The figure that is kept, compared and applied. */
  lead: NonNullable<MeasurementBody['result']> | null
  rows: readonly (readonly [name: string, figure: string])[]
  because?: Propagated['because']
  /** How it is worked out, a line a step. */
  working: readonly string[]
  /** A warning that belongs to these figures. */
  mind?: string
  /** Measured loss by frequency, Hz and dB: what can be applied to a section. */
  loss?: readonly (readonly [number, number])[]
  /** A velocity factor that can be applied to a section’s cable. */
  velocityFactor?: number
  /** The loss that the data sheet gives for the subject, dB, at the lead's frequency. */
  sheetDb?: number
  /** Fit to show others: printed, copied, saved as CSV. */
  table?: { name: string; head: readonly string[]; rows: readonly (readonly string[])[] }
  /** Cables that were measured, and may be used as the station's own. */
  cables?: readonly { name: string; cable: CableDocument }[]
  /** A correction that may be kept with an instrument. */
  calibration?: {
    instrumentId: string
    name: string
    points: CalibrationPoints
    doubt: number
  }
  /** A drawing under the result. */
  /** One curve; what it is over has its unit. */
  chart?: { x: readonly number[]; unit: 'MHz' | 'W'; values: readonly number[]; name: string }
}

export interface FieldsProps<I> {
  inputs: I
  put: (change: Partial<I>) => void
  station: Station
  subject: Subject | null
}

export interface Worksheet<I extends object = never> {
  initial: I
  setup: (inputs: I) => readonly SetupRow[]
  steps: readonly string[]
  caution?: string
  proves: readonly string[]
  doesNot: readonly string[]
  /** Whether a piece of a chain is what it measures. */
  aboutSection?: boolean
  Fields: React.ComponentType<FieldsProps<I>>
  /** @throws InputError where the figures cannot be */
  reduce: (inputs: I, station: Station, subject: Subject | null) => SheetResult
}

/** A figure with its 5 to 95 %. */
export const withRange = (
  { value, low, high }: Range & { value: number },
  places: number,
  unit: string,
): string => {
  const [l, h] = [decimals(low, places), decimals(high, places)]
  const own = `${decimals(value, places)}${unit && `\u00a0${unit}`}`
  return l === h ? own : `${own} (${l} to ${h})`
}

export const leadOf = (
  what: string,
  unit: string,
  { value, low, high }: Range & { value: number },
  frequencyHz?: number,
): NonNullable<MeasurementBody['result']> => ({
  what,
  unit,
  value,
  low,
  high,
  ...(frequencyHz !== undefined && { frequencyHz }),
})
