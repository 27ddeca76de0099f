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
const MOST_ROUNDS = 100
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
 * The least SWR of one shape. One part is always at its best value for the others, in closed form; the others are looked for
 * from a grid, then in steps along their axes and across them. What resonates sharply with a load may lie in a valley that
 * no grid meets: so the faces of the ranges, with one part at an end, are searched with the coil in closed form too, and from
 * the best of all each part is set in turn.
 */
function nearestOf(
  shape: Parts,
  tuner: NetworkTuner,
  load: Complex,
  seen: Seen,
): { parts: Parts; rho: number } {
  const inSteps = nearestInSteps(shape, tuner, load, seen)
  const onFaces = nearestOnFaces(shape, tuner, load, seen)
  return inTurn(onFaces.rho < inSteps.rho ? onFaces : inSteps, tuner, load, seen)
}

function nearestInSteps(shape: Parts, tuner: NetworkTuner, load: Complex, seen: Seen): Nearest {
  const [first, ...rest] = shape as [NetworkElement, ...Parts]
  const ranges = rest.map(({ part }) => rangeOf(tuner, part))
  let found = { parts: shape, rho: Infinity }
  let place: number[] = []
  const consider = (values: readonly number[]): boolean => {
    const behind = rest.map((element, k) => ({ ...element, value: values[k]! }))
    const { element, rho } = bestOf([first, ...behind], 0, tuner, load, seen)
    const gain = gained(found.rho, rho)
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

interface Nearest {
  parts: Parts
  rho: number
}

/** Far out |ρ| creeps toward 1, and 1 − |ρ| is what still changes: how much is gained, as a share of the smaller of both. */
const gained = (before: number, now: number): number =>
  before === Infinity ? Infinity : (before - now) / Math.min(before, 1 - before)

/** Points along a face, and how many of its valleys are looked into. */
const FACE_POINTS = 24
const VALLEYS = 2

/** The least with one part at an end of its range: another one is varied, and the third is at its best for both. */
function nearestOnFaces(shape: Parts, tuner: NetworkTuner, load: Complex, seen: Seen): Nearest {
  let best: Nearest = { parts: shape, rho: Infinity }
  const look = (parts: Parts, free: number): number => {
    const { element, rho } = bestOf(parts, free, tuner, load, seen)
    if (rho < best.rho) best = { parts: parts.with(free, element), rho }
    return rho
  }
  shape.forEach((held, k) => {
    for (const end of rangeOf(tuner, held.part)) {
      const fixed = shape.with(k, { ...held, value: end })
      const others = shape.map((_, i) => i).filter((i) => i !== k)
      // The coil is what is sharp: it is the one in closed form, where it is not the one that is held.
      const free = others.find((i) => shape[i]!.part === 'coil') ?? others[0]!
      const varied = others.find((i) => i !== free)
      if (varied === undefined) look(fixed, free)
      else
        valleys(rangeOf(tuner, shape[varied]!.part), (value) =>
          look(fixed.with(varied, { ...shape[varied]!, value }), free),
        )
    }
  })
  return best
}

/** Looks all along a range, and closer where it is least. */
function valleys(range: readonly [number, number], f: (value: number) => number): void {
  const grid = logGrid(...range, FACE_POINTS)
  const at = grid.map(f)
  grid
    .map((_, i) => i)
    .filter((i) => at[i]! <= (at[i - 1] ?? Infinity) && at[i]! <= (at[i + 1] ?? Infinity))
    .sort((i, k) => at[i]! - at[k]!)
    .slice(0, VALLEYS)
    .forEach((i) =>
      goldenSection(f, grid[Math.max(0, i - 1)]!, grid[Math.min(grid.length - 1, i + 1)]!),
    )
}

/** Every part at its best for the others, one after the other, as long as that gains anything. */
function inTurn(from: Nearest, tuner: NetworkTuner, load: Complex, seen: Seen): Nearest {
  let { parts, rho } = from
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const before = rho
    for (let k = 0; k < parts.length; k++) {
      const better = bestOf(parts, k, tuner, load, seen)
      if (better.rho < rho) [parts, rho] = [parts.with(k, better.element), better.rho]
    }
    if (!(gained(before, rho) > WORTHWHILE)) break
  }
  return { parts, rho }
}

/**
 * The best value of one part for those in front of it and behind it. Both waves in front of the network are linear in its
 * reactance (or susceptance) t, so |ρ|² is a quotient of two quadratics of t, least where its derivative is nothing, or at
 * an end.
 */
function bestOf(
  parts: Parts,
  k: number,
  tuner: NetworkTuner,
  load: Complex,
  { hz, r0 }: Seen,
): { element: NetworkElement; rho: number } {
  const own = parts[k]!
  const front = parts.slice(0, k)
  const series = own.place === 'series'
  const loss = lossFactor(own.part, tuner, hz)
  const unit = series ? seriesUnit(own.part, loss) : shuntUnit(own.part, loss)
  const still = Float64Array.of(load.re, load.im, 1, 0)
  throughElements(parts.slice(k + 1), tuner, hz, still)
  // What the part adds for t = 1: a voltage by the current through it, or a current by the voltage across it.
  const [re, im] = series ? [still[2]!, still[3]!] : [still[0]!, still[1]!]
  const [addRe, addIm] = [unit.re * re - unit.im * im, unit.re * im + unit.im * re]
  const added = series ? Float64Array.of(addRe, addIm, 0, 0) : Float64Array.of(0, 0, addRe, addIm)
  throughElements(front, tuner, hz, still)
  throughElements(front, tuner, hz, added)
  const wave = (p: Float64Array, sign: 1 | -1) =>
    [p[0]! + sign * r0 * p[2]!, p[1]! + sign * r0 * p[3]!] as const
  const [backRe, backIm] = wave(still, -1)
  const [outRe, outIm] = wave(still, 1)
  const [moreBackRe, moreBackIm] = wave(added, -1)
  const [moreOutRe, moreOutIm] = wave(added, 1)
  const rhoAt = (t: number) =>
    Math.hypot(backRe + t * moreBackRe, backIm + t * moreBackIm) /
    Math.hypot(outRe + t * moreOutRe, outIm + t * moreOutIm)
  const a = backRe ** 2 + backIm ** 2
  const b = 2 * (backRe * moreBackRe + backIm * moreBackIm)
  const c = moreBackRe ** 2 + moreBackIm ** 2
  const d = outRe ** 2 + outIm ** 2
  const e = 2 * (outRe * moreOutRe + outIm * moreOutIm)
  const f = moreOutRe ** 2 + moreOutIm ** 2
  const sizeOf = (value: number) =>
    series ? reactanceOf(own.part, value, hz) : 1 / reactanceOf(own.part, value, hz)
  const ends = rangeOf(tuner, own.part).map(sizeOf) as [number, number]
  const [low, high] = [Math.min(...ends), Math.max(...ends)]
  let best = { t: low, rho: rhoAt(low) }
  for (const t of [high, ...quadratic(c * e - b * f, 2 * (c * d - a * f), b * d - a * e)])
    if (t >= low && t <= high && rhoAt(t) < best.rho) best = { t, rho: rhoAt(t) }
  const value = valueOf(own.part, series ? best.t : 1 / best.t, hz)
  return { element: { ...own, value }, rho: best.rho }
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
