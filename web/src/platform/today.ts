import { format } from 'date-fns'

/** Today where the operator is, as 2026-04-18. */
export const today = (): string => format(new Date(), 'yyyy-MM-dd')
