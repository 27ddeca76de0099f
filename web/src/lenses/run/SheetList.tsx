import { missingFor, type RunSheet } from '@saltline/core'
import { useQuery } from '@tanstack/react-query'
import { Copy, Pencil, Play, Printer } from 'lucide-react'
import { useState } from 'react'
import { Link, useNavigate, useSearchParams } from 'react-router'
import type { LensProps } from '../../editor/lens.ts'
import { clockText, dayText } from '@saltline/contract'
import { copyOfSheet, ownSheets, sheetsOf } from '../../model/ownSheets.ts'
import { needText } from '../../model/runs.ts'
import { addGear } from '../../platform/api/queries.ts'
import { runsQuery } from '../../platform/api/runQueries.ts'
import { errorText } from '../../platform/errorText.ts'
import { Problem } from '../../ui/Problem.tsx'
import { BeginDespite } from './BeginDespite.tsx'
import { useBegin } from './useBegin.ts'

/** The sheets that fit this chain, runs that wait to be gone on with, and the record. */
export function SheetList(props: LensProps) {
  const { chainId, document, channel, station, put } = props
  const { begin, preparing, problem: notBegun, asked, answer } = useBegin(props)
  const { data: runs } = useQuery(runsQuery(chainId))
  const [problem, setProblem] = useState<string | null>(null)
  const navigate = useNavigate()
  const own = new Set(ownSheets(station).map(({ id }) => id))
  const copy = async (sheet: RunSheet) => {
    try {
      const { id } = await addGear(station.id, { kind: 'sheet', document: copyOfSheet(sheet) })
      await navigate(`/station/${station.id}/sheets/${id}`)
    } catch (error) {
      setProblem(errorText(error))
    }
  }
  // Who comes for one sheet begins it with the next press.
  const wanted = useSearchParams()[0].get('sheet')
  const open = runs?.filter(({ outcome }) => outcome === 'running') ?? []
  const ended = runs?.filter(({ outcome }) => outcome !== 'running') ?? []
  const all = sheetsOf(station).map((sheet) => ({ sheet, missing: missingFor(document, sheet) }))
  const fitting = all.filter(({ missing }) => missing.length === 0)
  const others = all.filter(({ missing }) => missing.length > 0)
  return (
    <div className="grid gap-x-10 gap-y-6 px-5 py-4 two:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
      {asked && (
        <BeginDespite {...asked} document={document} onAnswer={(why) => void answer(why)} />
      )}
      <div>
        {open.length > 0 && (
          <section aria-label="Unfinished runs" className="mb-4">
            <h2 className="mb-1 text-base font-bold">Go on</h2>
            {open.map((run) => (
              <button
                key={run.id}
                type="button"
                className="button button-main mr-2 mb-2 min-h-10"
                onClick={() => put({ run: run.id })}
              >
                {run.title}, step {run.next + 1} of {run.steps.length}
              </button>
            ))}
          </section>
        )}
        <h2 className="text-base font-bold">Sheets for this chain</h2>
        <p className="mb-2 text-sm text-muted">
          Each walks through a procedure, says what the meter should show, and keeps what it showed.
        </p>
        <Problem text={problem ?? notBegun} />
        <ul>
          {fitting.map(({ sheet }) => (
            <li
              key={sheet.id}
              className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-rule py-2"
            >
              <span className="min-w-52 flex-1">
                <b>{sheet.title}</b>
                <span className="block text-sm text-muted">{sheet.purpose}</span>
              </span>
              <button
                type="button"
                className={`button min-h-10 ${sheet.id === wanted ? 'button-main' : ''}`}
                autoFocus={sheet.id === wanted}
                aria-label={`Begin: ${sheet.title}`}
                disabled={preparing !== null}
                onClick={() => void begin(sheet)}
              >
                <Play size={14} aria-hidden /> {preparing === sheet.id ? 'Preparing …' : 'Begin'}
              </button>
              <Link
                className="quiet min-h-10"
                aria-label={`Print: ${sheet.title}`}
                to={`/station/${station.id}/chain/${chainId}/sheet/${sheet.id}?channel=${channel.id}`}
              >
                <Printer size={15} aria-hidden />
              </Link>
              {own.has(sheet.id) ? (
                <Link
                  className="quiet min-h-10"
                  aria-label={`Change: ${sheet.title}`}
                  to={`/station/${station.id}/sheets/${sheet.id}`}
                >
                  <Pencil size={15} aria-hidden />
                </Link>
              ) : (
                <button
                  type="button"
                  className="quiet min-h-10"
                  aria-label={`Copy and change: ${sheet.title}`}
                  onClick={() => void copy(sheet)}
                >
                  <Copy size={15} aria-hidden />
                </button>
              )}
            </li>
          ))}
        </ul>
        {others.length > 0 && (
          <p className="mt-3 max-w-2xl text-sm text-muted">
            Do not fit:{' '}
            {others
              .map(
                ({ sheet, missing }) => `${sheet.title.toLowerCase()} (needs ${needText(missing)})`,
              )
              .join('; ')}
            .
          </p>
        )}
      </div>
      <section aria-label="Record of runs">
        <h2 className="mb-1 text-base font-bold">Record</h2>
        {ended.length === 0 && <p className="text-sm text-muted">No run was finished yet.</p>}
        <ul className="text-sm">
          {ended.map((run) => (
            <li key={run.id} className="border-b border-rule py-1.5">
              <button
                type="button"
                className="link min-h-6 text-left"
                onClick={() => put({ run: run.id })}
              >
                {run.title}
              </button>
              <span className="block text-muted">
                {dayText(run.startedAt)}, {clockText(run.startedAt)}
                {run.by && `, ${run.by}`}, {run.outcome === 'stopped' ? '▲ stopped' : 'done'}
              </span>
            </li>
          ))}
        </ul>
      </section>
    </div>
  )
}
