import { dayText } from '@saltline/contract'
import { readReflections, REFERENCE_OHM, type Reflections } from '@saltline/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { call } from '../platform/api/client.ts'
import { lineSweepsQuery } from '../platform/api/lineSweepQueries.ts'
import { errorText } from '../platform/errorText.ts'
import { SWEEP_FILES, sweepText } from '../model/sweepFile.ts'
import { FileButton } from '../ui/FileButton.tsx'
import { Problem } from '../ui/Problem.tsx'
import type { Subject } from './worksheet.ts'

/** Fills a sheet from a sweep of an open or shorted line: a file, or one that was kept at this piece. */
export function SweepSource({
  subject,
  onSweep,
}: {
  subject: Subject | null
  /** @param farEnd what it was, of a kept one */
  onSweep: (sweep: Reflections, farEnd: 'open' | 'short' | null) => void
}) {
  const [problem, setProblem] = useState<string | null>(null)
  const place = subject?.place
  const { data: all = [] } = useQuery({
    ...lineSweepsQuery(place?.chainId ?? ''),
    enabled: !!place,
  })
  const kept = all.filter(
    ({ before, farEnd }) => before === place?.stageId && (farEnd === 'open' || farEnd === 'short'),
  )
  const attempt = (run: () => Promise<void>) =>
    void run()
      .then(() => setProblem(null))
      .catch((error: unknown) => setProblem(errorText(error)))
  const take = (file: File) =>
    attempt(async () => {
      onSweep(readReflections(await sweepText(file), REFERENCE_OHM), null)
    })
  return (
    <div className="flex flex-wrap items-end gap-2">
      <FileButton
        label="From a sweep (.s1p)"
        field="Sweep file of the line"
        accept={SWEEP_FILES}
        onFile={take}
      />
      {kept.length > 0 && (
        <label className="text-xs text-muted">
          or one that was kept
          <select
            className="field mt-0.5 text-sm"
            value=""
            onChange={({ target }) =>
              attempt(async () => {
                const sweepId = target.value
                const { farEnd, ...sweep } = await call('GET /line-sweeps/:sweepId', {
                  params: { sweepId },
                })
                onSweep(sweep, farEnd === 'short' ? 'short' : 'open')
              })
            }
          >
            <option value="" disabled>
              choose…
            </option>
            {kept.map(({ id, readAt, alone, farEnd, name }) => (
              <option key={id} value={id}>
                {[dayText(readAt), alone && 'alone', farEnd, name].filter(Boolean).join(', ')}
              </option>
            ))}
          </select>
        </label>
      )}
      <Problem text={problem} />
    </div>
  )
}
