/** Figures of a stage in words. */
import type { Figure, Quantity } from '@saltline/contract'
import {
  formatCapacitance,
  formatDb,
  formatFrequency,
  formatInductance,
  formatLength,
  formatPower,
  formatSwr,
  formatVolt,
} from '@saltline/core'
import { arrow } from '../same.ts'

const plain = (unit: string) => (value: number) =>
  `${Number(value.toPrecision(4))}${unit && `\u00a0${unit}`}`

const texts: Record<Quantity, (value: number) => string> = {
  length: formatLength,
  frequency: formatFrequency,
  power: formatPower,
  decibel: formatDb,
  impedance: plain('Ω'),
  swr: formatSwr,
  voltage: formatVolt,
  time: plain('s'),
  temperature: plain('°C'),
  inductance: formatInductance,
  capacitance: formatCapacitance,
  plain: plain(''),
}

type Values = Readonly<Record<string, unknown>>

/** What changed of a list of figures, a phrase each; what is not known is said so. */
export function figureChanges(figures: readonly Figure[], a: object, b: object): string[] {
  const [before, after] = [a as Values, b as Values]
  return figures.flatMap(({ key, noun, quantity }) => {
    if (before[key] === after[key]) return []
    const text = (value: unknown) =>
      value === undefined ? 'not known' : texts[quantity](value as number)
    // A noun of capitals stays as it is: SWR.
    const name = /^[A-Z][a-z]/.test(noun) ? noun[0]!.toLowerCase() + noun.slice(1) : noun
    return [`${name} ${arrow(text(before[key]), text(after[key]))}`]
  })
}
