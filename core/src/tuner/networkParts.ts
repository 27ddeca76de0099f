/** The parts of a tuner with knobs in order, their ranges, and what they come to in front of a load. */
import type { Complex } from '../complex.ts'
import { type NetworkElement, throughElements } from './element.ts'
import type { LForm } from './matchL.ts'
import type { NetworkTuner } from './kinds.ts'

/** |ρ| of SWR 1.01. */
export const GOOD = 0.01 / 2.01

/** Steps toward the least loss between two points. */
const TO_LEAST = 16

export type Parts = NetworkElement[]

/** The L networks that a tuner can be: one, or both ways round. */
export const lForms = (tuner: NetworkTuner): LForm[] => {
  const [series, shunt] =
    tuner.network === 'L-low-pass'
      ? (['coil', 'capacitor'] as const)
      : (['capacitor', 'coil'] as const)
  const sides = tuner.shuntAt === 'either' ? (['antenna', 'transmitter'] as const) : [tuner.shuntAt]
  return sides.map((shuntAt) => ({ series, shunt, shuntAt }))
}

/** Elements in order from the transmitter's side. */
export const ordered = (
  series: NetworkElement,
  shunt: NetworkElement,
  at: LForm['shuntAt'],
): Parts => (at === 'antenna' ? [series, shunt] : [shunt, series])

/** The networks of one kind that could match, whatever their values; every value a free one. */
export function shapes(tuner: NetworkTuner): Parts[] {
  const part = (place: NetworkElement['place'], kind: NetworkElement['part']): NetworkElement => ({
    place,
    part: kind,
    value: NaN,
  })
  if (tuner.network === 'T')
    return [[part('series', 'capacitor'), part('shunt', 'coil'), part('series', 'capacitor')]]
  if (tuner.network === 'pi')
    return [[part('shunt', 'capacitor'), part('series', 'coil'), part('shunt', 'capacitor')]]
  return lForms(tuner).map(({ series, shunt, shuntAt }) =>
    ordered(part('series', series), part('shunt', shunt), shuntAt),
  )
}

/** |ρ| in front of a network and what it loses, for a load. */
export function judge(parts: Parts, tuner: NetworkTuner, load: Complex, hz: number, r0: number) {
  const p = Float64Array.of(load.re, load.im, 1, 0)
  throughElements(parts, tuner, hz, p)
  const [vRe = 0, vIm = 0, iRe = 0, iIm = 0] = p
  const rho =
    Math.hypot(vRe - r0 * iRe, vIm - r0 * iIm) / Math.hypot(vRe + r0 * iRe, vIm + r0 * iIm)
  return { rho, lossDb: 10 * Math.log10((vRe * iRe + vIm * iIm) / load.re) }
}

/** Whether a value, H or F, lies in a range, to nine digits. */
export const inside = (value: number, [least, most]: readonly [number, number]): boolean =>
  value >= least * (1 - 1e-9) && value <= most * (1 + 1e-9)

/** What a part can be set to, H or F. */
export const rangeOf = (tuner: NetworkTuner, part: NetworkElement['part']) =>
  part === 'coil' ? tuner.coilH : tuner.capacitorF

/** `count` values from one end of a range to the other, evenly on a logarithmic scale. */
export const logGrid = (from: number, to: number, count: number): number[] =>
  Array.from({ length: count }, (_, i) => from * (to / from) ** (i / (count - 1)))

/** Walks toward the least of a smooth function between two points, on a logarithmic scale. */
export function goldenSection(f: (at: number) => number, from: number, to: number): void {
  const ratio = (Math.sqrt(5) - 1) / 2
  let [low, high] = [from, to]
  let inner = high * (low / high) ** ratio
  let outer = low * (high / low) ** ratio
  let [atInner, atOuter] = [f(inner), f(outer)]
  for (let i = 0; i < TO_LEAST; i++) {
    if (atInner <= atOuter) {
      high = outer
      ;[outer, atOuter] = [inner, atInner]
      inner = high * (low / high) ** ratio
      atInner = f(inner)
    } else {
      low = inner
      ;[inner, atInner] = [outer, atOuter]
      outer = low * (high / low) ** ratio
      atOuter = f(outer)
    }
  }
}
