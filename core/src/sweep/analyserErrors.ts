/** How far an analyser may be off after its calibration. */

/** Each below a reflection of everything, dB: more is better. */
export interface AnalyserErrors {
  /** What it shows where nothing is reflected. */
  directivityDb: number
  /** What it sends back again of what comes to it: an error that grows with the square of the reflection. */
  sourceMatchDb: number
  /** Scatter of single points. */
  noiseDb: number
}

/** A usual one. */
export const usualAnalyser: AnalyserErrors = { directivityDb: 40, sourceMatchDb: 40, noiseDb: 74 }

/**
 * A share from decibels below one.
 *
 * @example below(40) // 0.01
 */
export const below = (db: number): number => 10 ** (-db / 20)

/**
 * How far a reflection may be off at most, but for the scatter of single points, |ρ|: of the usual error model of one port,
 * ρ shown = D + ρ/(1 − S·ρ), to first order.
 *
 * @param rho |ρ| as it is
 * @example analyserError({ directivityDb: 40, sourceMatchDb: 20, noiseDb: 74 }, 0.5) // 0.035
 */
export const analyserError = (
  { directivityDb, sourceMatchDb }: AnalyserErrors,
  rho: number,
): number => below(directivityDb) + below(sourceMatchDb) * rho * rho
