import { type FarEnd, formatFrequency } from '@saltline/core'
import { Upload } from 'lucide-react'
import { useMemo, useRef, useState } from 'react'
import { useTask } from '../../compute/useTask.ts'
import { useLead } from '../../editor/lead.ts'
import type { LensProps } from '../../editor/lens.ts'
import {
  farEnds,
  planesAlong,
  planFor,
  planWords,
  POINTS,
  reachWords,
  seenWords,
} from '../../model/alongLine.ts'
import { act } from '../../platform/act.ts'
import { useUnits } from '../../platform/preferences.ts'
import { ChartView } from '../../ui/chart/ChartView.tsx'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { FrequencyField, PlainField } from '../../ui/quantities.tsx'
import { lineChart } from './lineChart.ts'

/** A larger file is no sweep. */
const MOST_BYTES = 8e6

/** A sweep that was looked at, as long as the page is open. */
interface Looked {
  name: string
  text: string
  plane: number
}
const looked = new Map<string, Looked>()

/** Which places along the line reflect more than they should? */
export function LineLens({ chainId, document, chain, onSelect }: LensProps) {
  const lead = useLead()
  const { length } = useUnits()
  const planes = useMemo(() => planesAlong(document), [document])
  const [file, setFile] = useState<Looked | null>(looked.get(chainId) ?? null)
  const [tooLarge, setTooLarge] = useState<string | null>(null)
  const [chosen, setPlane] = useState(file?.plane ?? planes[0]?.plane ?? 0)
  const plane = planes.some((each) => each.plane === chosen) ? chosen : (planes[0]?.plane ?? 0)
  const [farEnd, setFarEnd] = useState<FarEnd>('antenna')
  const [typed, setTyped] = useState<Partial<ReturnType<typeof planFor>>>({})
  const plan = useMemo(() => ({ ...planFor(document, plane), ...typed }), [document, plane, typed])
  const possible = planes.length > 0 && plan.lowHz < plan.highHz
  const request = useMemo(
    () => (possible ? { chain, plane, farEnd, text: file?.text ?? null, plan } : null),
    [chain, plane, farEnd, file, plan, possible],
  )
  const { result, last, problem } = useTask('alongLine', request)
  const along = result ?? (problem === null ? last : null)
  const names = useMemo(
    () => [...document.stages.slice(plane).map(({ name }) => name), document.load.name],
    [document, plane],
  )
  const chart = useMemo(
    () => along && lineChart(along, names, file !== null, length),
    [along, names, file, length],
  )
  const input = useRef<HTMLInputElement>(null)
  const take = async (own: File) => {
    setTooLarge(own.size > MOST_BYTES ? `${own.name} is too large for a sweep.` : null)
    if (own.size > MOST_BYTES) return
    const next = { name: own.name, text: await own.text(), plane }
    looked.set(chainId, next)
    setFile(next)
  }
  if (planes.length === 0)
    return (
      <p className="max-w-2xl px-5 py-6">
        There is no cable behind the last tuner or amplifier of this chain, so there is nothing to
        look along.
      </p>
    )
  const trouble = tooLarge ?? problem
  return (
    <div className="grid lg:grid-cols-[minmax(290px,4fr)_minmax(0,9fr)]">
      <div className="space-y-3 px-5 py-4 lg:border-r lg:border-rule">
        {lead(
          <p role="status" className="min-h-12 text-[18px] leading-snug">
            {trouble !== null ? (
              <span className="text-caution">▲ {trouble}</span>
            ) : !along ? (
              'Computing…'
            ) : file ? (
              seenWords(along, document.stages.slice(plane), farEnd, length).map((words) => (
                <span key={words} className="block">
                  {words}
                </span>
              ))
            ) : (
              planWords(
                along,
                planes.find((each) => each.plane === plane)!,
                length,
              )
            )}
          </p>,
        )}
        {along && <p className="text-sm text-muted">{reachWords(along, along, length)}</p>}
        {along && !along.endKnown && (
          <p className="text-sm text-muted">
            What {document.load.name} reflects over this span is not known, so no reflection is
            expected of it: judge the line before its end.
          </p>
        )}
        <ChoiceField
          label="The analyser is connected"
          value={String(plane)}
          options={planes.map((each) => ({ value: String(each.plane), label: each.name }))}
          onChange={(value) => {
            setPlane(Number(value))
            onSelect(null)
          }}
        />
        <ChoiceField label="At the far end" value={farEnd} options={farEnds} onChange={setFarEnd} />
        <div className="flex flex-wrap items-center gap-2">
          <input
            ref={input}
            type="file"
            accept=".s1p,.S1P"
            className="sr-only"
            tabIndex={-1}
            aria-label="Sweep along the line"
            onChange={({ target }) => {
              const [own] = target.files ?? []
              target.value = ''
              if (own) void act(() => take(own))
            }}
          />
          <button type="button" className="button" onClick={() => input.current?.click()}>
            <Upload size={14} aria-hidden /> {file ? 'Another sweep' : 'Sweep file (.s1p)'}
          </button>
          {file && (
            <button
              type="button"
              className="quiet"
              onClick={() => {
                looked.delete(chainId)
                setFile(null)
              }}
            >
              Remove {file.name}
            </button>
          )}
        </div>
        {!file && (
          <fieldset className="grid grid-cols-3 gap-2">
            <legend className="mb-1 text-sm text-muted">Sweep to plan</legend>
            <FrequencyField
              label="From"
              value={plan.lowHz}
              onChange={(lowHz) => setTyped({ ...typed, lowHz })}
            />
            <FrequencyField
              label="To"
              value={plan.highHz}
              onChange={(highHz) => setTyped({ ...typed, highHz })}
            />
            <PlainField
              label="Points"
              whole
              value={plan.points}
              step={100}
              min={POINTS[0]}
              max={POINTS[1]}
              onChange={(points) => setTyped({ ...typed, points })}
            />
          </fieldset>
        )}
        {!possible && (
          <p className="text-sm text-caution">
            ▲ The sweep must end above {formatFrequency(plan.lowHz)}.
          </p>
        )}
        <p className="text-sm text-muted">
          Take the transmitter off the line first, and see that nobody can key it. A long wire or a
          mast may carry static charge or another station’s power: discharge it before the analyser
          is connected. Climbing is for those who are trained for it.
        </p>
      </div>
      <section
        aria-label="Along the line"
        className="flex h-[380px] flex-col px-5 py-3 max-lg:order-first"
      >
        <h2 className="text-sm text-muted">
          Reflection against distance, dB, corrected for the loss of the line
        </h2>
        <div className="relative min-h-0 flex-1">{chart && <ChartView chart={chart} />}</div>
      </section>
    </div>
  )
}
