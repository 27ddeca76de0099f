/** What no file of a measurement goes beyond: more is another unit, another column, or no measurement. */

/** Hz. */
export const MOST_FILE_HZ = 1e12
/** Of any figure beside the frequency. */
export const MOST_FIGURE = 1e12
/** Rows of one file. */
export const MOST_ROWS = 200_000
