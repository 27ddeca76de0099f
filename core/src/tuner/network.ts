/** Setting a tuner with knobs: L, T and π networks inside their ranges. */
import { add, type Complex, complex, divide } from '../complex.ts'
import { formatCapacitance, formatInductance } from '../units/format.ts'
import {
  immittanceOf,
  lossFactor,
  type NetworkElement,
  throughElements,
  valueOf,
} from './element.ts'
import { type LForm, matchL } from './matchL.ts'
import type { NetworkTuner, TunerSetting } from './kinds.ts'

/** |ρ| of SWR 1.01. */
const GOOD = 0.01 / 2.01

/** Points of the free capacitor of a T or π, and rounds of looking closer. */
const FREE_POINTS = 64
const CLOSER = { rounds: 3, points: 14 }

/** The search for the least SWR ends after so many rounds, and goes on only for so large a gain. */
const MOST_ROUNDS = 300
const WORTHWHILE = 1e-6

type Parts = NetworkElement[]

const lForms = (tuner: NetworkTuner): LForm[] => {
  const [series, shunt] =
    tuner.network === 'L-low-pass'
      ? (['coil', 'capacitor'] as const)
      : (['capacitor', 'coil'] as const)
  const sides = tuner.shuntAt === 'either' ? (['antenna', 'transmitter'] as const) : [tuner.shuntAt]
  return sides.map((shuntAt) => ({ series, shunt, shuntAt }))
}

/** Elements in order from the transmitter's side. */
const ordered = (series: NetworkElement, shunt: NetworkElement, at: LForm['shuntAt']): Parts =>
  at === 'antenna' ? [series, shunt] : [shunt, series]

/** The networks of one kind that could match, whatever their values; every value a free one. */
function shapes(tuner: NetworkTuner): Parts[] {
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
function judge(parts: Parts, tuner: NetworkTuner, load: Complex, hz: number, r0: number) {
  const p = Float64Array.of(load.re, load.im, 1, 0)
  throughElements(parts, tuner, hz, p)
  const [vRe = 0, vIm = 0, iRe = 0, iIm = 0] = p
  const rho =
    Math.hypot(vRe - r0 * iRe, vIm - r0 * iIm) / Math.hypot(vRe + r0 * iRe, vIm + r0 * iIm)
  return { rho, lossDb: 10 * Math.log10((vRe * iRe + vIm * iIm) / load.re) }
}

const inside = (value: number, [least, most]: readonly [number, number]): boolean =>
  value >= least * (1 - 1e-9) && value <= most * (1 + 1e-9)

const rangeOf = (tuner: NetworkTuner, part: NetworkElement['part']) =>
  part === 'coil' ? tuner.coilH : tuner.capacitorF

/** The exact L matches of a load that the ranges allow. */
function exactL(form: LForm, tuner: NetworkTuner, load: Complex, hz: number, r0: number): Parts[] {
  const loss = {
    series: lossFactor(form.series, tuner, hz),
    shunt: lossFactor(form.shunt, tuner, hz),
  }
  return matchL(form, load, r0, loss)
    .map(({ seriesOhm, shuntSiemens }) =>
      ordered(
        { place: 'series', part: form.series, value: valueOf(form.series, seriesOhm, hz) },
        { place: 'shunt', part: form.shunt, value: valueOf(form.shunt, 1 / shuntSiemens, hz) },
        form.shuntAt,
      ),
    )
    .filter((parts) => parts.every(({ part, value }) => inside(value, rangeOf(tuner, part))))
}

/**
 * The matches of a T or π with its antenna-side capacitor at a value: what is left is an L network in
 * front of the load and that capacitor.
 */
function exactThree(tuner: NetworkTuner, load: Complex, hz: number, r0: number) {
  const T = tuner.network === 'T'
  const form: LForm = T
    ? { series: 'capacitor', shunt: 'coil', shuntAt: 'antenna' }
    : { series: 'coil', shunt: 'capacitor', shuntAt: 'transmitter' }
  return (farad: number): Parts[] => {
    const last: NetworkElement = { place: T ? 'series' : 'shunt', part: 'capacitor', value: farad }
    const own = immittanceOf(last, tuner, hz)
    const seen = T ? add(load, own) : divide(complex(1), add(divide(complex(1), load), own))
    return exactL(form, tuner, seen, hz, r0).map((parts) => [...parts, last])
  }
}

/** `count` values from one end of a range to the other, evenly on a logarithmic scale. */
const logGrid = (from: number, to: number, count: number): number[] =>
  Array.from({ length: count }, (_, i) => from * (to / from) ** (i / (count - 1)))

/**
 * Sets a network for a load: an exact match with the least loss where the ranges allow one, else the
 * least SWR they allow, and why it is not better.
 */
export function setNetwork(
  tuner: NetworkTuner,
  load: Complex,
  frequencyHz: number,
  referenceOhm: number,
): TunerSetting {
  if (!(load.re > 0) || !Number.isFinite(load.re) || !Number.isFinite(load.im))
    return {
      elements: shapes(tuner)[0]!.map((part) => ({ ...part, value: rangeOf(tuner, part.part)[0] })),
      rho: 1,
      lossDb: 0,
      matched: false,
      reason: 'the load takes no power at all',
    }
  const lossOf = (parts: Parts) => judge(parts, tuner, load, frequencyHz, referenceOhm).lossDb
  const exact =
    tuner.network === 'T' || tuner.network === 'pi'
      ? leastLossThree(tuner, load, frequencyHz, referenceOhm, lossOf)
      : lForms(tuner).flatMap((form) => exactL(form, tuner, load, frequencyHz, referenceOhm))
  const best = exact.sort((a, b) => lossOf(a) - lossOf(b))[0]
  if (best) {
    const { rho, lossDb } = judge(best, tuner, load, frequencyHz, referenceOhm)
    return { elements: best, rho, lossDb, matched: rho <= GOOD }
  }
  return nearest(tuner, load, frequencyHz, referenceOhm)
}

function leastLossThree(
  tuner: NetworkTuner,
  load: Complex,
  hz: number,
  r0: number,
  lossOf: (parts: Parts) => number,
): Parts[] {
  const matchesAt = exactThree(tuner, load, hz, r0)
  let best: { parts: Parts; loss: number; at: number } | null = null
  const look = (grid: readonly number[]) => {
    for (const at of grid)
      for (const parts of matchesAt(at)) {
        const loss = lossOf(parts)
        if (!best || loss < best.loss) best = { parts, loss, at }
      }
  }
  const [least, most] = tuner.capacitorF
  look(logGrid(least, most, FREE_POINTS))
  let step = (most / least) ** (1 / (FREE_POINTS - 1))
  for (let round = 0; round < CLOSER.rounds && best; round++) {
    const { at } = best as { at: number }
    look(logGrid(Math.max(least, at / step), Math.min(most, at * step), CLOSER.points))
    step **= 2 / (CLOSER.points - 1)
  }
  return best ? [(best as { parts: Parts }).parts] : []
}

/** Where no exact match fits: the least SWR inside the ranges, by a pattern search from a coarse grid. */
function nearest(tuner: NetworkTuner, load: Complex, hz: number, r0: number): TunerSetting {
  let found: { parts: Parts; rho: number } | null = null
  const consider = (parts: Parts): boolean => {
    const { rho } = judge(parts, tuner, load, hz, r0)
    // Far out |ρ| creeps toward 1, and 1 − |ρ| is what still changes.
    const gain = found ? (found.rho - rho) / Math.min(found.rho, 1 - rho) : Infinity
    if (!(gain > 0)) return false
    found = { parts, rho }
    return gain > WORTHWHILE
  }
  for (const shape of shapes(tuner)) {
    const grids = shape.map(({ part }) =>
      logGrid(...rangeOf(tuner, part), shape.length === 3 ? 9 : 20),
    )
    const fill = (parts: Parts, k: number): void => {
      if (k === shape.length) return void consider(parts)
      for (const value of grids[k]!) fill([...parts, { ...shape[k]!, value }], k + 1)
    }
    fill([], 0)
  }
  let step = 1.6
  for (let round = 0; round < MOST_ROUNDS && step > 1 + 1e-7; round++) {
    const { parts } = found as unknown as { parts: Parts }
    let better = false
    parts.forEach(({ part }, k) => {
      const [least, most] = rangeOf(tuner, part)
      for (const factor of [step, 1 / step]) {
        const now = (found as unknown as { parts: Parts }).parts
        const value = Math.min(most, Math.max(least, now[k]!.value * factor))
        if (consider(now.with(k, { ...now[k]!, value }))) better = true
      }
    })
    if (!better) step = 1 + (step - 1) / 2
  }
  const { parts } = found as unknown as { parts: Parts }
  const { rho, lossDb } = judge(parts, tuner, load, hz, r0)
  return {
    elements: parts,
    rho,
    lossDb,
    matched: rho <= GOOD,
    ...(rho > GOOD && { reason: whyNot(parts, tuner) }),
  }
}

function whyNot(parts: Parts, tuner: NetworkTuner): string {
  const atEnds = parts.flatMap(({ part, value }) => {
    const [least, most] = rangeOf(tuner, part)
    const text = part === 'coil' ? formatInductance : formatCapacitance
    const name = part === 'coil' ? 'the coil' : 'a capacitor'
    if (value >= most * 0.999) return [`${name} is at its largest, ${text(most)}`]
    if (value <= least * 1.001) return [`${name} is at its smallest, ${text(least)}`]
    return []
  })
  return atEnds.length > 0
    ? [...new Set(atEnds)].join(' and ')
    : 'this network has no match for the load, whatever its values'
}
