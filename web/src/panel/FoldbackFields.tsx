import type { TransmitterDocument } from '@saltline/contract'
import { formatSwr } from '@saltline/core'
import { Plus, X } from 'lucide-react'
import { PlainField, SwrField } from '../ui/quantities.tsx'
import { FoldbackChart } from './FoldbackChart.tsx'

type Points = TransmitterDocument['foldback']

/** Points in order of SWR; a point cannot overtake its neighbours. */
export function FoldbackFields({
  points,
  here,
  onChange,
}: {
  points: Points
  /** The SWR that the source sees now. */
  here: number | null
  onChange: (points: Points) => void
}) {
  const set = (i: number, point: [number, number]) => onChange(points.with(i, point))
  const last = points[points.length - 1]
  return (
    <fieldset className="rounded border border-rule px-3 pt-1 pb-3">
      <legend className="px-1 text-sm text-muted">Foldback: power left at an SWR</legend>
      {points.length > 0 && <FoldbackChart points={points} here={here} onChange={onChange} />}
      {points.length === 0 && <p className="text-sm text-muted">None: full power at any SWR.</p>}
      <div className="space-y-1.5">
        {points.map(([swr, fraction], i) => (
          <div key={i} className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
            <SwrField
              label={`SWR, point ${i + 1}`}
              bare={i > 0}
              value={swr}
              min={(points[i - 1]?.[0] ?? 0.999) + 0.001}
              max={(points[i + 1]?.[0] ?? 1000.001) - 0.001}
              onChange={(value) => set(i, [value, fraction])}
            />
            <PlainField
              label={`Power left, point ${i + 1}`}
              bare={i > 0}
              unit="%"
              value={fraction * 100}
              step={1}
              min={0}
              max={100}
              onChange={(value) => set(i, [swr, value / 100])}
            />
            <button
              type="button"
              className="quiet mb-0.5"
              aria-label={`Remove the point at SWR ${formatSwr(swr)}`}
              onClick={() => onChange(points.toSpliced(i, 1))}
            >
              <X size={15} aria-hidden />
            </button>
          </div>
        ))}
      </div>
      <button
        type="button"
        className="quiet mt-2 -ml-2"
        disabled={points.length >= 40 || (last?.[0] ?? 1) >= 900}
        onClick={() =>
          onChange([
            ...points,
            last ? [Number((last[0] * 1.5).toPrecision(2)), last[1] / 2] : [1.5, 1],
          ])
        }
      >
        <Plus size={15} aria-hidden /> Add a point
      </button>
    </fieldset>
  )
}
