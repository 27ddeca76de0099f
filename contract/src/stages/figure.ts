/** The figures of a stage as data: the schema, the fields on the screen and the words of changes read the same list. */
import type { z } from 'zod'
import { bounded, limits } from '../fields.ts'

/** What a figure is of, with the unit that a document keeps it in. */
export const units = {
  length: 'm',
  decibel: 'dB',
  impedance: 'Ω',
  frequency: 'Hz',
  power: 'W',
  swr: '',
  voltage: 'V',
  time: 's',
  temperature: '°C',
  inductance: 'H',
  capacitance: 'F',
  plain: '',
} as const
export type Quantity = keyof typeof units

/** One figure of a document. */
export interface Figure {
  /** Its name in the document. */
  key: string
  /** In errors and in the words of a change. */
  noun: string
  /** On the screen, where that is not its noun. */
  label?: string
  quantity: Quantity
  /** Lowest and highest, in the document's unit. */
  within: keyof typeof limits
  /** It may stay unknown. */
  optional?: true
  /** By how much the arrow keys change it, where its quantity does not say. */
  step?: number
  /** Only whole numbers. */
  whole?: true
}

type Shape<F extends readonly Figure[]> = {
  [E in F[number] as E['key']]: E extends { optional: true }
    ? z.ZodOptional<z.ZodNumber>
    : z.ZodNumber
}

/** What a document with these figures holds. */
export type Figures<F extends readonly Figure[]> = z.infer<z.ZodObject<Shape<F>>>

/** The schema of a list of figures, as the shape of an object. */
export function shapeOf<const F extends readonly Figure[]>(figures: F): Shape<F> {
  const entries = figures.map(({ key, noun, within, quantity, optional, whole }) => {
    const [min, max] = limits[within]
    const number = bounded(noun, min, max, units[quantity])
    const figure = whole ? number.int(`${noun} must be a whole number.`) : number
    return [key, optional ? figure.optional() : figure] as const
  })
  return Object.fromEntries(entries) as unknown as Shape<F>
}
