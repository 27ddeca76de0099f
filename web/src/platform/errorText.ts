import { ApiError, OfflineError } from './api/client.ts'

/** What went wrong, in words a person can act on: the one place that makes them. */
export function errorText(error: unknown): string {
  if (error instanceof ApiError) {
    const first = error.problem.errors?.[0]
    return first && !error.message.includes(first.message)
      ? `${error.message} ${first.message}`
      : error.message
  }
  if (error instanceof OfflineError) return error.message
  return error instanceof Error ? error.message : String(error)
}
