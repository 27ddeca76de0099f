import { clockText, dayText, type LineSweep } from '@saltline/contract'
import { type FarEnd, formatFrequency, type LengthUnit, type SweepFigures } from '@saltline/core'
import { useMemo, useState } from 'react'
import { useSearchParams } from 'react-router'
import { useLead } from '../../editor/lead.ts'
import type { LensProps } from '../../editor/lens.ts'
import { planWords, POINTS, reachWords } from '../../model/alongLine.ts'
import { sinceWords, sweepAnswer } from '../../model/lineSweeps.ts'
import { SWEEP_FILES } from '../../model/sweepFile.ts'
import { same } from '../../model/same.ts'
import { act } from '../../platform/act.ts'
import { ChartView } from '../../ui/chart/ChartView.tsx'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { FileButton } from '../../ui/FileButton.tsx'
import { ReflectionChart } from '../../ui/ReflectionChart.tsx'
import { FrequencyField, PlainField } from '../../ui/quantities.tsx'
import { useUnits } from '../../platform/preferences.ts'
import { AnalyserErrors } from './AnalyserErrors.tsx'
import { FittedParts } from './FittedParts.tsx'
import { KeepSweep } from './KeepSweep.tsx'
import { KeptSweeps } from './KeptSweeps.tsx'
import { farEnds } from '../../model/farEnds.ts'
import { bandChart, lineChart, trailsOf, type View, views } from './lineChart.ts'
import { type LineSweepLook, useLineSweep } from './useLineSweep.ts'

/** Which places along the line reflect more than they should? */
export function LineLens({ chainId, document: now, chain, onSelect, put, edit }: LensProps) {
  const lead = useLead()
  const { length } = useUnits()
  const [search] = useSearchParams()
  const ids = { sweep: search.get('sweep'), before: search.get('before') }
  const advised = farEnds.find(({ value }) => value === search.get('end'))?.value ?? null
  const look = useLineSweep(chainId, now, chain, ids, advised)
  const { along, document, stages, looks, farEnd, file, shown, kept = [], fitRequest } = look
  const [view, setView] = useState<View>('distance')
  const measured = file !== null || shown !== null
  const names = useMemo(
    () => [
      ...stages.map(({ name }) => name),
      farEnd === 'antenna' ? document.load.name : 'far end',
    ],
    [stages, document, farEnd],
  )
  const chart = useMemo(
    () =>
      along &&
      (view === 'distance'
        ? lineChart(along, names, measured, length)
        : view === 'reflection'
          ? null
          : bandChart(along, view)),
    [along, names, measured, length, view],
  )
  // What is held against the chain of another day is nothing to change the present one by.
  const present = file !== null || (shown !== null && same(document, now))
  if (looks.length === 0)
    return <p className="max-w-2xl px-5 py-6">This chain has no cable to look along.</p>
  const show = (id: string | null) => {
    look.drop()
    put({ sweep: id })
  }
  return (
    <div className="grid two:grid-cols-[minmax(290px,4fr)_minmax(0,9fr)]">
      <div className="space-y-3 px-5 py-4 two:border-r two:border-rule">
        {lead(
          <p role="status" className="min-h-12 text-[18px] leading-snug">
            {look.problem !== null ? (
              <span className="text-caution">▲ {look.problem}</span>
            ) : (
              answerOf(look, length).map((words) => (
                <span key={words} className="block">
                  {words}
                </span>
              ))
            )}
          </p>,
        )}
        {shown && (
          <p className="text-sm">
            Sweep of {dayText(shown.readAt)}, {clockText(shown.readAt)}, {shown.place}
            {look.asThen &&
              !same(look.asThen.document, now) &&
              ', held against the chain of that day'}
            .
          </p>
        )}
        {measured && along && look.before && (
          <Since then={look.before} now={along.figures} farEnd={farEnd} unit={length} />
        )}
        {along && <p className="text-sm text-muted">{reachWords(along, along, length)}</p>}
        {along && !along.endKnown && (
          <p className="text-sm text-muted">
            What {document.load.name} reflects over this span is not known, so no reflection is
            expected of it: judge the line before its end.
          </p>
        )}
        {!shown && (
          <>
            <ChoiceField
              label="The analyser is connected"
              value={look.look!.key}
              options={looks.map(({ key, name }) => ({ value: key, label: name }))}
              onChange={(key) => {
                look.setAt(key)
                onSelect(null)
              }}
            />
            <ChoiceField
              label="At the far end"
              value={farEnd}
              options={look.ends}
              onChange={look.setFarEnd}
            />
          </>
        )}
        <Files look={look} onOpen={() => put({ sweep: null })} onClose={() => show(null)} />
        {file && along && look.look && (
          <KeepSweep
            key={file.id}
            {...{ chainId, farEnd, file }}
            look={look.look}
            onKept={(id, waits) => {
              if (!waits) show(id)
            }}
          />
        )}
        {!measured && <Plan look={look} />}
        {measured && <AnalyserErrors kept={shown?.analyser} />}
        {!look.possible && (
          <p className="text-sm text-caution">
            ▲ The sweep must end above {formatFrequency(look.plan.lowHz)}.
          </p>
        )}
        <KeptSweeps
          sweeps={kept}
          shown={shown?.id ?? null}
          before={ids.before}
          unit={length}
          onShow={show}
          onBefore={(id) => put({ before: id })}
        />
        <p className="text-sm text-muted">
          Take the transmitter off the line first, and see that nobody can key it. A long wire or a
          mast may carry static charge or another station’s power: discharge it before the analyser
          is connected. Climbing is for those who are trained for it.
        </p>
      </div>
      <div className="min-w-0 one:order-first">
        <section aria-label="Along the line" className="flex h-[400px] flex-col px-5 py-3">
          <div className="flex flex-wrap items-baseline justify-between gap-x-4 text-sm text-muted">
            <h2>
              {view === 'distance'
                ? 'Reflection against distance, dB, corrected for the loss of the line'
                : view === 'reflection'
                  ? 'Reflection at the analyser; expected dashed, before dotted'
                  : 'Over frequency, at the analyser'}
            </h2>
            <span role="group" aria-label="Drawn as" className="flex flex-wrap gap-1">
              {views.map((each) => (
                <button
                  key={each}
                  type="button"
                  className="quiet !min-h-6 text-sm aria-pressed:font-bold aria-pressed:text-ink aria-pressed:underline"
                  aria-pressed={each === view}
                  onClick={() => setView(each)}
                >
                  {each}
                </button>
              ))}
            </span>
          </div>
          <div className="relative min-h-0 flex-1">
            {chart && <ChartView key={view === 'distance' ? 'm' : 'Hz'} chart={chart} />}
            {view === 'reflection' && along && (
              <ReflectionChart {...trailsOf(along)} colour="var(--returned)" />
            )}
          </div>
        </section>
        {fitRequest && along && (
          <FittedParts
            request={fitRequest}
            stages={stages}
            load={document.load}
            swept={{ day: (shown ?? file)!.readAt.slice(0, 10), name: (shown ?? file)!.name }}
            unit={length}
            edit={present ? edit : null}
          />
        )}
      </div>
    </div>
  )
}

/** What the sweep says, a sentence each; the first is the answer. */
function answerOf(
  { along, stages, look, farEnd, file, shown }: LineSweepLook,
  length: LengthUnit,
): string[] {
  if (!along) return ['Computing…']
  if (!file && !shown) return [planWords(along, look!, length)]
  return sweepAnswer(along, stages, farEnd, length)
}

/** What moved since an earlier sweep. */
function Since({
  then,
  now,
  farEnd,
  unit,
}: {
  then: LineSweep
  now: SweepFigures
  farEnd: FarEnd
  unit: LengthUnit
}) {
  const moved = sinceWords(then, now, farEnd, unit)
  return (
    <section aria-label="Then and now" className="text-sm">
      <h2 className="font-bold">Since {dayText(then.readAt)}</h2>
      {moved.length === 0 && <p>Nothing moved by more than the analyser may be off.</p>}
      <ul className="list-disc pl-5">
        {moved.map((words) => (
          <li key={words}>{words}</li>
        ))}
      </ul>
    </section>
  )
}

function Files({
  look,
  onOpen,
  onClose,
}: {
  look: LineSweepLook
  onOpen: () => void
  onClose: () => void
}) {
  const { file, shown } = look
  return (
    <div className="flex flex-wrap items-center gap-2">
      <FileButton
        label={file || shown ? 'Another sweep' : 'Sweep file'}
        field="Sweep along the line"
        accept={SWEEP_FILES}
        onFile={(own) => {
          onOpen()
          void act(() => look.take(own))
        }}
      />
      {(file ?? shown) && (
        <button type="button" className="quiet" onClick={onClose}>
          {file ? `Remove ${file.name}` : 'Close it'}
        </button>
      )}
    </div>
  )
}

function Plan({ look: { plan, setTyped } }: { look: LineSweepLook }) {
  return (
    <fieldset className="grid grid-cols-3 gap-2">
      <legend className="mb-1 text-sm text-muted">Sweep to plan</legend>
      <FrequencyField label="From" value={plan.lowHz} onChange={(lowHz) => setTyped({ lowHz })} />
      <FrequencyField label="To" value={plan.highHz} onChange={(highHz) => setTyped({ highHz })} />
      <PlainField
        label="Points"
        whole
        value={plan.points}
        step={100}
        min={POINTS[0]}
        max={POINTS[1]}
        onChange={(points) => setTyped({ points })}
      />
    </fieldset>
  )
}
