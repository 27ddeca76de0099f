/** Speed of light in vacuum, m/s (exact by definition of the metre). */
export const SPEED_OF_LIGHT = 299_792_458

/** The impedance on which forward, reflected and SWR are stated unless a station says otherwise. */
export const REFERENCE_OHM = 50

/** Multiply dB per 100 m by this to get nepers per metre. */
export const NEPER_PER_M = Math.LN10 / 20 / 100

/** Multiply nepers by this to get dB. */
export const DB_PER_NEPER = 20 / Math.LN10

/** One S-unit in dB (IARU Region 1 recommendation R.1). */
export const DB_PER_S_UNIT = 6
