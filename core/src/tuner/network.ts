/** Setting a tuner with knobs: L, T and π networks inside their ranges. */
import { add, type Complex, complex, divide } from '../complex.ts'
import { immittanceOf, lossFactor, type NetworkElement, valueOf } from './element.ts'
import { type LForm, matchL } from './matchL.ts'
import type { NetworkTuner, TunerSetting } from './kinds.ts'
import { nearest } from './nearestSetting.ts'
import {
  GOOD,
  goldenSection,
  inside,
  judge,
  lForms,
  logGrid,
  ordered,
  type Parts,
  rangeOf,
  shapes,
} from './networkParts.ts'

/** Points of the free capacitor of a T or π. */
const FREE_POINTS = 48
/** Steps toward the point where a part comes to its end. */
const TO_END = 30

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
