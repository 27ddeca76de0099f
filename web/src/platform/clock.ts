/** The server’s clock beside this browser’s: a phone that was left to itself may be hours off. */

/** Less is a slow answer, or nobody’s concern, ms. */
const SAME_MS = 120_000

let offsetMs: number | null = null

/** Takes the time of an answer that has just come from the server itself. */
export function noteServerDate(date: string | null): void {
  const at = date === null ? NaN : Date.parse(date)
  if (!Number.isNaN(at)) offsetMs = at - Date.now()
}

/** How much later it is by the server’s clock, ms; null until an answer was heard. */
export function clockOffset(): number | null {
  if (offsetMs === null) return null
  return Math.abs(offsetMs) < SAME_MS ? 0 : offsetMs
}

/** Now, by the server’s clock where that is known to be another. */
export const nowIso = (): string => new Date(Date.now() + (clockOffset() ?? 0)).toISOString()
