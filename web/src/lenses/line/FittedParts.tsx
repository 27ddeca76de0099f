import type { StageDocument, LoadDocument } from '@saltline/contract'
import type { LengthUnit } from '@saltline/core'
import type { LineFitRequest } from '../../compute/tasks/lineFit.ts'
import { useTask } from '../../compute/useTask.ts'
import type { Edit } from '../../model/edits.ts'
import { fitDoubts, type FitRow, fitRows, type Swept } from '../../model/sweepFit.ts'

/** What a sweep says of each part, and what of it the chain may take over. */
export function FittedParts({
  request,
  stages,
  load,
  swept,
  unit,
  edit,
}: {
  request: LineFitRequest
  /** From the plane of the sweep on. */
  stages: readonly StageDocument[]
  load: LoadDocument
  swept: Swept
  unit: LengthUnit
  /** Null where the chain of another day is looked at: nothing of it can be changed. */
  edit: ((change: Edit) => void) | null
}) {
  const { result: fit, run, problem } = useTask('lineFit', request)
  const rows = fit ? fitRows(fit, stages, load, swept, unit) : []
  return (
    <section aria-label="Part by part" className="border-t border-rule px-5 py-3 text-sm">
      <h2 className="mb-1 text-base font-bold">What the sweep says of each part</h2>
      {run?.state === 'running' && <p className="text-muted">Fitting the chain to it…</p>}
      {problem !== null && <p className="text-caution">▲ {problem}</p>}
      {run?.state === 'done' && !fit && (
        <p>
          What {load.name} reflects over the sweep is not known, with its phase, so parts cannot be
          told from it. Sweep once more with the far end open or shorted.
        </p>
      )}
      {rows.length > 0 && <Rows rows={rows} edit={edit} />}
      {fit && (
        <ul className="mt-2 space-y-0.5 text-muted">
          {fitDoubts(fit, stages).map((words) => (
            <li key={words}>{words}</li>
          ))}
        </ul>
      )}
    </section>
  )
}

function Rows({ rows, edit }: { rows: readonly FitRow[]; edit: ((change: Edit) => void) | null }) {
  return (
    <table className="w-full">
      <thead className="text-muted">
        <tr className="border-b border-rule text-left [&>th]:py-1 [&>th]:pr-3 [&>th]:font-normal">
          <th scope="col">part</th>
          <th scope="col">written down</th>
          <th scope="col">by the sweep</th>
          <th scope="col">range, nine times in ten</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ part, what, written, found, range, off, take }) => (
          <tr
            key={`${part} ${what}`}
            className="border-b border-rule align-baseline [&>*]:py-1 [&>*]:pr-3"
          >
            <th scope="row" className="text-left font-normal">
              {part} <span className="text-muted">{what}</span>
            </th>
            <td>{written}</td>
            <td className={`sm:whitespace-nowrap ${off ? 'font-bold' : ''}`}>
              {off && <span className="text-caution">▲ </span>}
              {found}
            </td>
            <td className="text-muted">
              {range}
              {take && edit && (
                <button
                  type="button"
                  className="button ml-3 !text-ink max-sm:mt-1 max-sm:ml-0 max-sm:h-auto max-sm:text-left max-sm:whitespace-normal"
                  onClick={() => edit(take.edit)}
                >
                  {take.label}
                </button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
