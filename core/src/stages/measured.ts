import { throughStresses } from './stress.ts'
import { REFERENCE_OHM } from '../constants.ts'
import { InputError, OutOfRangeError } from '../errors.ts'
import { intervalOf } from '../load/load.ts'
import { formatFrequency } from '../units/format.ts'
import type { Abcd } from './twoPort.ts'
import type { StageModel } from './model.ts'

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

/** An analyser's calibration is never perfect; more power out than this share of what goes in is no passive part. */
export const CALIBRATION = 1.02

/** Less than this gets through nothing that is connected. */
const LEAST_THROUGH = 1e-6

/**
 * The largest share of power that comes out of a two-port, for any way of putting it in: σ²max of S.
 *
 * @param s eight numbers: real and imaginary part of S11, S21, S12, S22
 */
export function mostOut(s: ArrayLike<number>): number {
  const [aRe = 0, aIm = 0, gRe = 0, gIm = 0, rRe = 0, rIm = 0, dRe = 0, dIm = 0] = s as number[]
  const sum =
    aRe * aRe + aIm * aIm + gRe * gRe + gIm * gIm + rRe * rRe + rIm * rIm + dRe * dRe + dIm * dIm
  const re = aRe * dRe - aIm * dIm - (gRe * rRe - gIm * rIm)
  const im = aRe * dIm + aIm * dRe - (gRe * rIm + gIm * rRe)
  return (sum + Math.sqrt(Math.max(0, sum * sum - 4 * (re * re + im * im)))) / 2
}

const S = new Float64Array(8)

/** S between the measured points, written into `S`; false outside of them. */
function interpolateS({ frequencyHz: grid, s, turned }: MeasuredStage, hz: number): boolean {
  const i = intervalOf(grid, hz)
  if (i < 0) return false
  const next = Math.min(i + 1, grid.length - 1)
  const t = next > i ? (hz - grid[i]!) / (grid[next]! - grid[i]!) : 0
  for (let k = 0; k < 8; k++) {
    const from = turned ? k + 2 * (3 - 2 * (k >> 1)) : k
    S[k] = s[8 * i + from]! + t * (s[8 * next + from]! - s[8 * i + from]!)
  }
  return true
}

/**
 * ABCD from S. Pozar, Microwave Engineering, table 4.2. Where a calibration makes a part give out a
 * little more than it gets, all of S is taken smaller by that little. Where there is no passive matrix
 * (outside the measured range, nothing gets through, more comes out than an analyser's error explains)
 * all of it is NaN, which a curve shows as a gap; `checkMeasured` says why.
 */
function writeMeasured(stage: MeasuredStage, frequencyHz: number, out: Abcd): void {
  if (!interpolateS(stage, frequencyHz)) return void out.fill(NaN)
  const most = mostOut(S)
  if (most > CALIBRATION || Math.hypot(S[2]!, S[3]!) < LEAST_THROUGH) return void out.fill(NaN)
  if (most > 1) {
    const factor = 1 / Math.sqrt(most)
    for (let k = 0; k < 8; k++) S[k]! *= factor
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
  out[8] = 0
}

/**
 * @throws OutOfRangeError where a part was not measured at this frequency; InputError where what was
 *   measured is no passive part, or lets nothing through
 */
function checkMeasured(stage: MeasuredStage, frequencyHz: number): void {
  if (interpolateS(stage, frequencyHz)) {
    const at = formatFrequency(frequencyHz)
    if (mostOut(S) > CALIBRATION)
      throw new InputError(
        `At ${at} more comes out of this measured part than goes in. A stage of a chain is passive: check the analyser’s calibration, or bypass the part.`,
        ['s'],
      )
    if (Math.hypot(S[2]!, S[3]!) < LEAST_THROUGH)
      throw new InputError(
        `At ${at} nothing gets through this measured part (S21 is 0${stage.turned ? ' as it is turned' : ''}). Check how its ports were connected, or bypass it.`,
        ['s'],
      )
    return
  }
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

/**
 * Checks, matrix and tolerances of a part that was measured as a two-port.
 *
 * @internal
 */
export const measuredModel: StageModel<MeasuredStage> = {
  check: ({ frequencyHz, s }, { refuse }) => {
    if (frequencyHz.length === 0 || s.length !== 8 * frequencyHz.length)
      refuse('A measured part needs eight numbers a frequency.', 's')
  },
  write: (stage, hz, _reference, out) => writeMeasured(stage, hz, out),
  covers: checkMeasured,
  stresses: (_stage, at) => throughStresses(at),
  lossless: () => null,
}
