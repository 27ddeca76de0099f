import { dayText, type Measurement } from '@saltline/contract'
import {
  type CableVerdict,
  decimals,
  formatPercent,
  judgeCable,
  sinceLastTime,
} from '@saltline/core'
import { same } from '../../model/same.ts'
import { ChartView } from '../../ui/chart/ChartView.tsx'
import { FigureList } from '../../ui/FigureList.tsx'
import type { SheetResult, Subject } from '../../worksheets/worksheet.ts'
import { ResultTable } from './ResultTable.tsx'
import { sheetChart } from './sheetChart.ts'

/** What a sheet comes to: the answer, what it means for the cable, what changed since last time, and how it is worked out. */
export function ResultOf({
  result,
  inputs,
  subject,
  kept,
  from,
}: {
  result: SheetResult
  inputs: Record<string, unknown>
  subject: Subject | null
  kept: readonly Measurement[]
  from: Measurement | undefined
}) {
  const { answer, rows, because, working, mind, lead, sheetDb, chart } = result
  const verdict =
    lead && sheetDb !== undefined && subject
      ? judgeCable({ ...lead, median: lead.value }, sheetDb)
      : null
  // A sheet that was kept just now is no last time.
  const before =
    from ??
    kept.find(
      (own) =>
        own.stageId !== undefined &&
        own.stageId === subject?.place?.stageId &&
        !same(own.inputs, inputs),
    )
  const then = before?.result
  const since =
    lead && then && then.what === lead.what && nearly(then.frequencyHz, lead.frequencyHz)
      ? sinceLastTime({ ...lead, median: lead.value }, { ...then, median: then.value })
      : null
  return (
    <div>
      <p role="status" className="text-[18px] leading-snug">
        {answer}
      </p>
      {verdict && (
        <p className={`mt-1 ${verdictTone[verdict.verdict]}`}>
          <b>{verdictName[verdict.verdict]}</b>: {decimals(verdict.factor, 2)} times the data
          sheet’s {decimals(sheetDb!, 2)}&nbsp;dB. {verdictAdvice[verdict.verdict]}
          {verdict.middle !== verdict.verdict &&
            ` By its middle value it would be “${verdictName[verdict.middle].toLowerCase()}”; the range from ${decimals(lead!.low / sheetDb!, 2)} to ${decimals(lead!.high / sheetDb!, 2)} times leaves that open. A finer reading (one meter on one range, a longer piece, a higher frequency) would settle it.`}
        </p>
      )}
      {since && before && (
        <p className="mt-1 text-sm">
          Since {dayText(before.measuredAt)}: {since.db < 0 ? '−' : '+'}
          {decimals(Math.abs(since.db), 2)}
          {lead!.unit && `\u00a0${lead!.unit}`},{' '}
          {since.real
            ? 'more than the uncertainty of both readings'
            : 'within the uncertainty of both readings'}
          .
        </p>
      )}
      {mind && <p className="mt-1 text-sm text-caution">▲ {mind}</p>}
      {rows.length > 0 && (
        <div className="mt-3 max-w-lg">
          <FigureList rows={rows} />
        </div>
      )}
      {result.table && <ResultTable table={result.table} />}
      {chart && (
        <div className="relative mt-2 h-40 max-w-lg">
          <ChartView chart={sheetChart(chart)} />
        </div>
      )}
      {because && because.length > 0 && (
        <p className="mt-2 text-sm text-muted">
          The range is 5 to 95 %, and comes from{' '}
          {because.map(({ name, share }) => `${name} (${formatPercent(share)})`).join(', ')}.
        </p>
      )}
      <details className="mt-2 text-sm">
        <summary className="link cursor-pointer">working</summary>
        <ul className="mt-1 space-y-0.5 text-muted">
          {working.map((step) => (
            <li key={step}>{step}</li>
          ))}
        </ul>
      </details>
    </div>
  )
}

const verdictAdvice: Record<CableVerdict, string> = {
  'too good': 'Less than such a cable can lose: check its length, its type, and the readings.',
  'as new': 'This reading agrees with a new cable.',
  'cannot tell': 'The reading is too coarse to tell a new cable from a worn one.',
  aged: 'More than a new one: aged. Look for water, a kink or a worn connector, and measure it again in a year.',
  replace: '1.5 times a new one or more: replace its connectors first, then the cable.',
}

const verdictName: Record<CableVerdict, string> = {
  'too good': 'Too good to be true',
  'as new': 'Same as new',
  'cannot tell': 'Cannot tell',
  aged: 'Aged',
  replace: 'Replace',
}

const verdictTone: Record<CableVerdict, string> = {
  'too good': 'text-caution',
  'as new': 'text-tide',
  'cannot tell': 'text-muted',
  aged: 'text-caution',
  replace: 'text-danger',
}

const nearly = (a: number | undefined, b: number | undefined): boolean =>
  a === undefined || b === undefined ? a === b : Math.abs(a / b - 1) < 0.02
