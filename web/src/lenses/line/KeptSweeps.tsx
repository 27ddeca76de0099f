import { dayText, type LineSweepSummary } from '@saltline/contract'
import type { LengthUnit } from '@saltline/core'
import { Trash2 } from 'lucide-react'
import { farEnds } from '../../model/farEnds.ts'
import { driftWords, sweepFacts } from '../../model/lineSweeps.ts'
import { act } from '../../platform/act.ts'
import { deleteLineSweep, restoreLineSweep } from '../../platform/api/lineSweepQueries.ts'

/** Sweeps that were kept: to look at, and to look at together. */
export function KeptSweeps({
  sweeps,
  shown,
  before,
  unit,
  onShow,
  onBefore,
}: {
  sweeps: readonly LineSweepSummary[]
  shown: string | null
  before: string | null
  unit: LengthUnit
  onShow: (id: string | null) => void
  onBefore: (id: string | null) => void
}) {
  if (sweeps.length === 0) return null
  const ends = new Map(farEnds.map(({ value, label }) => [value, label]))
  return (
    <section aria-label="Kept sweeps" className="border-t border-rule pt-3 text-sm">
      <h2 className="mb-1 text-base font-bold">Kept sweeps</h2>
      {driftWords(sweeps, unit).map((words) => (
        <p key={words} className="mb-1 text-caution">
          ▲ {words}
        </p>
      ))}
      <ul>
        {sweeps.map((sweep) => {
          const { id, place, farEnd, readAt, name, by, note } = sweep
          return (
            <li key={id} className="border-t border-rule py-1.5">
              <div className="flex flex-wrap items-baseline gap-x-3">
                <button
                  type="button"
                  className="link min-h-6"
                  aria-pressed={shown === id}
                  onClick={() => onShow(shown === id ? null : id)}
                >
                  {dayText(readAt)}, {place}
                </button>
                <button
                  type="button"
                  className="link min-h-6"
                  aria-pressed={before === id}
                  aria-label={`Draw the sweep of ${dayText(readAt)}, ${place}, with the other`}
                  onClick={() => onBefore(before === id ? null : id)}
                >
                  {before === id ? 'drawn as before' : 'draw with it'}
                </button>
                <button
                  type="button"
                  className="quiet ml-auto"
                  aria-label={`Delete the sweep of ${dayText(readAt)}, ${place}`}
                  onClick={() =>
                    void act(async () => {
                      await deleteLineSweep(id)
                      if (shown === id) onShow(null)
                      if (before === id) onBefore(null)
                      return { said: 'The sweep is in the bin.', undo: () => restoreLineSweep(id) }
                    })
                  }
                >
                  <Trash2 size={14} aria-hidden />
                </button>
              </div>
              <p className="text-muted">
                {[ends.get(farEnd), sweepFacts(sweep, unit), name, by, note]
                  .filter(Boolean)
                  .join('; ')}
              </p>
            </li>
          )
        })}
      </ul>
    </section>
  )
}
