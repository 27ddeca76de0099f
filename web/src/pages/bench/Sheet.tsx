import { same } from '../../model/same.ts'
import { act } from '../../platform/act.ts'
import { dayText, type Measurement, type Station } from '@saltline/contract'
import {
  type CableVerdict,
  decimals,
  formatPercent,
  InputError,
  judgeCable,
  sinceLastTime,
} from '@saltline/core'
import { Trash2 } from 'lucide-react'
import { useMemo, useState } from 'react'
import { toast } from 'sonner'
import { addGear } from '../../platform/api/queries.ts'
import { keepMeasurement, putBackIntoLog, removeFromLog } from '../../platform/api/logQueries.ts'
import { errorText } from '../../platform/errorText.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { FigureList } from '../../ui/FigureList.tsx'
import { Setup } from '../../worksheets/Setup.tsx'
import type { AnyWorksheet } from '../../worksheets/sheets/index.ts'
import { ResultTable } from './ResultTable.tsx'
import { sheetChart } from './sheetChart.ts'
import { ChartView } from '../../ui/chart/ChartView.tsx'
import { keepCalibration, makeOwnCable, takeAsLoss, takeAsVelocityFactor } from './subjects.ts'
import { useTyped } from '../../worksheets/typed.ts'
import { type SheetResult, type Subject, withRange } from '../../worksheets/worksheet.ts'
import { Problem } from '../../ui/Problem.tsx'

interface Props {
  sheet: AnyWorksheet
  station: Station
  subjects: readonly Subject[]
  subject: Subject | null
  /** A kept one that is taken up again. */
  from: Measurement | undefined
  /** All that were kept of this kind, newest first. */
  kept: readonly Measurement[]
  onSubject: (id: string | null) => void
  onFrom: (measurement: Measurement) => void
}

type Reduced = { ok: true; result: SheetResult } | { ok: false; message: string }

/** One worksheet: set-up, steps and fields on the left, what they come to on the right. */
export function Sheet(props: Props) {
  const { sheet, station, subjects, subject, from, kept } = props
  const { inputs, put, clear, changed } = useTyped(
    `${station.id} ${sheet.kind} ${from?.id ?? ''}`,
    useMemo(() => ({ ...sheet.initial, ...from?.inputs }), [sheet, from]),
  )
  const reduced = useMemo((): Reduced => {
    try {
      return { ok: true, result: sheet.reduce(inputs, station, subject) }
    } catch (error) {
      if (!(error instanceof InputError)) throw error
      return { ok: false, message: error.message }
    }
  }, [sheet, inputs, station, subject])
  const { Fields } = sheet
  return (
    <div className="grid content-start gap-x-8 gap-y-4 px-5 py-4 xl:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
      <section aria-label={sheet.title} className="space-y-3">
        <h2 className="text-lg font-bold">{sheet.title}</h2>
        <Setup rows={sheet.setup(inputs)} title={sheet.title} />
        <ol className="list-decimal space-y-0.5 pl-5 text-sm">
          {sheet.steps.map((step) => (
            <li key={step}>{step}</li>
          ))}
        </ol>
        {sheet.caution && <p className="text-sm text-caution">▲ {sheet.caution}</p>}
        {sheet.aboutSection && (
          <ChoiceField
            label="Under test"
            value={subject?.key ?? ''}
            options={[
              { value: '', label: 'a cable of unknown class, in no chain' },
              ...subjects.map(({ key, group, name }) => ({
                value: key,
                label: `${group}: ${name}`,
              })),
            ]}
            onChange={(id) => props.onSubject(id || null)}
          />
        )}
        <Fields inputs={inputs} put={put} station={station} subject={subject} />
        {changed && (
          <button type="button" className="link text-sm" onClick={clear}>
            clear the sheet
          </button>
        )}
      </section>
      <section aria-label="Result" className="space-y-4">
        {reduced.ok ? (
          <Result
            result={reduced.result}
            inputs={inputs}
            subject={subject}
            kept={kept}
            from={from}
          />
        ) : (
          <p role="status" className="mt-8 text-muted">
            {reduced.message}
          </p>
        )}
        {reduced.ok && (
          <Keep
            sheet={sheet}
            station={station}
            subject={subject}
            inputs={inputs}
            result={reduced.result}
          />
        )}
        <Proof sheet={sheet} />
        <Kept kept={kept} onFrom={props.onFrom} />
      </section>
    </div>
  )
}

function Result({
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

function Keep({
  sheet,
  station,
  subject,
  inputs,
  result,
}: Pick<Props, 'sheet' | 'station' | 'subject'> & {
  inputs: Record<string, unknown>
  result: SheetResult
}) {
  const [problem, setProblem] = useState<string | null>(null)
  const doIt = async (run: () => Promise<string>) => {
    try {
      toast(await run())
      setProblem(null)
    } catch (error) {
      setProblem(errorText(error))
    }
  }
  const { loss, velocityFactor } = result
  const lengthM = (inputs['lengthM'] as number | null | undefined) ?? subject?.lengthM
  return (
    <div>
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className="button button-main"
          onClick={() =>
            void doIt(async () => {
              await keepMeasurement(station.id, {
                kind: sheet.kind,
                title: subject ? `${subject.group}: ${subject.name}`.slice(0, 80) : sheet.title,
                ...subject?.place,
                inputs,
                result: result.lead,
              })
              return 'The sheet is saved'
            })
          }
        >
          Save
        </button>
        {subject?.place && loss && (subject.kind === 'pad' || lengthM) && (
          <button
            type="button"
            className="button"
            onClick={() => void doIt(() => takeAsLoss(subject, lengthM ?? 0, result))}
          >
            Use as this section’s loss
          </button>
        )}
        {subject?.place && subject.kind === 'line' && velocityFactor !== undefined && (
          <button
            type="button"
            className="button"
            onClick={() => void doIt(() => takeAsVelocityFactor(subject, velocityFactor))}
          >
            Use as this section’s velocity factor
          </button>
        )}
        {(!subject || subject.kind === 'line') && loss && loss.length > 1 && lengthM && (
          <button
            type="button"
            className="button"
            onClick={() =>
              void doIt(async () => {
                const { name } = await makeOwnCable(station, subject, lengthM, loss)
                return `“${name}” is among the station’s cables now`
              })
            }
          >
            Make this a custom cable
          </button>
        )}
        {result.calibration && (
          <button
            type="button"
            className="button"
            onClick={() => void doIt(() => keepCalibration(station, result.calibration!))}
          >
            Keep with {result.calibration.name}
          </button>
        )}
        {result.cables?.map(({ name, cable }) => (
          <button
            key={name}
            type="button"
            className="button"
            onClick={() =>
              void doIt(async () => {
                await addGear(station.id, { kind: 'cable', document: cable })
                return `“${name}” is among the station’s cables now`
              })
            }
          >
            “{name}” as a custom cable
          </button>
        ))}
      </div>
      <Problem text={problem} />
    </div>
  )
}

const Proof = ({ sheet }: { sheet: AnyWorksheet }) => (
  <div className="grid max-w-2xl gap-4 border-t border-rule pt-3 text-sm sm:grid-cols-2">
    <div>
      <h3 className="text-muted">It shows</h3>
      <ul className="space-y-0.5">
        {sheet.proves.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </div>
    <div>
      <h3 className="text-muted">It cannot show</h3>
      <ul className="space-y-0.5">
        {sheet.doesNot.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </div>
  </div>
)

function Kept({ kept, onFrom }: Pick<Props, 'kept' | 'onFrom'>) {
  if (kept.length === 0) return null
  return (
    <section aria-label="Saved sheets" className="max-w-2xl border-t border-rule pt-3">
      <h3 className="mb-1 text-sm text-muted">Kept</h3>
      <ul className="text-sm">
        {kept.slice(0, 12).map((own) => (
          <li key={own.id} className="flex items-center gap-3 border-b border-rule">
            <span className="w-24 text-muted">{dayText(own.measuredAt)}</span>
            <span className="flex-1">{own.title}</span>
            <span>{own.result && withRange(own.result, 2, own.result.unit)}</span>
            <button type="button" className="link" onClick={() => onFrom(own)}>
              repeat
            </button>
            <button
              type="button"
              className="quiet"
              aria-label={`Delete the sheet ${own.title} of ${dayText(own.measuredAt)}`}
              onClick={() =>
                void act(async () => {
                  await removeFromLog('measurements', own.id)
                  return {
                    said: 'The sheet is deleted.',
                    undo: () => putBackIntoLog('measurements', own.id),
                  }
                })
              }
            >
              <Trash2 size={14} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}
