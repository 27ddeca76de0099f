import type { TransmitterDocument } from '@saltline/contract'
import { formatPercent, formatPower, formatSwr } from '@saltline/core'
import { Plus, X } from 'lucide-react'
import { ChoiceField } from '../parts/ChoiceField.tsx'
import { FigureList } from '../parts/FigureList.tsx'
import { PlainField, PowerField } from '../parts/quantities.tsx'
import { TextField } from '../parts/TextField.tsx'
import type { PanelProps } from './SidePanel.tsx'

export function TransmitterPanel({ document, answer, actions }: PanelProps) {
  const { transmitter } = document
  const change = (part: Partial<TransmitterDocument>) =>
    actions.edit((d) => ({ ...d, transmitter: { ...d.transmitter, ...part } }))
  return (
    <div className="space-y-3">
      <TextField label="Name" value={transmitter.name} onChange={(name) => change({ name })} />
      <PowerField
        label="Rated power"
        value={transmitter.ratedW}
        onChange={(ratedW) => change({ ratedW })}
      />
      <ChoiceField
        label="Into a mismatch"
        value={transmitter.behaviour}
        options={[
          { value: 'levelled', label: 'levelled: holds forward power' },
          { value: 'peaked', label: 'peaked: output retuned for the load' },
        ]}
        onChange={(behaviour) => change({ behaviour })}
        hint={
          transmitter.behaviour === 'levelled'
            ? 'As most solid-state sets: what comes back is not delivered.'
            : 'As a tube stage with tune and load controls: all of the setting goes in.'
        }
      />
      <FoldbackFields points={transmitter.foldback} onChange={(foldback) => change({ foldback })} />
      {answer?.ok && (
        <FigureList
          rows={[
            ['SWR it sees', formatSwr(answer.solution.planes[0]!.swr)],
            ['Foldback leaves', formatPercent(answer.solution.foldback)],
            ['Forward', formatPower(answer.solution.planes[0]!.forwardW)],
            ['Reflected', formatPower(answer.solution.planes[0]!.reflectedW)],
            ['Leaves the radio', formatPower(answer.solution.transmitterNetW)],
          ]}
        />
      )}
    </div>
  )
}

type Points = TransmitterDocument['foldback']

/** Points in order of SWR; a point cannot overtake its neighbours. */
function FoldbackFields({
  points,
  onChange,
}: {
  points: Points
  onChange: (points: Points) => void
}) {
  const set = (i: number, point: [number, number]) => onChange(points.with(i, point))
  const last = points[points.length - 1]
  return (
    <fieldset className="rounded border border-rule px-3 pt-1 pb-3">
      <legend className="px-1 text-sm text-muted">Foldback: power left at an SWR</legend>
      {points.length === 0 && <p className="text-sm text-muted">None: full power at any SWR.</p>}
      <div className="space-y-1.5">
        {points.map(([swr, fraction], i) => (
          <div key={i} className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
            <PlainField
              label={`SWR, point ${i + 1}`}
              bare={i > 0}
              value={swr}
              step={0.1}
              min={(points[i - 1]?.[0] ?? 0.999) + 0.001}
              max={(points[i + 1]?.[0] ?? 1000.001) - 0.001}
              onChange={(value) => set(i, [value, fraction])}
            />
            <PlainField
              label={`Power left, point ${i + 1}`}
              bare={i > 0}
              unit="%"
              value={fraction * 100}
              step={1}
              min={0}
              max={100}
              onChange={(value) => set(i, [swr, value / 100])}
            />
            <button
              type="button"
              className="quiet mb-0.5"
              aria-label={`Remove the point at SWR ${formatSwr(swr)}`}
              onClick={() => onChange(points.toSpliced(i, 1))}
            >
              <X size={15} aria-hidden />
            </button>
          </div>
        ))}
      </div>
      <button
        type="button"
        className="quiet mt-2 -ml-2"
        disabled={points.length >= 40 || (last?.[0] ?? 1) >= 900}
        onClick={() =>
          onChange([
            ...points,
            last ? [Number((last[0] * 1.5).toPrecision(2)), last[1] / 2] : [1.5, 1],
          ])
        }
      >
        <Plus size={15} aria-hidden /> Add a point
      </button>
    </fieldset>
  )
}
