import type { SweepLoad } from '@saltline/core'

/** A stretch of frequencies to draw, Hz. */
export interface Band {
  lowHz: number
  highHz: number
}

export type Reach = 'near' | 'all'

/** The band to draw: some percent round the channel, or all that the antenna's sweep covers. */
export function reachOf(hz: number, reach: Reach, sweep: SweepLoad | undefined): Band {
  const low = sweep ? sweep.frequencyHz[0]! : hz / 3
  const high = sweep ? sweep.frequencyHz[sweep.frequencyHz.length - 1]! : hz * 3
  if (reach === 'all' && low < high) return { lowHz: low, highHz: high }
  const near = { lowHz: Math.max(low, hz * 0.93), highHz: Math.min(high, hz * 1.07) }
  return near.lowHz < near.highHz ? near : { lowHz: hz * 0.93, highHz: hz * 1.07 }
}

export function ReachChoice({
  value,
  onChange,
}: {
  value: Reach
  onChange: (reach: Reach) => void
}) {
  return (['near', 'all'] as const).map((choice) => (
    <button
      key={choice}
      type="button"
      aria-pressed={value === choice}
      className={`quiet !min-h-6 !px-1.5 text-sm ${value === choice ? '!text-tide font-bold' : ''}`}
      onClick={() => onChange(choice)}
    >
      {choice === 'near' ? '± 7 %' : 'all'}
    </button>
  ))
}
