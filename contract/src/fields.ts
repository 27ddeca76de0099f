/** Number fields with their limits, in words a person can act on. */
import { z } from 'zod'
import { line, lines } from './text.ts'

/** A finite number between two limits; the error names field, limits and unit. */
export const bounded = (noun: string, min: number, max: number, unit: string) => {
  const range = `${noun} must be between ${min} and ${max}${unit ? ` ${unit}` : ''}.`
  return z
    .number({ error: `${noun} must be a number${unit ? ` in ${unit}` : ''}.` })
    .min(min, range)
    .max(max, range)
}

/**
 * Lowest and highest of every bounded figure, in the unit that the document keeps it in. The schemas
 * below and the fields on the screen read the same table, so that no field takes what a save refuses.
 */
export const limits = {
  lengthM: [0, 5000],
  lossDb: [0, 60],
  isolationDb: [0, 150],
  ohm: [0, 100_000],
  reactanceOhm: [-100_000, 100_000],
  z0Ohm: [10, 500],
  velocityFactor: [0.3, 1],
  attenuationAt1MHz: [0, 200],
  dielectricAt1MHz: [0, 5],
  frequencyHz: [10_000, 6e9],
  powerW: [0.001, 1e6],
  shownW: [0, 1e6],
  rangeW: [1e-6, 1e6],
  swr: [1, 1000],
  fraction: [0, 1],
  /** Of how likely a cause is before anything is read: none is ruled out beforehand. */
  prior: [0.001, 1],
  /** Of a resonator or a loop: less is no resonance. */
  resonanceOhm: [0.1, 10_000],
  resonanceQ: [0.5, 2000],
  resistorOhm: [0.1, 1e6],
  resistorCount: [1, 1000],
  strayInductanceH: [0, 1e-3],
  strayCapacitanceF: [0, 1e-6],
  meanToPeak: [0.01, 1],
  keyDown: [0.01, 1],
  longestOverS: [1, 86_400],
  antennaGainDbi: [-40, 60],
  loadMinutes: [0.1, 600],
  ambientC: [-60, 75],
  ratedVoltageRms: [1, 100_000],
  firingVoltageDc: [10, 100_000],
  timeConstantS: [1, 86_400],
  ageingFactor: [1, 20],
  cableC: [-60, 120],
  coilQ: [5, 2000],
  capacitorQ: [20, 20_000],
  inductanceH: [1e-10, 1],
  capacitanceF: [1e-14, 1e-3],
  relays: [1, 10],
  tuningPowerW: [0.001, 10_000],
  tuningTimeS: [0.1, 600],
  residualSwr: [1, 10],
  acceptedSwr: [1.01, 5],
  noiseFigureDb: [0, 60],
  outerMm: [0.5, 200],
  weightKgPer100m: [0.05, 5000],
  minBendMm: [1, 5000],
  price: [0, 1e9],
  gainDb: [0, 60],
  /** Of a transformer, impedances. */
  transformerRatio: [0.01, 100],
  leakageOhm: [0, 100_000],
  parallelOhm: [0.1, 1e6],
  inputOhm: [0.1, 10_000],
  accuracy: [0, 0.5],
  divisions: [2, 1000],
  directivityDb: [3, 80],
  supplyV: [0, 1000],
  lengthTolerance: [0, 0.5],
  cableTolerance: [0, 1],
  partsTolerance: [0, 2],
  sourceTolerance: [0, 0.5],
  reflectionTolerance: [0, 1],
} as const satisfies Record<string, readonly [number, number]>

/** Most characters of every text. */
export const textLimits = {
  name: 80,
  channelName: 40,
  supply: 200,
  reason: 200,
  dialMark: 24,
  weather: 80,
  by: 40,
  note: 2000,
  place: 120,
} as const

const field = (noun: string, [min, max]: readonly [number, number], unit: string) =>
  bounded(noun, min, max, unit)

export const lengthM = field('Length', limits.lengthM, 'm')
export const lossDb = field('Loss', limits.lossDb, 'dB')
export const resistanceOhm = field('Resistance', limits.ohm, 'Ω')
export const reactanceOhm = field('Reactance', limits.reactanceOhm, 'Ω')
export const frequencyHz = field('Frequency', limits.frequencyHz, 'Hz')
export const powerW = field('Power', limits.powerW, 'W')
/** In the station's currency. */
export const price = bounded('A price', ...limits.price, '')
export const swr = field('SWR', limits.swr, '')

export const shortText = (noun: string) =>
  line(noun, textLimits.name).min(1, `${noun} must not be empty.`)

export const note = lines('A note', textLimits.note)

/** Of a class in the catalogue, or of a piece of the station’s own. */
export const gearId = line('The id of a class', 64)

export const timestamp = z.iso.datetime()

/** A day of the calendar, without a zone. */
export const day = z.iso.date({
  error: 'A date must be written as year-month-day, as in 2026-04-18.',
})
