/** 10·log₁₀ of a power ratio. A ratio of zero gives −∞. */
export const ratioToDb = (ratio: number): number => 10 * Math.log10(ratio)

/** The power ratio of so many dB. */
export const dbToRatio = (db: number): number => 10 ** (db / 10)

/**
 * Loss from `inW` to `outW` in dB, ≥ 0 when power is lost; 0 when nothing goes in, infinite when nothing comes out.
 *
 * @example lossDb(100, 50) // 3.01
 */
export const lossDb = (inW: number, outW: number): number =>
  inW > 0 ? (outW > 0 ? -ratioToDb(outW / inW) : Infinity) : 0

/**
 * Watts as dBm.
 *
 * @example wattsToDbm(100) // 50
 */
export const wattsToDbm = (watts: number): number => ratioToDb(watts * 1000)

/**
 * dBm as watts.
 *
 * @example dbmToWatts(30) // 1
 */
export const dbmToWatts = (dbm: number): number => dbToRatio(dbm) / 1000
