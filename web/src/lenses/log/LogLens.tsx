import { lazy, Suspense } from 'react'
import { useSearchParams } from 'react-router'
import { AllReadings } from './AllReadings.tsx'
import type { LensProps } from '../../editor/lens.ts'
import { Round } from './Round.tsx'

const Years = lazy(() => import('./Years.tsx'))

const leaves = [
  { id: 'round', label: 'This session' },
  { id: 'all', label: 'All readings' },
  { id: 'years', label: 'Over the years' },
] as const
type Leaf = (typeof leaves)[number]['id']

/** What was measured, what was expected, and how both went over the years. */
export function LogLens(props: LensProps) {
  const [search] = useSearchParams()
  const leaf: Leaf = leaves.find(({ id }) => id === search.get('leaf'))?.id ?? 'round'
  return (
    <div>
      <div
        role="group"
        aria-label="Log"
        className="flex flex-wrap gap-1.5 border-b border-rule px-5 py-2"
      >
        {leaves.map(({ id, label }) => (
          <button
            key={id}
            type="button"
            className="button"
            aria-pressed={id === leaf}
            onClick={() => props.put({ leaf: id })}
          >
            {label}
          </button>
        ))}
      </div>
      {leaf === 'round' && <Round {...props} />}
      {leaf === 'all' && <AllReadings {...props} />}
      {leaf === 'years' && (
        <Suspense>
          <Years {...props} />
        </Suspense>
      )}
    </div>
  )
}
