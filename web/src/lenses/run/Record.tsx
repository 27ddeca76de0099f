import { chainAddress } from '../../editor/useChainAddress.ts'
import { clockText, dayText, type Run } from '@saltline/contract'
import { formatFrequency, formatPower, formatSwr } from '@saltline/core'
import { useQuery } from '@tanstack/react-query'
import { Printer } from 'lucide-react'
import { Link } from 'react-router'
import type { LensProps } from '../../editor/lens.ts'
import { entryFigure, lastEntry } from '../../model/runs.ts'
import { runsQuery } from '../../platform/api/runQueries.ts'
import { useUnits } from '../../platform/preferences.ts'

/** A run that has ended: every step with what was read, beside what was expected and what it was last time. */
export function Record({
  run,
  chainId,
  station,
  onLeave,
}: LensProps & { run: Run; onLeave: () => void }) {
  const { power } = useUnits()
  const { data: runs } = useQuery(runsQuery(chainId))
  const before = runs?.find(
    (each) =>
      each.sheetId === run.sheetId &&
      each.channelId === run.channelId &&
      each.outcome !== 'running' &&
      each.startedAt < run.startedAt,
  )
  const stops = run.entries.filter(({ stop }) => stop)
  return (
    <div className="printable px-5 py-4">
      <div className="mb-3 flex flex-wrap items-center gap-2 print:hidden">
        <button type="button" className="link mr-2 min-h-6" onClick={onLeave}>
          all sheets
        </button>
        {run.roundId && (
          <Link
            className="link mr-2"
            to={`${chainAddress(station.id, chainId, 'log')}?round=${run.roundId}`}
          >
            its readings in the log
          </Link>
        )}
        <button type="button" className="button" onClick={() => window.print()}>
          <Printer size={14} aria-hidden /> Print
        </button>
      </div>
      <h2 className="text-lg font-bold">
        {run.title}: {run.outcome === 'stopped' ? '▲ stopped' : 'done'}
      </h2>
      <p className="text-muted">
        {formatFrequency(run.frequencyHz)}, {dayText(run.startedAt)}, {clockText(run.startedAt)} to{' '}
        {clockText(run.changedAt)}
        {run.by && `, by ${run.by}`}
      </p>
      {run.begunDespite && (
        <div className="mt-1 text-danger">
          ▲ Begun although its sheet was dangerous on this chain: “{run.begunDespite.why}”
          <ul className="list-disc pl-6 text-sm">
            {run.begunDespite.dangers.map((danger, i) => (
              <li key={i}>{danger}</li>
            ))}
          </ul>
        </div>
      )}
      {stops.map((entry, i) => (
        <p key={i} className="mt-1 text-danger">
          ▲ {titleOf(run, entry.stepId)}: {entry.stop!.why}{' '}
          {entry.stop!.wentOn ? 'Gone on all the same.' : 'Stopped here.'}
        </p>
      ))}
      <div className="mt-3 overflow-x-auto">
        <table className="w-full max-w-4xl text-sm" aria-label="Steps of the run">
          <thead className="text-left text-muted">
            <tr className="border-b border-rule [&>th]:py-1 [&>th]:pr-3 [&>th]:font-normal">
              <th scope="col">time</th>
              <th scope="col">step</th>
              <th scope="col">what was read or done</th>
              <th scope="col">expected</th>
              {before && <th scope="col">on {dayText(before.startedAt)}</th>}
            </tr>
          </thead>
          <tbody>
            {run.entries.map((entry, i) => {
              const then = before && lastEntry(before, entry.stepId)
              return (
                <tr key={i} className="border-b border-rule align-top [&>td]:py-1 [&>td]:pr-3">
                  <td className="whitespace-nowrap">{clockText(entry.at)}</td>
                  <td>{titleOf(run, entry.stepId)}</td>
                  <td>
                    {entryFigure(entry, power) || '✓'}
                    {entry.words && entry.outcome === 'skipped' && `: ${entry.words}`}
                  </td>
                  <td className="text-muted">
                    {entry.lowW != null &&
                      entry.highW != null &&
                      `${formatPower(entry.lowW, power)} to ${formatPower(entry.highW, power)}`}
                    {entry.lowW == null &&
                      entry.expectedSwr != null &&
                      formatSwr(entry.expectedSwr)}
                  </td>
                  {before && <td className="text-muted">{then && entryFigure(then, power)}</td>}
                </tr>
              )
            })}
          </tbody>
        </table>
      </div>
    </div>
  )
}

const titleOf = (run: Run, stepId: string): string =>
  run.steps.find(({ id }) => id === stepId)?.title ?? stepId
