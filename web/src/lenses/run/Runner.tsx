import { clockText, newId, type Run, type RunBody, type RunEntry } from '@saltline/contract'
import { useCallback, useEffect, useState } from 'react'
import type { LensProps } from '../../editor/lens.ts'
import { metersOf } from '../../model/places.ts'
import { bodyOf, entryFigure, lastEntry, withEntry } from '../../model/runs.ts'
import { ApiError } from '../../platform/api/client.ts'
import { enterRun } from '../../platform/outbox/enter.ts'
import { queryClient } from '../../platform/api/queries.ts'
import { errorText } from '../../platform/errorText.ts'
import { useUnits } from '../../platform/preferences.ts'
import { Problem } from '../../ui/Problem.tsx'
import { StepView } from './StepView.tsx'

/** A run that is on: one step at a time, every step kept on the server as soon as it is done. */
export function Runner(props: LensProps & { run: Run; onLeave: () => void }) {
  const { run, onLeave, document, onPick, channel } = props
  const { power } = useUnits()
  const [problem, setProblem] = useState<string | null>(null)
  // Until the run has gone on: once its next step is there, it can be pressed.
  const [saving, setSaving] = useState<Run | null>(null)
  const busy = saving === run
  const step = run.steps[run.next]!
  const meters = metersOf(props.station)

  // The channel of the step is the channel on the page: its figures stand on the spine.
  const wanted = document.channels.find(({ id }) => id === step.channelId)
  useEffect(() => {
    if (wanted && wanted.id !== channel.id) onPick(wanted.id)
  }, [wanted, channel.id, onPick])

  const save = useCallback(
    async (next: RunBody): Promise<boolean> => {
      setSaving(run)
      try {
        await enterRun(run, next)
        setProblem(null)
        return true
      } catch (error) {
        // Another device went on: what it did is shown, and what is typed here stays typed.
        if (error instanceof ApiError && error.problem.status === 409)
          await queryClient.invalidateQueries({ queryKey: ['run', run.id] })
        setProblem(errorText(error))
        return false
      } finally {
        setSaving((now) => (now === run ? null : now))
      }
    },
    [run],
  )
  const keep = (
    entry: Omit<RunEntry, 'id' | 'stepId' | 'at'>,
    then?: Parameters<typeof withEntry>[2],
    change: Partial<RunBody> = {},
  ) =>
    save({
      ...withEntry(
        bodyOf(run),
        { id: newId(), stepId: step.id, at: new Date().toISOString(), ...entry },
        then,
      ),
      ...change,
    })
  const back = () => void save({ ...bodyOf(run), next: Math.max(0, run.next - 1) })

  return (
    <div className="two:grid two:grid-cols-[300px_minmax(0,1fr)]">
      <nav aria-label="Steps" className="border-rule px-5 py-3 text-sm one:hidden two:border-r">
        <p className="mb-1 text-muted">{run.title}</p>
        <ol>
          {run.steps.map((each, i) => {
            const entry = lastEntry(run, each.id)
            return (
              <li
                key={each.id}
                aria-current={i === run.next ? 'step' : undefined}
                className={`flex gap-2 py-0.5 ${i === run.next ? 'font-bold' : i > run.next && !entry ? 'text-muted' : ''}`}
              >
                <span aria-hidden className="w-4 shrink-0">
                  {i === run.next
                    ? '▸'
                    : entry
                      ? entry.stop
                        ? '▲'
                        : entry.outcome === 'skipped'
                          ? '–'
                          : '✓'
                      : ''}
                </span>
                <span className="flex-1">{each.title}</span>
                {entry && (
                  <span className="shrink-0 font-normal text-muted">
                    {entryFigure(entry, power)}
                  </span>
                )}
              </li>
            )
          })}
        </ol>
      </nav>
      <div className="bg-paper">
        <div className="flex flex-wrap items-center justify-between gap-2 border-b border-rule px-5 py-2 text-sm text-muted">
          <span>
            step {run.next + 1} of {run.steps.length} · begun {clockText(run.startedAt)}
            {run.by && ` · by ${run.by}`}
          </span>
          <span className="flex flex-wrap items-center gap-2">
            {meters.length > 1 && (
              <label className="flex items-center gap-1.5">
                read with
                <select
                  className="field !w-auto"
                  value={run.instrumentId ?? meters[0]!.id}
                  onChange={({ target }) =>
                    void save({ ...bodyOf(run), instrumentId: target.value })
                  }
                >
                  {meters.map(({ id, document: { name } }) => (
                    <option key={id} value={id}>
                      {name}
                    </option>
                  ))}
                </select>
              </label>
            )}
            <button type="button" className="quiet" onClick={onLeave}>
              Leave, go on later
            </button>
          </span>
        </div>
        {run.begunDespite && (
          <p className="border-b border-rule px-5 py-2 text-sm text-danger">
            ▲ Begun although its sheet is dangerous on this chain: “{run.begunDespite.why}”
          </p>
        )}
        <div className="px-5 pt-2">
          <Problem text={problem} />
        </div>
        <StepView
          key={`${step.id} ${run.next} ${run.entries.length}`}
          {...props}
          step={step}
          busy={busy}
          onKeep={keep}
          onBack={run.next > 0 ? back : null}
          onGo={(next) => void save({ ...bodyOf(run), next })}
        />
      </div>
    </div>
  )
}
