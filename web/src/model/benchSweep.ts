/** What a sweep of an open or shorted line fills into the sheets of the bench. */
import { impedanceDips, InputError, type Reflections, returnLosses } from '@saltline/core'

const MOST_POINTS = 8
const rounded = (value: number, places: number) => Number(value.toFixed(places))

/** Lines of *Loss from one end*, each with the return loss in the column of its far end. */
export const lossRows = (sweep: Reflections, farEnd: 'open' | 'short') =>
  returnLosses(sweep, MOST_POINTS).map(({ frequencyHz, db }) => ({
    mhz: rounded(frequencyHz / 1e6, 3),
    openDb: farEnd === 'open' ? rounded(db, 2) : null,
    shortDb: farEnd === 'short' ? rounded(db, 2) : null,
  }))

/**
 * The first dip of a sweep, the next one, and how many quarter waves the line is at the first, by their spacing.
 *
 * @throws InputError where the sweep shows no dip
 */
export function dipsFrom(
  sweep: Reflections,
  farEnd: 'open' | 'short',
): { dipMhz: number; secondMhz: number | null; quarterWaves: number } {
  const [first, second] = impedanceDips(sweep)
  if (first === undefined)
    throw new InputError('This sweep shows no dip of the impedance: sweep higher.', ['sweep'])
  // Dips are half a wave apart: an open line dips at odd quarter waves, a shorted one at even ones.
  const least = farEnd === 'open' ? 1 : 2
  const quarters = second === undefined ? least : (2 * first) / (second - first)
  const steps = Math.max(0, Math.round((quarters - least) / 2))
  return {
    dipMhz: rounded(first / 1e6, 4),
    secondMhz: second === undefined ? null : rounded(second / 1e6, 4),
    quarterWaves: least + 2 * steps,
  }
}
