import { DB_PER_S_UNIT, REFERENCE_OHM } from '../constants.ts'
import { InputError } from '../errors.ts'
import { mismatchLossDb, returnLossDb, rhoOfSwr, swrOf } from '../load/reflection.ts'
import { dbmToWatts, wattsToDbm } from '../units/decibel.ts'

/** One level in all its figures. */
export interface Level {
  watts: number
  dbm: number
  dbw: number
  /** On 50 Ω: RMS, peak, peak to peak. */
  rmsV: number
  peakV: number
  peakToPeakV: number
}

/** Units in which a level may be given: watts, dBm, dBW, and volts across the impedance (RMS, peak, peak to peak). */
export const levelUnits = ['watts', 'dbm', 'dbw', 'rmsV', 'peakV', 'peakToPeakV'] as const
export type LevelUnit = (typeof levelUnits)[number]

const toWatts: Record<LevelUnit, (value: number, ohm: number) => number> = {
  watts: (w) => w,
  dbm: (v) => dbmToWatts(v),
  dbw: (v) => dbmToWatts(v + 30),
  rmsV: (v, ohm) => (v * v) / ohm,
  peakV: (v, ohm) => (v * v) / (2 * ohm),
  peakToPeakV: (v, ohm) => (v * v) / (8 * ohm),
}

/**
 * A level given in any of its figures. @throws InputError for no power at all
 *
 * @example levelOf(100, 'watts').dbm // 50
 */
export function levelOf(value: number, unit: LevelUnit, ohm = REFERENCE_OHM): Level {
  const watts = toWatts[unit](value, ohm)
  if (!(watts > 0) || !Number.isFinite(watts))
    throw new InputError('A level must be more than nothing.', [unit])
  const rmsV = Math.sqrt(watts * ohm)
  return {
    watts,
    dbm: wattsToDbm(watts),
    dbw: wattsToDbm(watts) - 30,
    rmsV,
    peakV: rmsV * Math.SQRT2,
    peakToPeakV: 2 * rmsV * Math.SQRT2,
  }
}

/** One match in all its figures. */
export interface Match {
  swr: number
  rho: number
  returnLossDb: number
  /** Reflected over forward power, %. */
  percent: number
  mismatchLossDb: number
}

/** Ways to give a match: SWR, |ρ| (0 to 1), return loss (dB), reflected power (% of forward). */
export const matchUnits = ['swr', 'rho', 'returnLossDb', 'percent'] as const
export type MatchUnit = (typeof matchUnits)[number]

const toRho: Record<MatchUnit, (value: number) => number> = {
  swr: (v) => (v >= 1 ? rhoOfSwr(v) : NaN),
  rho: (v) => v,
  returnLossDb: (v) => 10 ** (-v / 20),
  percent: (v) => Math.sqrt(v / 100),
}

/**
 * A match given in any of its figures. @throws InputError for an SWR under 1 and the like
 *
 * @example matchOf(2, 'swr').returnLossDb // 9.542
 */
export function matchOf(value: number, unit: MatchUnit): Match {
  const rho = toRho[unit](value)
  if (!(rho >= 0 && rho <= 1))
    throw new InputError(
      {
        swr: 'An SWR is 1 or more.',
        rho: '|ρ| lies between 0 and 1.',
        returnLossDb: 'A return loss is 0 dB or more.',
        percent: 'Between 0 and 100 % come back.',
      }[unit],
      [unit],
    )
  return {
    swr: swrOf(rho),
    rho,
    returnLossDb: returnLossDb(rho),
    percent: 100 * rho * rho,
    mismatchLossDb: mismatchLossDb(rho),
  }
}

/** Level of S9 at the receiver's input, dBm: IARU Region 1 recommendation R.1. */
const s9Dbm = (frequencyHz: number): number => (frequencyHz < 30e6 ? -73 : -93)

/**
 * A level at a receiver in S-units: S1 to S9 in steps of 6 dB, dB over S9 beyond.
 *
 * @example sUnitsOf(-63, 7e6) // { s: 9, over9Db: 10 }
 */
export function sUnitsOf(dbm: number, frequencyHz: number): { s: number; over9Db: number } {
  const over = dbm - s9Dbm(frequencyHz)
  return { s: Math.min(9, 9 + over / DB_PER_S_UNIT), over9Db: Math.max(0, over) }
}

/**
 * The level of an S-figure, dBm.
 *
 * @example dbmOfS(9, 0, 7e6) // -73
 */
export const dbmOfS = (s: number, over9Db: number, frequencyHz: number): number =>
  s9Dbm(frequencyHz) + (Math.min(9, s) - 9) * DB_PER_S_UNIT + over9Db
