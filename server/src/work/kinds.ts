/** The lanes of work for worker threads, and how long each kind may take. */

/** Neither a look at the record nor a save stands in line behind long work. */
export type Lane = 'short' | 'save' | 'long'

export interface Work {
  lane: Lane
  /** How long it may take, waiting included, ms. It is stopped then. */
  budgetMs: number
}

/** A look at what is kept. */
export const briefly: Work = { lane: 'short', budgetMs: 15_000 }
/** Something small is kept: the disk may be slow at it, and another program may be waited for. */
export const saving: Work = { lane: 'save', budgetMs: 30_000 }
/** A chain solved, or a reading held against it, however many relays its tuner has. */
export const solving: Work = { lane: 'long', budgetMs: 30_000 }
/** Thousands of combinations of cables. */
export const planning: Work = { lane: 'long', budgetMs: 120_000 }
/** A file of many readings, or of a whole station, read and kept. */
export const importing: Work = { lane: 'long', budgetMs: 180_000 }
