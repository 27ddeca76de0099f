/**
 * The electrical class of a coaxial cable. Attenuation follows α(f) = k₁·√f + k₂·f; both parts are
 * stated as dB per 100 m at 1 MHz.
 */
export interface Cable {
  z0Ohm: number
  velocityFactor: number
  /** k₁: conductor loss, dB per 100 m at 1 MHz, growing as √f. */
  k1DbPer100m: number
  /** k₂: dielectric loss, dB per 100 m at 1 MHz, growing as f. */
  k2DbPer100m: number
  /** Highest frequency the data sheet covers; above it results are extrapolated. */
  maxHz?: number | undefined
}

/** Below this frequency the skin-effect law α ∝ √f is no longer trusted. */
const SKIN_EFFECT_FLOOR_HZ = 1e6

/**
 * Loss in the conductors, k₁√f, dB per 100 m.
 *
 * @example conductorDbPer100m(cable, 25e6) // 10
 */
export const conductorDbPer100m = (cable: Cable, frequencyHz: number): number =>
  cable.k1DbPer100m * Math.sqrt(frequencyHz / 1e6)

/**
 * Loss in the dielectric, k₂f, dB per 100 m.
 *
 * @example dielectricDbPer100m(cable, 25e6) // 0.5
 */
export const dielectricDbPer100m = (cable: Cable, frequencyHz: number): number =>
  (cable.k2DbPer100m * frequencyHz) / 1e6

/**
 * Data-sheet (nominal) attenuation, dB per 100 m.
 *
 * @example attenuationDbPer100m(cable, 10e6) // 6.525
 */
export const attenuationDbPer100m = (cable: Cable, frequencyHz: number): number =>
  conductorDbPer100m(cable, frequencyHz) + dielectricDbPer100m(cable, frequencyHz)

/**
 * True where α(f) is a guess: below 1 MHz or above what the data sheet covers.
 *
 * @example isExtrapolated(cable, 0.5e6) // true
 */
export const isExtrapolated = (cable: Cable, frequencyHz: number): boolean =>
  frequencyHz < SKIN_EFFECT_FLOOR_HZ || frequencyHz > (cable.maxHz ?? Infinity)
