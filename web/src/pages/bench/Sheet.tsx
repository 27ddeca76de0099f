import { dayText, type Measurement, type Station } from '@saltline/contract'
import { InputError } from '@saltline/core'
import { Trash2 } from 'lucide-react'
import { useMemo } from 'react'
import { act } from '../../platform/act.ts'
import { putBackIntoLog, removeFromLog } from '../../platform/api/logQueries.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { Setup } from '../../worksheets/Setup.tsx'
import type { AnyWorksheet } from '../../worksheets/sheets/index.ts'
import { useTyped } from '../../worksheets/typed.ts'
import { type SheetResult, type Subject, withRange } from '../../worksheets/worksheet.ts'
import { KeepSheet } from './KeepSheet.tsx'
import { ResultOf } from './SheetResult.tsx'

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
          <ResultOf
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
          <KeepSheet
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
