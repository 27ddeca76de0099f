/** What a lossy cable costs on receive. */

/** How much noise the surroundings make. */
export type Surroundings = 'city' | 'residential' | 'rural' | 'quiet rural'

/** F_a = c − d·log₁₀ f, f in MHz (ITU-R P.372, man-made noise, median). */
const MAN_MADE: Record<Surroundings, readonly [c: number, d: number]> = {
  city: [76.8, 27.7],
  residential: [72.5, 27.7],
  rural: [67.2, 27.7],
  'quiet rural': [53.6, 28.6],
}
/** Where the law above was measured, MHz. */
const MEASURED_MHZ = [0.3, 250] as const

/** External noise over thermal noise at 290 K, dB. */
export interface ExternalNoise {
  db: number
  /** True outside of 0.3 to 250 MHz, where the law is only continued, and never below thermal noise. */
  estimated: boolean
}

/**
 * The noise that an antenna hears, by ITU-R P.372.
 *
 * @param frequencyHz > 0
 * @example externalNoise('rural', 10e6) // { db: 39.5, estimated: false }
 */
export function externalNoise(surroundings: Surroundings, frequencyHz: number): ExternalNoise {
  const mhz = frequencyHz / 1e6
  const [c, d] = MAN_MADE[surroundings]
  return {
    db: Math.max(0, c - d * Math.log10(mhz)),
    estimated: mhz < MEASURED_MHZ[0] || mhz > MEASURED_MHZ[1],
  }
}

/**
 * Signal-to-noise that a loss in front of a receiver costs, dB: 10·log₁₀((f_a + ℓ·f_r − 1)/(f_a + f_r − 1)). The loss is
 * taken to be at 290 K; mismatch between cable and receiver is left out. Nothing where the antenna hears much more
 * than the receiver makes, the whole loss where it hears nothing.
 *
 * @param lossDb ≥ 0
 * @param noiseFigureDb of the receiver
 * @param externalDb of the antenna, over thermal noise
 * @example receiveCostDb(3, 10, 20) // 0.3795
 */
export function receiveCostDb(lossDb: number, noiseFigureDb: number, externalDb: number): number {
  const loss = 10 ** (lossDb / 10)
  const receiver = 10 ** (noiseFigureDb / 10)
  const external = 10 ** (externalDb / 10)
  return 10 * Math.log10((external + loss * receiver - 1) / (external + receiver - 1))
}
