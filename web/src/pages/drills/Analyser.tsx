import {
  analyserPlanes,
  type DrillFault,
  type FarEnd,
  type FindDrill,
  placeName,
  practiceSweep,
  type TakenSweep,
  usualSpan,
  usualTolerances,
} from '@saltline/core'
import { useMemo, useState } from 'react'
import { useTask } from '../../compute/useTask.ts'
import { bandChart, lineChart, type View } from '../../lenses/line/lineChart.ts'
import { POINTS, reachWords, type SweepPlan } from '../../model/alongLine.ts'
import { farEnds } from '../../model/farEnds.ts'
import { sweepAnswer } from '../../model/lineSweeps.ts'
import { namesBehind } from '../../model/drillWords.ts'
import { useUnits } from '../../platform/preferences.ts'
import { ChartView } from '../../ui/chart/ChartView.tsx'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { Dialog } from '../../ui/Dialog.tsx'
import { FrequencyField, PlainField } from '../../ui/quantities.tsx'

/** An analyser to be connected anywhere behind the tuner: each sweep counts as a look. */
export function Analyser({
  drill,
  left,
  count,
  taken,
  onSweep,
  onClose,
}: {
  drill: FindDrill
  left: readonly DrillFault[]
  /** Looks so far: another sweep of the same place has other noise. */
  count: number
  /** The last one. */
  taken: TakenSweep | null
  onSweep: (taken: TakenSweep) => void
  onClose: () => void
}) {
  const { length } = useUnits()
  const { chain } = drill.station
  const planes = useMemo(() => analyserPlanes(chain), [chain])
  const [plane, setPlane] = useState(taken?.plane ?? planes[0] ?? 0)
  const [farEnd, setFarEnd] = useState<FarEnd>(taken?.farEnd ?? 'antenna')
  const [plan, setPlan] = useState<SweepPlan>(usualSpan)
  const [view, setView] = useState<View>('distance')
  const possible = plan.lowHz < plan.highHz
  const request = useMemo(
    () =>
      taken && {
        ...{ chain, tolerances: usualTolerances, before: null, plan },
        ...taken,
      },
    [chain, taken, plan],
  )
  const { result: along, problem } = useTask('alongLine', request)
  const names = useMemo(() => namesBehind(drill, taken?.plane ?? 0), [drill, taken])
  const chart = useMemo(
    () =>
      along &&
      (view === 'distance'
        ? lineChart(along, names, true, length)
        : view === 'reflection'
          ? null
          : bandChart(along, view)),
    [along, names, length, view],
  )
  const sweep = () => {
    onSweep(practiceSweep(drill, left, { plane, farEnd }, plan, count))
  }
  const stages = names.map((name) => ({ name }))
  return (
    <Dialog title="Analyser, the transmitter off the line" onClose={onClose} wide>
      <div className="space-y-3 text-sm">
        <div className="grid gap-2 sm:grid-cols-5">
          <ChoiceField
            label="Connected"
            value={String(plane)}
            options={planes.map((each) => ({ value: String(each), label: placeName(drill, each) }))}
            onChange={(value) => setPlane(Number(value))}
          />
          <ChoiceField
            label="At the far end"
            value={farEnd}
            options={farEnds}
            onChange={setFarEnd}
          />
          <FrequencyField
            label="From"
            value={plan.lowHz}
            onChange={(lowHz) => setPlan({ ...plan, lowHz })}
          />
          <FrequencyField
            label="To"
            value={plan.highHz}
            onChange={(highHz) => setPlan({ ...plan, highHz })}
          />
          <PlainField
            label="Points"
            whole
            value={plan.points}
            step={100}
            min={POINTS[0]}
            max={POINTS[1]}
            onChange={(points) => setPlan({ ...plan, points })}
          />
        </div>
        <button type="button" className="button button-main" disabled={!possible} onClick={sweep}>
          Sweep, as one look
        </button>
        {problem !== null && <p className="text-caution">▲ {problem}</p>}
        {along && taken && (
          <>
            <div role="status">
              {sweepAnswer(along, stages, taken.farEnd, length).map((words) => (
                <p key={words}>{words}</p>
              ))}
            </div>
            <p className="text-muted">{reachWords(along, along, length)}</p>
            <div className="flex gap-1" role="group" aria-label="Drawn as">
              {(['distance', 'SWR'] as const).map((each) => (
                <button
                  key={each}
                  type="button"
                  className="button"
                  aria-pressed={each === view}
                  onClick={() => setView(each)}
                >
                  {each}
                </button>
              ))}
            </div>
            <div className="relative h-56">
              {chart && <ChartView key={view === 'distance' ? 'm' : 'Hz'} chart={chart} />}
            </div>
          </>
        )}
      </div>
    </Dialog>
  )
}
