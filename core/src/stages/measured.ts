import { REFERENCE_OHM } from '../constants.ts'
import { OutOfRangeError } from '../errors.ts'
import { intervalOf } from '../load/load.ts'
import { formatFrequency } from '../units/format.ts'
import type { Abcd } from './twoPort.ts'

/** A part known by its measured S-parameters on 50 Ω, as a Touchstone two-port file gives them. */
export interface MeasuredStage {
  kind: 'measured'
  /** Strictly rising, Hz. */
  frequencyHz: readonly number[]
  /** Eight numbers a frequency: real and imaginary part of S11, S21, S12, S22. */
  s: readonly number[]
  /** True where its port 2 faces the transmitter. */
  turned?: boolean | undefined
}

const S = new Float64Array(8)

/**
 * ABCD from S. Pozar, Microwave Engineering, table 4.2. Outside the measured range there is no
 * matrix: all of it is NaN, which a curve shows as a gap.
 */
export function writeMeasured(stage: MeasuredStage, frequencyHz: number, out: Abcd): void {
  const { frequencyHz: grid, s, turned } = stage
  const i = intervalOf(grid, frequencyHz)
  if (i < 0) return void out.fill(NaN)
  const next = Math.min(i + 1, grid.length - 1)
  const t = next > i ? (frequencyHz - grid[i]!) / (grid[next]! - grid[i]!) : 0
  for (let k = 0; k < 8; k++) {
    const from = turned ? k + 2 * (3 - 2 * (k >> 1)) : k
    S[k] = s[8 * i + from]! + t * (s[8 * next + from]! - s[8 * i + from]!)
  }
  const [aRe = 0, aIm = 0, gRe = 0, gIm = 0, rRe = 0, rIm = 0, dRe = 0, dIm = 0] = S
  const crossRe = gRe * rRe - gIm * rIm
  const crossIm = gRe * rIm + gIm * rRe
  /** ((1 + p·S11)(1 + q·S22) + w·S12·S21)/(2·S21), times a real factor. */
  const term = (p: number, q: number, w: number, factor: number, at: number) => {
    const re = (1 + p * aRe) * (1 + q * dRe) - p * q * aIm * dIm + w * crossRe
    const im = (1 + p * aRe) * q * dIm + p * aIm * (1 + q * dRe) + w * crossIm
    const size = (2 * (gRe * gRe + gIm * gIm)) / factor
    out[at] = (re * gRe + im * gIm) / size
    out[at + 1] = (im * gRe - re * gIm) / size
  }
  term(1, -1, 1, 1, 0)
  term(1, 1, -1, REFERENCE_OHM, 2)
  term(-1, -1, -1, 1 / REFERENCE_OHM, 4)
  term(-1, 1, 1, 1, 6)
}

/** @throws OutOfRangeError where a part was not measured at this frequency */
export function checkMeasured(stage: MeasuredStage, frequencyHz: number): void {
  if (intervalOf(stage.frequencyHz, frequencyHz) >= 0) return
  const low = stage.frequencyHz[0] ?? NaN
  const high = stage.frequencyHz.at(-1) ?? NaN
  throw new OutOfRangeError(
    `A part of this chain was measured from ${formatFrequency(low)} to ${formatFrequency(high)}; ` +
      `there is no figure at ${formatFrequency(frequencyHz)}. ` +
      `Choose a channel inside that range, bypass the part, or import a wider file.`,
    low,
    high,
  )
}
