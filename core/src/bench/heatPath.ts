import { InputError } from '../errors.ts'

/** How the heat of resistors on one sink gets out. */
export interface HeatPath {
  /** How many there are, and what is printed on each, W. */
  count: number
  wattsEach: number
  /** What a resistor may reach inside, °C. */
  maxC: number
  ambientC: number
  /** Of one resistor, K/W. */
  junctionCase: number
  caseSink: number
  /** Of the sink, or the box, that all of them share, K/W. */
  sinkAir: number
  /** Heat capacity of the sink, J/K; without it nothing is said of time. */
  capacity?: number | undefined
}

export interface HeatPathResult {
  /** What all may take for ever: the lesser of what is printed and of what gets out, W. */
  continuousW: number
  limitedBy: 'rating' | 'heat'
  /** What is printed on all of them, W. */
  printedW: number
  /** Inside a resistor, °C, after so many minutes at a power; for ever without the minutes. */
  temperatureC: (watts: number, minutes?: number) => number
  timeConstantS: number | null
}

/** Aluminium, J/(g·K). */
export const ALUMINIUM_J_PER_G_K = 0.9
/** From a closed box to still air, K/W for 100 cm² of surface: 5 to 10 is seen; typical, not exact. */
const CLOSED_BOX_K_PER_W = 7.5

/**
 * Resistance to still air of a small closed box, K/W: a typical value.
 *
 * @param areaCm2 of its whole surface, > 0
 * @example closedBox(300) // 2.5
 */
export const closedBox = (areaCm2: number): number => (CLOSED_BOX_K_PER_W * 100) / areaCm2

/**
 * What resistors on a sink may really take: T = T_amb + P·ΣR, never above the printed rating.
 *
 * @throws InputError where nothing may get warm at all
 * @example heatPath({ count: 1, wattsEach: 100, maxC: 150, ambientC: 25, junctionCase: 1, caseSink: 0.5, sinkAir: 1 }).continuousW
 *   // 50
 */
export function heatPath(path: HeatPath): HeatPathResult {
  const { count, wattsEach, maxC, ambientC, junctionCase, caseSink, sinkAir, capacity } = path
  if (!(maxC > ambientC))
    throw new InputError('The resistors must be allowed more than the ambient temperature.', [
      'maxC',
    ])
  const inside = (junctionCase + caseSink) / count
  const printedW = count * wattsEach
  const heatW = (maxC - ambientC) / (inside + sinkAir)
  const timeConstantS = capacity === undefined ? null : sinkAir * capacity
  return {
    continuousW: Math.min(printedW, heatW),
    limitedBy: heatW < printedW ? 'heat' : 'rating',
    printedW,
    temperatureC: (watts, minutes) => {
      // The resistors themselves follow at once; the sink takes its time.
      const warmed =
        minutes === undefined || timeConstantS === null
          ? 1
          : 1 - Math.exp((-60 * minutes) / timeConstantS)
      return ambientC + watts * (inside + sinkAir * warmed)
    },
    timeConstantS,
  }
}
