/** The least SWR that the ranges of a tuner with knobs allow, where no exact match fits. */
import type { Complex } from '../complex.ts'
import { formatCapacitance, formatInductance } from '../units/format.ts'
import {
  lossFactor,
  type NetworkElement,
  reactanceOf,
  seriesUnit,
  shuntUnit,
  throughElements,
  valueOf,
} from './element.ts'
import { quadratic } from './matchL.ts'
import type { NetworkTuner, TunerSetting } from './kinds.ts'
import { GOOD, goldenSection, judge, logGrid, type Parts, rangeOf, shapes } from './networkParts.ts'

/** The search for the least SWR ends after so many rounds, and goes on only for so large a gain. */
const MOST_ROUNDS = 100
const WORTHWHILE = 1e-6

/** Where no exact match fits: the least SWR inside the ranges, of every shape. */
export function nearest(tuner: NetworkTuner, load: Complex, hz: number, r0: number): TunerSetting {
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
