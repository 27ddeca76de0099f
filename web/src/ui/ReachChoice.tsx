import { memo } from 'react'

/** How much of an axis is drawn: what is near, or all that is known. */
export type Reach = 'near' | 'all'

export const ReachChoice = memo(function ReachChoice({
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
})
