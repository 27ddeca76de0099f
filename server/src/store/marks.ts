/** What stands in `deletedAt` beside the moment of a deletion. */
import { and, type Column, isNotNull, not, like } from 'drizzle-orm'

/** What arrives by portions is no more to be seen than what is gone. */
export const arriving = (id: string): string => `arriving ${id}`

/** Of rows that are not to be seen: those that somebody deleted. */
export const wasDeleted = (deletedAt: Column) =>
  and(isNotNull(deletedAt), not(like(deletedAt, 'arriving %')))
