/** Number fields with their limits, in words a person can act on. */
import { z } from 'zod'

/** A finite number between two limits; the error names field, limits and unit. */
export const bounded = (noun: string, min: number, max: number, unit: string) => {
  const range = `${noun} must be between ${min} and ${max}${unit ? ` ${unit}` : ''}.`
  return z
    .number({ error: `${noun} must be a number${unit ? ` in ${unit}` : ''}.` })
    .min(min, range)
    .max(max, range)
}

export const limits = {
  lengthM: [0, 5000],
  lossDb: [0, 60],
  ohm: [0, 100_000],
  reactanceOhm: [-100_000, 100_000],
  z0Ohm: [10, 500],
  velocityFactor: [0.3, 1],
  attenuationAt1MHz: [0, 200],
  dielectricAt1MHz: [0, 5],
  frequencyHz: [10_000, 6e9],
  powerW: [0.001, 1e6],
  swr: [1, 1000],
} as const satisfies Record<string, readonly [number, number]>

const field = (noun: string, [min, max]: readonly [number, number], unit: string) =>
  bounded(noun, min, max, unit)

export const lengthM = field('Length', limits.lengthM, 'm')
export const lossDb = field('Loss', limits.lossDb, 'dB')
export const resistanceOhm = field('Resistance', limits.ohm, 'Ω')
export const reactanceOhm = field('Reactance', limits.reactanceOhm, 'Ω')
export const frequencyHz = field('Frequency', limits.frequencyHz, 'Hz')
export const powerW = field('Power', limits.powerW, 'W')
export const swr = field('SWR', limits.swr, '')

export const shortText = (noun: string) =>
  z
    .string({ error: `${noun} must be text.` })
    .trim()
    .min(1, `${noun} must not be empty.`)
    .max(80, `${noun} may have at most 80 characters.`)

export const note = z.string().max(2000, 'A note may have at most 2000 characters.')

export const timestamp = z.iso.datetime()
