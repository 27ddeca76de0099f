/** Setting a tuner with knobs: L, T and π networks inside their ranges. */
import { add, type Complex, complex, divide } from '../complex.ts'
import { formatCapacitance, formatInductance } from '../units/format.ts'
import {
  immittanceOf,
  lossFactor,
  type NetworkElement,
  reactanceOf,
  seriesUnit,
  shuntUnit,
  throughElements,
  valueOf,
} from './element.ts'
import { type LForm, matchL, quadratic } from './matchL.ts'
import type { NetworkTuner, TunerSetting } from './kinds.ts'

/** |ρ| of SWR 1.01. */
const GOOD = 0.01 / 2.01

/** Points of the free capacitor of a T or π. */
const FREE_POINTS = 48
/** Steps toward the point where a part comes to its end, and toward the least loss between two points. */
const TO_END = 30
const TO_LEAST = 16

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

/** The exact L matches of a load, whether the ranges allow them or not. */
function exactL(form: LForm, tuner: NetworkTuner, load: Complex, hz: number, r0: number): Parts[] {
  const loss = {
    series: lossFactor(form.series, tuner, hz),
    shunt: lossFactor(form.shunt, tuner, hz),
  }
  return matchL(form, load, r0, loss).map(({ seriesOhm, shuntSiemens }) =>
    ordered(
      { place: 'series', part: form.series, value: valueOf(form.series, seriesOhm, hz) },
      { place: 'shunt', part: form.shunt, value: valueOf(form.shunt, 1 / shuntSiemens, hz) },
      form.shuntAt,
    ),
  )
}

const allowed =
  (tuner: NetworkTuner) =>
  (parts: Parts): boolean =>
    parts.every(({ part, value }) => inside(value, rangeOf(tuner, part)))

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
      : lForms(tuner)
          .flatMap((form) => exactL(form, tuner, load, frequencyHz, referenceOhm))
          .filter(allowed(tuner))
  const best = exact.sort((a, b) => lossOf(a) - lossOf(b))[0]
  if (best) {
    const { rho, lossDb } = judge(best, tuner, load, frequencyHz, referenceOhm)
    return { elements: best, rho, lossDb, matched: rho <= GOOD }
  }
  return nearest(tuner, load, frequencyHz, referenceOhm)
}

/** A match of a T or π, and how far its other two parts are inside their ranges, ln; below 0 is outside. */
interface Match {
  at: number
  parts: Parts
  margins: readonly number[]
}

/**
 * The exact match of a T or π with the least loss. Its matches are curves over the free capacitor (two at most), of which
 * the ranges allow stretches: they end where a part comes to its end, which is looked for between the points of a grid, so
 * that a stretch shorter than its steps is found too.
 */
function leastLossThree(
  tuner: NetworkTuner,
  load: Complex,
  hz: number,
  r0: number,
  lossOf: (parts: Parts) => number,
): Parts[] {
  const exactAt = exactThree(tuner, load, hz, r0)
  const matchesAt = (at: number): Parts[] => exactAt(at).sort((a, b) => a[0]!.value - b[0]!.value)
  const matchOf = (at: number, parts: Parts | undefined): Match | null => {
    if (!parts) return null
    const margins: number[] = []
    for (let k = 0; k < 2; k++) {
      const { part, value } = parts[k]!
      const [least, most] = rangeOf(tuner, part)
      margins.push(Math.log(value / least), Math.log(most / value))
    }
    return { at, parts, margins }
  }
  const isAllowed = allowed(tuner)
  const [least, most] = tuner.capacitorF
  const grid = logGrid(least, most, FREE_POINTS)
  const onGrid = grid.map(matchesAt)
  let best: { parts: Parts; loss: number } | null = null
  for (const branch of [0, 1]) {
    const matchAt = (at: number) => matchOf(at, matchesAt(at)[branch])
    const found: { at: number; loss: number }[] = []
    const look = (match: Match | null): number => {
      if (!match || !isAllowed(match.parts)) return Infinity
      const loss = lossOf(match.parts)
      if (!best || loss < best.loss) best = { parts: match.parts, loss }
      return loss
    }
    const note = (match: Match | null) => {
      const loss = look(match)
      if (match && loss < Infinity) found.push({ at: match.at, loss })
    }
    let before: Match | null = null
    grid.forEach((at, i) => {
      const now = matchOf(at, onGrid[i]![branch])
      if (i > 0) for (const end of endsBetween(matchAt, grid[i - 1]!, before, at, now)) note(end)
      note(now)
      before = now
    })
    found.sort((a, b) => a.at - b.at)
    const valley = found.findIndex(({ loss }) => loss <= Math.min(...found.map((f) => f.loss)))
    if (valley < 0) continue
    const from = found[Math.max(0, valley - 1)]!.at
    const to = found[Math.min(found.length - 1, valley + 1)]!.at
    goldenSection((at) => look(matchAt(at)), from, to)
  }
  return best ? [(best as { parts: Parts }).parts] : []
}

/** The matches between two points at which a part comes to its end, or the curve itself ends. */
function endsBetween(
  matchAt: (at: number) => Match | null,
  low: number,
  atLow: Match | null,
  high: number,
  atHigh: Match | null,
): (Match | null)[] {
  if (!atLow && !atHigh) return []
  if (!atLow || !atHigh) {
    let [is, not] = atLow ? [low, high] : [high, low]
    for (let i = 0; i < TO_END; i++) {
      const middle = Math.sqrt(is * not)
      if (matchAt(middle)) is = middle
      else not = middle
    }
    const last = matchAt(is)
    return atLow
      ? [...endsBetween(matchAt, low, atLow, is, last), last]
      : [...endsBetween(matchAt, is, last, high, atHigh), last]
  }
  return atLow.margins.flatMap((margin, k) => {
    if (margin >= 0 === atHigh.margins[k]! >= 0) return []
    // False position on a smooth margin (Illinois), kept on the inside.
    let [a, fa, b, fb] = [low, margin, high, atHigh.margins[k]!]
    let inner = fa >= 0 ? atLow : atHigh
    for (let i = 0; i < TO_END && Math.abs(Math.log(b / a)) > 1e-9; i++) {
      const c = a * (b / a) ** (fa / (fa - fb))
      const match = matchAt(c)
      if (!match) break
      const fc = match.margins[k]!
      if (fc >= 0 && fc < inner.margins[k]!) inner = match
      if (fc >= 0 === fb >= 0) fa /= 2
      else [a, fa] = [b, fb]
      ;[b, fb] = [c, fc]
      if (fc >= 0 && fc < 1e-9) break
    }
    return [inner]
  })
}

/** Walks toward the least of a smooth function between two points, on a logarithmic scale. */
function goldenSection(f: (at: number) => number, from: number, to: number): void {
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

/** Where no exact match fits: the least SWR inside the ranges, of every shape. */
function nearest(tuner: NetworkTuner, load: Complex, hz: number, r0: number): TunerSetting {
  const { parts } = shapes(tuner)
    .map((shape) => nearestOf(shape, tuner, load, { hz, r0 }))
    .reduce((a, b) => (b.rho < a.rho ? b : a))
  const { rho, lossDb } = judge(parts, tuner, load, hz, r0)
  return {
    elements: parts,
    rho,
    lossDb,
    matched: rho <= GOOD,
    ...(rho > GOOD && { reason: whyNot(parts, tuner) }),
  }
}

interface Seen {
  hz: number
  r0: number
}

/**
 * The least SWR of one shape. The part at the transmitter is always at its best value for those behind it, in closed
 * form; the others are looked for from a grid, then in steps along their axes and across them.
 */
function nearestOf(
  shape: Parts,
  tuner: NetworkTuner,
  load: Complex,
  { hz, r0 }: Seen,
): { parts: Parts; rho: number } {
  const [first, ...rest] = shape as [NetworkElement, ...Parts]
  const ranges = rest.map(({ part }) => rangeOf(tuner, part))
  let found = { parts: shape, rho: Infinity }
  let place: number[] = []
  const consider = (values: readonly number[]): boolean => {
    const behind = rest.map((element, k) => ({ ...element, value: values[k]! }))
    const { element, rho } = bestFirst(first, behind, tuner, load, { hz, r0 })
    // Far out |ρ| creeps toward 1, and 1 − |ρ| is what still changes.
    const gain =
      found.rho === Infinity ? Infinity : (found.rho - rho) / Math.min(found.rho, 1 - rho)
    if (!(gain > 0)) return false
    found = { parts: [element, ...behind], rho }
    place = [...values]
    return gain > WORTHWHILE
  }
  const grids = ranges.map((range) => logGrid(...range, rest.length === 2 ? 14 : 40))
  for (const a of grids[0]!) for (const b of grids[1] ?? [NaN]) consider(b >= 0 ? [a, b] : [a])
  const directions =
    rest.length === 1
      ? [[1], [-1]]
      : [-1, 0, 1].flatMap((i) => [-1, 0, 1].map((k) => [i, k])).filter(([i, k]) => i || k)
  let step = (ranges[0]![1] / ranges[0]![0]) ** (1 / grids[0]!.length)
  for (let round = 0; round < MOST_ROUNDS && step > 1 + 1e-7; round++) {
    let better = false
    for (const direction of directions)
      better =
        consider(
          place.map((value, k) =>
            Math.min(ranges[k]![1], Math.max(ranges[k]![0], value * step ** direction[k]!)),
          ),
        ) || better
    if (!better) step = Math.sqrt(step)
  }
  return found
}

/**
 * The best value of the part at the transmitter. Its reactance (or susceptance) moves the reflection round a circle, so
 * |ρ|² is a quotient of two quadratics of it, least where its derivative is nothing, or at an end.
 */
function bestFirst(
  first: NetworkElement,
  behind: Parts,
  tuner: NetworkTuner,
  load: Complex,
  { hz, r0 }: Seen,
): { element: NetworkElement; rho: number } {
  const p = Float64Array.of(load.re, load.im, 1, 0)
  throughElements(behind, tuner, hz, p)
  const v = complex(p[0]!, p[1])
  const i = complex(p[2]!, p[3])
  const series = first.place === 'series'
  const loss = lossFactor(first.part, tuner, hz)
  const unit = series ? seriesUnit(first.part, loss) : shuntUnit(first.part, loss)
  // |from + t·by|² over |to + t·by|², in units of R₀.
  const own = series ? divide(v, i) : divide(i, v)
  const scale = series ? 1 / r0 : r0
  const by = complex(unit.re * scale, unit.im * scale)
  const [re, im] = [own.re * scale, own.im * scale]
  const rhoAt = (t: number) =>
    Math.hypot(re - 1 + t * by.re, im + t * by.im) / Math.hypot(re + 1 + t * by.re, im + t * by.im)
  const [a, d] = [(re - 1) ** 2 + im * im, (re + 1) ** 2 + im * im]
  const b = 2 * ((re - 1) * by.re + im * by.im)
  const e = 2 * ((re + 1) * by.re + im * by.im)
  const c = by.re * by.re + by.im * by.im
  const sizeOf = (value: number) =>
    series ? reactanceOf(first.part, value, hz) : 1 / reactanceOf(first.part, value, hz)
  const ends = rangeOf(tuner, first.part).map(sizeOf) as [number, number]
  const [low, high] = [Math.min(...ends), Math.max(...ends)]
  let best = { t: low, rho: rhoAt(low) }
  for (const t of [high, ...quadratic(c * (e - b), 2 * c * (d - a), b * d - a * e)])
    if (t >= low && t <= high && rhoAt(t) < best.rho) best = { t, rho: rhoAt(t) }
  const value = valueOf(first.part, series ? best.t : 1 / best.t, hz)
  return { element: { ...first, value }, rho: best.rho }
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
