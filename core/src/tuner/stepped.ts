/** Setting an auto tuner: the relay position with the least loss among those whose SWR is least, or nearly. */
import type { Complex } from '../complex.ts'
import { swrOf } from '../load/reflection.ts'
import { formatCapacitance, formatInductance } from '../units/format.ts'
import { lossFactor, type NetworkElement, seriesUnit, shuntUnit } from './element.ts'
import type { SteppedTuner, TunerSetting } from './kinds.ts'

/** Settings whose SWR is within this of the least are near-equal; among them the loss decides. */
const NEAR = 0.05

/**
 * A row is one step of the coil with the capacitor on one side, as nine numbers: |ρ|² is a quotient of two quadratics in
 * the step j of the capacitor (a + b·j + c·j² over d + e·j + f·j²), and power in over power out is g + h·j + i·j².
 */
const ROW = 9
let rows = new Float64Array(0)

const rhoSquaredAt = (o: number, j: number): number =>
  (rows[o]! + j * (rows[o + 1]! + j * rows[o + 2]!)) /
  (rows[o + 3]! + j * (rows[o + 4]! + j * rows[o + 5]!))
const powerAt = (o: number, j: number): number =>
  rows[o + 6]! + j * (rows[o + 7]! + j * rows[o + 8]!)

/** Real roots of a + b·j + c·j², the lower first; NaN where there are none. */
const roots = new Float64Array(2)
function solveQuadratic(a: number, b: number, c: number): void {
  roots.fill(NaN)
  if (c === 0) {
    if (b !== 0) roots[0] = -a / b
    return
  }
  const d = b * b - 4 * a * c
  if (d < 0) return
  const q = -0.5 * (b + (b < 0 ? -1 : 1) * Math.sqrt(d))
  const one = q / c
  const two = q === 0 ? one : a / q
  roots[0] = Math.min(one, two)
  roots[1] = Math.max(one, two)
}

/** Whole steps of the capacitor worth looking at: its two ends, and those around some places on the way. */
const looked = new Int32Array(14)
let count = 0
function lookAt(last: number): void {
  looked[0] = 0
  looked[1] = last
  count = 2
}
function lookAround(place: number, last: number): void {
  if (!(place > -2 && place < last + 2)) return
  const from = Math.floor(place) - 1
  for (let j = Math.max(0, from); j <= Math.min(last, from + 3); j++) looked[count++] = j
}

/**
 * Searches all settings, 2 × 2ⁿ × 2ᵐ, for the least SWR, then for the least loss among the near-equal.
 * The coil is in line, the capacitor across on either side of it.
 *
 * Along the steps of the capacitor the reflection runs round a circle, so |ρ|² is a quotient of two quadratics with one
 * least and one greatest value, and what is lost is a quadratic: of every step of the coil a few steps of the capacitor
 * are looked at, and the result is that of looking at all.
 */
export function setStepped(
  tuner: SteppedTuner,
  load: Complex,
  frequencyHz: number,
  referenceOhm: number,
): TunerSetting {
  const nothing = {
    elements: [],
    rho: 1,
    lossDb: 0,
    matched: false,
    reason: 'the load takes no power at all',
  }
  if (!(load.re > 0)) return nothing
  const last = 2 ** tuner.capacitorBits - 1
  const size = fillRows(tuner, load, frequencyHz, referenceOhm)
  let best = Infinity
  for (let o = 0; o < size; o += ROW) {
    // |ρ|² turns where its derivative is nothing: the cubes cancel.
    const a = rows[o]!
    const b = rows[o + 1]!
    const c = rows[o + 2]!
    const d = rows[o + 3]!
    const e = rows[o + 4]!
    const f = rows[o + 5]!
    solveQuadratic(b * d - a * e, 2 * (c * d - a * f), c * e - b * f)
    lookAt(last)
    lookAround(roots[0]!, last)
    lookAround(roots[1]!, last)
    for (let n = 0; n < count; n++) best = Math.min(best, rhoSquaredAt(o, looked[n]!))
  }
  const enough = swrOf(Math.sqrt(best)) + NEAR
  const limit = ((enough - 1) / (enough + 1)) ** 2
  let least = Infinity
  let row = -1
  let j = 0
  for (let o = 0; o < size; o += ROW) {
    solveQuadratic(
      rows[o]! - limit * rows[o + 3]!,
      rows[o + 1]! - limit * rows[o + 4]!,
      rows[o + 2]! - limit * rows[o + 5]!,
    )
    lookAt(last)
    lookAround(roots[0]!, last)
    lookAround(roots[1]!, last)
    lookAround(-rows[o + 7]! / (2 * rows[o + 8]!), last)
    for (let n = 0; n < count; n++) {
      const own = powerAt(o, looked[n]!)
      if (own < least && rhoSquaredAt(o, looked[n]!) <= limit) {
        least = own
        row = o
        j = looked[n]!
      }
    }
  }
  if (row < 0) return nothing
  const coil: NetworkElement = {
    place: 'series',
    part: 'coil',
    value: Math.floor(row / ROW / 2) * tuner.coilStepH,
  }
  const cap: NetworkElement = {
    place: 'shunt',
    part: 'capacitor',
    value: j * tuner.capacitorStepF,
  }
  const rho = Math.sqrt(rhoSquaredAt(row, j))
  const swr = swrOf(rho)
  const matched = swr <= tuner.contentSwr
  return {
    elements: (row / ROW) % 2 === 0 ? [coil, cap] : [cap, coil],
    rho,
    lossDb: 10 * Math.log10(least),
    matched,
    ...(!matched && {
      reason: `the nearest of its steps is SWR ${swr.toPrecision(3)}; it has up to ${formatInductance((2 ** tuner.coilBits - 1) * tuner.coilStepH)} and ${formatCapacitance(last * tuner.capacitorStepF)}`,
    }),
  }
}

/** Fills in every step of the coil, with the capacitor at the antenna and at the transmitter. @returns where they end */
function fillRows(tuner: SteppedTuner, load: Complex, hz: number, r0: number): number {
  const size = 2 ** tuner.coilBits * 2 * ROW
  if (rows.length < size) rows = new Float64Array(size)
  const omega = 2 * Math.PI * hz
  const xStep = omega * tuner.coilStepH
  const bStep = omega * tuner.capacitorStepF
  const { re: rPerOhm, im: direction } = seriesUnit('coil', lossFactor('coil', tuner, hz))
  const w = shuntUnit('capacitor', lossFactor('capacitor', tuner, hz))
  const yr = bStep * w.re
  const yi = bStep * w.im
  const yy = yr * yr + yi * yi
  const zl = load.re
  const xl = load.im
  const zz = zl * zl + xl * xl
  const gl = zl / zz
  const bl = -xl / zz
  // Current through the coil for one ampere into the load: |1 + load·j·y|².
  const c1 = 2 * (zl * yr - xl * yi)
  const c2 = zz * yy
  let o = 0
  for (let i = 0; i < 2 ** tuner.coilBits; i++) {
    const x = i * xStep * direction
    const r = i * xStep * rPerOhm
    // Capacitor at the antenna: ρ = (1 + (z − R₀)·Y) / (1 + (z + R₀)·Y), Y the load and the capacitor across it.
    for (const sign of [-1, 1]) {
      const re = r + sign * r0
      const ur = 1 + re * gl - x * bl
      const ui = re * bl + x * gl
      const vr = re * yr - x * yi
      const vi = re * yi + x * yr
      rows[o++] = ur * ur + ui * ui
      rows[o++] = 2 * (ur * vr + ui * vi)
      rows[o++] = vr * vr + vi * vi
    }
    rows[o++] = 1 + r / zl
    rows[o++] = (zz * yr + r * c1) / zl
    rows[o++] = (r * c2) / zl
    // Capacitor at the transmitter: ρ = (1/R₀ − Y) / (1/R₀ + Y), Y what is behind the coil, and the capacitor.
    const zr = zl + r
    const zx = xl + x
    const ss = zr * zr + zx * zx
    for (const sign of [-1, 1]) {
      const ur = 1 / r0 + (sign * zr) / ss
      const ui = (-sign * zx) / ss
      rows[o++] = ur * ur + ui * ui
      rows[o++] = 2 * sign * (ur * yr + ui * yi)
      rows[o++] = yy
    }
    rows[o++] = zr / zl
    rows[o++] = (yr * ss) / zl
    rows[o++] = 0
  }
  return size
}
