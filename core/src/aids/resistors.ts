/** Resistors that tame a mismatch: standard values, equal ones together, pads. */
import { InputError } from '../errors.ts'

/** Preferred numbers of IEC 60063, one decade. */
const SERIES = {
  E12: [1, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2],
  E24: [
    1, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2, 2.2, 2.4, 2.7, 3, 3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2,
    6.8, 7.5, 8.2, 9.1,
  ],
} as const
export type Series = keyof typeof SERIES

/**
 * The preferred number nearest to a resistance, Ω, by ratio.
 *
 * @example nearestStandard(48) // 47
 */
export function nearestStandard(ohm: number, series: Series = 'E24'): number {
  if (!(ohm > 0) || !Number.isFinite(ohm))
    throw new InputError(`A resistance must be more than 0 Ω, not ${ohm}.`)
  const decade = 10 ** Math.floor(Math.log10(ohm))
  const all = [...SERIES[series], 10].map((number) => number * decade)
  const best = all.reduce((a, b) =>
    Math.abs(Math.log(b / ohm)) < Math.abs(Math.log(a / ohm)) ? b : a,
  )
  return Number(best.toPrecision(3))
}

/** Equal resistors of a standard value that make another one together. */
export interface EqualResistors {
  count: number
  together: 'parallel' | 'series'
  ohmEach: number
  ohm: number
  /** (made − wanted)/wanted. */
  error: number
}

/**
 * Equal standard resistors, up to `most`, that come nearest to a resistance; fewer first among equals.
 * Heat is shared evenly among them.
 *
 * @example equalResistors(50)[0] // { count: 2, together: 'parallel', ohmEach: 100, ohm: 50, error: 0 }
 */
export function equalResistors(ohm: number, most = 10, series: Series = 'E12'): EqualResistors[] {
  const found: EqualResistors[] = []
  for (let count = 1; count <= most; count++)
    for (const together of ['parallel', 'series'] as const) {
      if (count === 1 && together === 'series') continue
      const ohmEach = nearestStandard(together === 'parallel' ? ohm * count : ohm / count, series)
      const made = together === 'parallel' ? ohmEach / count : ohmEach * count
      found.push({ count, together, ohmEach, ohm: made, error: made / ohm - 1 })
    }
  const size = (r: EqualResistors) => Math.round(Math.abs(r.error) * 1000)
  return found.sort((a, b) => size(a) - size(b) || a.count - b.count)
}

/** A matched pad in its two forms, Ω, and the share of the power into it that each resistor turns to heat. */
export interface PadValues {
  pi: { shuntOhm: number; seriesOhm: number; heat: [input: number, middle: number, output: number] }
  tee: {
    seriesOhm: number
    shuntOhm: number
    heat: [input: number, middle: number, output: number]
  }
}

/**
 * Resistors of a matched pad of `db` on `ohm`, at the end of a matched line.
 *
 * @example padValues(3, 50).pi // { shuntOhm: 292.4, seriesOhm: 17.61, heat: [0.171, 0.2421, 0.0857] }
 */
export function padValues(db: number, ohm: number): PadValues {
  if (!(db > 0)) throw new InputError(`A pad takes more than 0 dB, not ${db}.`)
  const k = 10 ** (db / 20)
  const arm = (ohm * (k + 1)) / (k - 1)
  const bridge = (ohm * (k - 1 / k)) / 2
  // One watt in: V² = ohm at the input, a factor k² less at the output; the rest is in the middle.
  const piIn = ohm / arm
  const piOut = ohm / arm / (k * k)
  const tArm = (ohm * (k - 1)) / (k + 1)
  const tShunt = (2 * ohm * k) / (k * k - 1)
  const tIn = tArm / ohm
  const tOut = tArm / ohm / (k * k)
  const lost = 1 - 1 / (k * k)
  return {
    pi: { shuntOhm: arm, seriesOhm: bridge, heat: [piIn, lost - piIn - piOut, piOut] },
    tee: { seriesOhm: tArm, shuntOhm: tShunt, heat: [tIn, lost - tIn - tOut, tOut] },
  }
}
