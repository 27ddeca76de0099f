/** The ways to know an antenna without a sweep. A new one is its fields and an entry here. */
import type { LoadDocument } from '@saltline/contract'
import type { Complex } from '@saltline/core'
import type { ComponentType } from 'react'
import { BandsFields } from './BandsFields.tsx'
import {
  FixedFields,
  type LoadFields,
  ResistorFields,
  ResonatorFields,
  SwrFields,
} from './loadFields.tsx'

/** What is known of the antenna as it is now, on the channel. */
export interface KnownNow {
  hz: number
  /** Null where there is no figure. */
  impedanceOhm: Complex | null
  swr: number | null
}

interface LoadEntry<K extends Kind> {
  label: string
  /** Its figures to begin with, as near to what is known as may be. */
  begin: (now: KnownNow) => Omit<Extract<LoadDocument, { kind: K }>, 'kind' | 'name'>
  Fields: ComponentType<LoadFields<K>>
}

/** A sweep is chosen by its antenna, and has no fields. */
export type Kind = Exclude<LoadDocument['kind'], 'antenna'>

const rounded = (value: number, digits: number): number => Number(value.toFixed(digits))

export const loads: { [K in Kind]: LoadEntry<K> } = {
  fixed: {
    label: 'one impedance, R + jX',
    begin: ({ impedanceOhm: z }) => ({
      rOhm: Math.max(0, rounded(z?.re ?? 50, 1)),
      xOhm: rounded(z?.im ?? 0, 1),
    }),
    Fields: FixedFields,
  },
  swr: {
    label: 'only an SWR',
    begin: ({ swr }) => ({ swr: Math.min(1000, Math.max(1, rounded(swr ?? 1.5, 2))) }),
    Fields: SwrFields,
  },
  bands: {
    label: 'SWR readings, band by band',
    begin: () => ({ bands: [] }),
    Fields: BandsFields,
  },
  resonator: {
    label: 'a resonance: frequency, R and Q',
    begin: ({ hz }) => ({ resonanceHz: hz, rOhm: 50, q: 10 }),
    Fields: ResonatorFields,
  },
  resistors: {
    label: 'dummy load of resistors',
    begin: () => ({ ohmEach: 500, count: 10, strayInductanceH: 5e-9, strayCapacitanceF: 2e-12 }),
    Fields: ResistorFields,
  },
}

export const loadChoices = Object.entries(loads).map(([value, { label }]) => ({ value, label }))

export const isLoadKind = (choice: string): choice is Kind => Object.hasOwn(loads, choice)

/** The same by the kind of a load at hand. */
export const loadFields = Object.fromEntries(
  Object.entries(loads).map(([kind, { Fields }]) => [kind, Fields]),
) as Record<Kind, ComponentType<LoadFields<Kind>>>
