/** Setting an auto tuner: the relay position with the least loss among those whose SWR is least, or nearly. */
import { type Complex, complex, divide } from '../complex.ts'
import { swrOf } from '../load/reflection.ts'
import { formatCapacitance, formatInductance } from '../units/format.ts'
import { lossFactor, type NetworkElement, seriesUnit, shuntUnit } from './element.ts'
import type { SteppedTuner, TunerSetting } from './kinds.ts'

/** Settings whose SWR is within this of the least are near-equal; among them the loss decides. */
const NEAR = 0.05

/**
 * The network with the capacitor on one side. The part at the load is the inner one, the part at the transmitter the outer
 * one: a capacitor across the load and a coil in line, or a coil in line with the load and a capacitor across both.
 * The one is the other with impedances and admittances exchanged.
 */
interface Side {
  /** Of the load and of one step of the inner part: admittance (S) where this is a capacitor, impedance (Ω) where a coil. */
  load: Complex
  inner: Complex
  innerLast: number
  /** Of one step of the outer part and of the transmitter's side: the other one of the two. */
  outer: Complex
  outerLast: number
  reference: number
}

function sidesOf(tuner: SteppedTuner, load: Complex, hz: number, r0: number) {
  const omega = 2 * Math.PI * hz
  const times = ({ re, im }: Complex, by: number) => complex(re * by, im * by)
  const coil = times(seriesUnit('coil', lossFactor('coil', tuner, hz)), omega * tuner.coilStepH)
  const capacitor = times(
    shuntUnit('capacitor', lossFactor('capacitor', tuner, hz)),
    omega * tuner.capacitorStepF,
  )
  const [coilLast, capacitorLast] = [2 ** tuner.coilBits - 1, 2 ** tuner.capacitorBits - 1]
  const atAntenna: Side = {
    load: divide(complex(1), load),
    inner: capacitor,
    innerLast: capacitorLast,
    outer: coil,
    outerLast: coilLast,
    reference: r0,
  }
  const atTransmitter: Side = {
    load,
    inner: coil,
    innerLast: coilLast,
    outer: capacitor,
    outerLast: capacitorLast,
    reference: 1 / r0,
  }
  return { atAntenna, atTransmitter }
}

/**
 * Along the steps m of the outer part, behind one step of the inner part: |ρ|² is (a + b·m + c·m²) / (d + e·m + c·m²), and
 * power in over power out is g + h·m.
 */
interface Row {
  a: number
  b: number
  c: number
  d: number
  e: number
  g: number
  h: number
}
const row: Row = { a: 0, b: 0, c: 0, d: 0, e: 0, g: 0, h: 0 }

const rhoSquaredAt = ({ a, b, c, d, e }: Row, m: number): number =>
  (a + m * (b + m * c)) / (d + m * (e + m * c))

/**
 * Fills in the row of a step of the inner part. SWR is at least the ratio of the resistances (or conductances), so most
 * rows can be passed over.
 *
 * @returns false where no step of the outer part brings the SWR down to `mostSwr`
 */
function fillRow(side: Side, k: number, mostSwr: number): boolean {
  const { load, inner, outer, outerLast, reference } = side
  const wr = load.re + k * inner.re
  const wi = load.im + k * inner.im
  const ww = wr * wr + wi * wi
  const re = wr / ww
  if (re > mostSwr * reference || (re + outerLast * outer.re) * mostSwr < reference) return false
  const im = -wi / ww
  const im2 = im * im
  const [below, above] = [re - reference, re + reference]
  const cross = 2 * im * outer.im
  row.a = below * below + im2
  row.b = 2 * below * outer.re + cross
  row.c = outer.re * outer.re + outer.im * outer.im
  row.d = above * above + im2
  row.e = 2 * above * outer.re + cross
  row.g = wr / load.re
  row.h = (row.g * outer.re) / re
  return true
}

/** Real roots of p + q·m + r·m², the lower first; NaN where there are none. */
const roots = new Float64Array(2)
function solveQuadratic(p: number, q: number, r: number): void {
  roots[0] = roots[1] = NaN
  if (r === 0) {
    if (q !== 0) roots[0] = -p / q
    return
  }
  const d = q * q - 4 * p * r
  if (d < 0) return
  const s = -0.5 * (q + (q < 0 ? -1 : 1) * Math.sqrt(d))
  const one = s / r
  const two = s === 0 ? one : p / s
  roots[0] = Math.min(one, two)
  roots[1] = Math.max(one, two)
}

/** The least |ρ|² of a row: at one of its ends, or beside the place where its derivative is nothing. */
function leastRhoSquared(last: number): number {
  const { a, b, c, d, e } = row
  let least = Math.min(rhoSquaredAt(row, 0), rhoSquaredAt(row, last))
  solveQuadratic(b * d - a * e, 2 * c * (d - a), c * (e - b))
  for (const place of roots) {
    if (!(place > 0 && place < last)) continue
    const m = Math.floor(place)
    least = Math.min(least, rhoSquaredAt(row, m), rhoSquaredAt(row, m + 1))
  }
  return least
}

/** The first step of a row with |ρ|² up to a limit: what is lost grows with every step. −1 where there is none. */
function firstWithin(last: number, limit: number): number {
  if (rhoSquaredAt(row, 0) <= limit) return 0
  const { a, b, c, d, e } = row
  solveQuadratic(a - limit * d, b - limit * e, c * (1 - limit))
  if (!(roots[0]! > -1)) return -1
  const from = Math.max(1, Math.floor(roots[0]!))
  for (let m = from; m <= Math.min(last, from + 2); m++) if (rhoSquaredAt(row, m) <= limit) return m
  return -1
}

/** Steps of the inner part behind which the resistances (or conductances) are about equal. */
function likelySteps({ load, inner, innerLast, reference }: Side): number[] {
  const im = Math.sqrt(Math.max(0, load.re / reference - load.re * load.re))
  return [im, -im]
    .map((at) => Math.round((at - load.im) / inner.im))
    .map((k) => Math.min(innerLast, Math.max(0, k)))
}

/** A setting by its steps. */
interface Steps {
  side: 'atAntenna' | 'atTransmitter'
  inner: number
  outer: number
}

/** |ρ| up to which settings are near-equal to the least one. */
const nearLimit = (least: number): number => {
  const enough = swrOf(least) + NEAR
  return (enough - 1) / (enough + 1)
}

/** Room for what rounding does to a bound. */
const ROUNDING = 1 + 1e-12

/** Two stretches of steps, each from one to another. */
const stretches = new Int32Array(4)
function setStretch(o: number, a: number, b: number, last: number): void {
  stretches[o] = Math.max(0, Math.ceil(Math.min(a, b) - 1e-6))
  stretches[o + 1] = Math.min(last, Math.floor(Math.max(a, b) + 1e-6))
}

/**
 * Finds the stretches of the inner part outside which no row comes down to an SWR. The resistance (or conductance) behind a
 * step is re/(re² + im²) and must lie about the reference, so im² lies between two bounds.
 */
function findStretches(
  { load, inner, innerLast, outer, outerLast, reference }: Side,
  mostSwr: number,
): void {
  const [least, most] = [load.re, load.re + innerLast * inner.re]
  const above = 1 / (mostSwr * reference)
  const low = Math.min(least * (above - least), most * (above - most))
  // What the outer part loses adds to the resistance.
  const rest = reference / mostSwr - outerLast * outer.re
  const below = rest > 0 ? 1 / rest : Infinity
  const middle = Math.min(most, Math.max(least, below / 2))
  const high = middle * (below - middle)
  if (!(high >= 0)) return void stretches.set([0, -1, 0, -1])
  const near = Math.sqrt(Math.max(0, low))
  const far = Math.sqrt(high)
  const stepAt = (im: number) => (im - load.im) / inner.im
  setStretch(0, stepAt(-far), stepAt(-near), innerLast)
  setStretch(2, stepAt(near), stepAt(far), innerLast)
  // No step twice where they meet.
  const [first, second] = stretches[0]! <= stretches[2]! ? [0, 2] : [2, 0]
  stretches[second] = Math.max(stretches[second]!, stretches[first + 1]! + 1)
}

/** The least |ρ|² of all settings. */
function leastOf(sides: readonly Side[]): number {
  let least = 1
  let swr = Infinity
  const look = (side: Side, k: number) => {
    if (!fillRow(side, k, swr)) return
    const own = leastRhoSquared(side.outerLast)
    if (!(own < least)) return
    least = own
    swr = swrOf(Math.sqrt(least)) * ROUNDING
  }
  for (const side of sides) for (const k of likelySteps(side)) look(side, k)
  for (const side of sides) {
    findStretches(side, swr)
    for (let o = 0; o < 4; o += 2)
      for (let k = stretches[o]!; k <= stretches[o + 1]!; k++) look(side, k)
  }
  return least
}

/**
 * Searches all settings, 2 × 2ⁿ × 2ᵐ, for the least SWR, then for the least loss among the near-equal.
 * The coil is in line, the capacitor across on either side of it.
 *
 * Of every step of the part at the load, the reflection runs round a circle along the steps of the other part, so a few of
 * these are looked at, and most steps can be passed over; the result is that of looking at all.
 */
export function setStepped(
  tuner: SteppedTuner,
  load: Complex,
  frequencyHz: number,
  referenceOhm: number,
): TunerSetting {
  if (!(load.re > 0)) return NOTHING
  const sides = sidesOf(tuner, load, frequencyHz, referenceOhm)
  const limit = nearLimit(Math.sqrt(leastOf(Object.values(sides))))
  const mostSwr = swrOf(limit) * ROUNDING
  let power = Infinity
  let found: Steps | null = null
  let rho = 1
  const look = (side: Steps['side'], inner: number) => {
    if (!fillRow(sides[side], inner, mostSwr) || row.g >= power) return
    const outer = firstWithin(sides[side].outerLast, limit * limit)
    const own = row.g + outer * row.h
    // Without a coil or a capacitor both sides are one network: the first one stands.
    if (outer < 0 || own >= power * (1 - 1e-12)) return
    power = own
    found = { side, inner, outer }
    rho = Math.sqrt(rhoSquaredAt(row, outer))
  }
  for (const side of SIDES) {
    findStretches(sides[side], mostSwr)
    for (let o = 0; o < 4; o += 2)
      for (let k = stretches[o]!; k <= stretches[o + 1]!; k++) look(side, k)
  }
  return found ? settingOf(tuner, found, rho, power) : NOTHING
}

const SIDES = ['atAntenna', 'atTransmitter'] as const

function settingOf(
  tuner: SteppedTuner,
  { side, inner, outer }: Steps,
  rho: number,
  power: number,
): TunerSetting {
  const coil = (steps: number): NetworkElement => ({
    place: 'series',
    part: 'coil',
    value: steps * tuner.coilStepH,
  })
  const capacitor = (steps: number): NetworkElement => ({
    place: 'shunt',
    part: 'capacitor',
    value: steps * tuner.capacitorStepF,
  })
  const swr = swrOf(rho)
  const matched = swr <= tuner.contentSwr
  return {
    elements:
      side === 'atAntenna' ? [coil(outer), capacitor(inner)] : [capacitor(outer), coil(inner)],
    rho,
    lossDb: 10 * Math.log10(power),
    matched,
    ...(!matched && {
      reason: `the nearest of its steps is SWR ${swr.toPrecision(3)}; it has up to ${formatInductance((2 ** tuner.coilBits - 1) * tuner.coilStepH)} and ${formatCapacitance((2 ** tuner.capacitorBits - 1) * tuner.capacitorStepF)}`,
    }),
  }
}

const NOTHING: TunerSetting = {
  elements: [],
  rho: 1,
  lossDb: 0,
  matched: false,
  reason: 'the load takes no power at all',
}
