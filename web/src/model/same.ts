import equal from 'fast-deep-equal'

/** A value as it is kept and sent: what is undefined is not there. */
const kept = (value: unknown): unknown =>
  value === undefined ? undefined : (JSON.parse(JSON.stringify(value)) as unknown)

/** Whether two plain values hold the same, in whatever order. */
export const same = (a: unknown, b: unknown): boolean => equal(kept(a), kept(b))

/** What became of a figure. */
export const arrow = (before: string, after: string): string => `${before} → ${after}`
