import { coverageOf, type Load } from '@saltline/core'
import type { Reach } from '../ui/ReachChoice.tsx'

/** A stretch of frequencies to draw, Hz. */
export interface Band {
  lowHz: number
  highHz: number
}

/** The band to draw: some percent round the channel, or all that is known of the antenna. */
export function reachOf(hz: number, reach: Reach, load: Load): Band {
  const covered = coverageOf(load, hz)
  const low = covered?.lowHz ?? hz / 3
  const high = covered?.highHz ?? hz * 3
  if (reach === 'all' && low < high) return { lowHz: low, highHz: high }
  const near = { lowHz: Math.max(low, hz * 0.93), highHz: Math.min(high, hz * 1.07) }
  // A channel outside of what is known: then all that is.
  if (near.lowHz >= near.highHz && low < high) return { lowHz: low, highHz: high }
  return near.lowHz < near.highHz ? near : { lowHz: hz * 0.93, highHz: hz * 1.07 }
}
