import type { Estimate } from '../statistics/quantile.ts'

export type CableVerdict = 'too good' | 'as new' | 'cannot tell' | 'aged' | 'replace'

export interface CableJudgement {
  /** What is sure, by the range as a whole. */
  verdict: CableVerdict
  /** What the middle value alone would say: another verdict means that the range leaves it open. */
  middle: CableVerdict
  /** Measured over data sheet. */
  factor: number
  /** What it loses over the data sheet on this length, dB. */
  excessDb: number
}

/** Data sheets state typical cables; a new one may differ by so much. */
const SHEET_TOLERANCE = 0.08
/** From here on, half as much again, a cable is better replaced than kept. */
const REPLACE_FROM = 1.5

/**
 * New, aged, or to be replaced? The measured loss against the data sheet's for the same length and
 * frequency. The limits are Salt Line's own: 8 % for the sheet, half as much again to replace.
 *
 * @example judgeCable({ value: 1.0, low: 0.9, high: 1.1 }, 1.0).verdict // 'as new'
 */
export function judgeCable(
  measured: Estimate & { value: number },
  sheetDb: number,
): CableJudgement {
  const factor = sheetDb > 0 ? measured.value / sheetDb : Infinity
  const excessDb = measured.value - sheetDb
  const verdict = verdictOf(measured.low, measured.high, sheetDb)
  const middle = verdictOf(measured.value, measured.value, sheetDb)
  return { verdict, middle, factor, excessDb }
}

function verdictOf(low: number, high: number, sheetDb: number): CableVerdict {
  if (high < sheetDb * (1 - SHEET_TOLERANCE)) return 'too good'
  if (low > sheetDb * REPLACE_FROM) return 'replace'
  if (low > sheetDb * (1 + SHEET_TOLERANCE)) return 'aged'
  return high > sheetDb * REPLACE_FROM ? 'cannot tell' : 'as new'
}

/**
 * How a loss compares with last time, dB; `real` where the two ranges do not meet.
 *
 * @example sinceLastTime({ value: 2, low: 1.9, high: 2.1 }, { value: 1, low: 0.9, high: 1.1 })
 *   // { db: 1, real: true }
 */
export function sinceLastTime(
  now: Estimate & { value: number },
  then: Estimate & { value: number },
) {
  return { db: now.value - then.value, real: now.low > then.high || now.high < then.low }
}
