/** The lanes of work for worker threads, and how long each kind may take. */

/** Neither a look at the record nor a save stands in line behind long work: they have threads that nothing long can enter. */
export type Lane = 'look' | 'save' | 'long'

/** Long work of one kind is done one after the other, and so many wait for each who asks. */
export type Kind = 'plan' | 'solve' | 'import' | 'export' | 'restore'

export interface Work {
  lane: Lane
  /** How long it may take, ms. It is stopped then. */
  budgetMs: number
  /** Of long work. */
  kind?: Kind
}

/** A look at what is kept. */
export const briefly: Work = { lane: 'look', budgetMs: 15_000 }
/**
 * Something small is kept, or a reading held against its chain, however many relays the tuner has: the disk may be slow at
 * it, and another program may be waited for.
 */
export const saving: Work = { lane: 'save', budgetMs: 30_000 }
/** A chain solved for a program. */
export const solving: Work = { lane: 'long', kind: 'solve', budgetMs: 30_000 }
/** Thousands of combinations of cables. */
export const planning: Work = { lane: 'long', kind: 'plan', budgetMs: 120_000 }
/** A file of many readings, or a sweep, read and kept. */
export const importing: Work = { lane: 'long', kind: 'import', budgetMs: 180_000 }
/** A whole station, which may have a million readings. */
export const bringing: Work = { lane: 'long', kind: 'import', budgetMs: 1_800_000 }
/** Files are written to their end first: a slow receiver then keeps no worker. */
export const exporting: Work = { lane: 'long', kind: 'export', budgetMs: 120_000 }
/** A copy of the whole database, made and checked; the writing of files waits for it. */
export const copying: Work = { lane: 'long', kind: 'export', budgetMs: 900_000 }
/** A whole database looked into, or put in the place of what is here. */
export const restoring: Work = { lane: 'long', kind: 'restore', budgetMs: 600_000 }
