import type { StageDocument } from '@saltline/contract'
import { formatImpedance, formatPercent } from '@saltline/core'
import { useUnits } from '../platform/preferences.ts'
import { type Selection, writeSelection } from '../model/selection.ts'
import {
  legsOf,
  netBand,
  outlineBand,
  planePositions,
  returnedBand,
  type SpineSlots,
} from './geometry.ts'
import { insertButton, isSelected, planeButton, planeFigures, tabIndexOf } from './items.tsx'
import { LiveMarks } from './LiveMarks.tsx'
import { marksOf } from './marks.ts'
import type { SpineViewProps } from './spineProps.ts'
import { netAt, type Projection, SpineBand } from './SpineBand.tsx'
import { StageIcon } from './StageIcon.tsx'
import { iconOf, saltText, settingText, stageFigure, toneOf } from './stageText.ts'

const TOP = 26
const TRANSMITTER = 58
const STAGE = 62
const ANTENNA = 72
const RETURNED_MOST = 14
/** Room for the figures to the right of the salt line, px; ranges need more. */
const FIGURES = 78
const RANGES = 122

const slotsOf = (count: number): SpineSlots => ({
  transmitter: { start: 0, end: TRANSMITTER },
  stages: Array.from({ length: count }, (_, k) => ({
    start: TRANSMITTER + k * STAGE,
    end: TRANSMITTER + (k + 1) * STAGE,
  })),
  end: TRANSMITTER + count * STAGE,
})

/** The spine running downward, for a narrow screen: names on the left, watts to the right. */
export function SpineDown({
  width,
  document,
  channel,
  answer,
  selection,
  topW,
  actions,
  outline,
  live,
}: SpineViewProps) {
  const units = useUnits()
  const { stages, transmitter, load } = document
  const slots = slotsOf(stages.length)
  const names = Math.round(width * 0.36)
  const base = names + RETURNED_MOST + 8
  const figures = answer?.ok && answer.spread ? RANGES : FIGURES
  const field = width - base - figures
  const positions = planePositions(slots)
  const solved = answer?.ok ? answer : null
  const shape = solved && {
    net: netBand(stages, solved.solution, slots),
    returned: returnedBand(solved.solution, slots, stages),
    planes: positions,
    end: slots.end,
    legs: legsOf(solved.solution, slots),
    outline: outline && outlineBand(outline, slotsOf(outline.document.stages.length), slots.end),
  }
  const marks = solved ? marksOf(document, channel, solved.solution) : []
  const scale = field / topW
  const mostReturned = Math.max(1e-12, ...(shape?.returned.map((p) => p.watts) ?? []))
  const projection: Projection = {
    vertical: true,
    scale,
    topW,
    base,
    origin: TOP,
    returnedBase: base - 5,
    returnedScale: Math.min(scale, RETURNED_MOST / mostReturned),
  }
  const x = (watts: number) => base + Math.min(watts, topW) * scale
  const height = TOP + slots.end + ANTENNA
  const row = (slot: { start: number; end: number }) => ({
    top: TOP + slot.start,
    height: slot.end - slot.start,
  })
  return (
    <div className="group/spine relative" style={{ height }}>
      <svg width={width} height={height} className="absolute inset-0" aria-hidden>
        {shape && <SpineBand shape={shape} at={projection} ticks={[0, topW / 2, topW]} />}
      </svg>
      {shape && solved && (
        <>
          <span className="absolute right-2 text-xs" style={{ top: 4 }}>
            {saltText(shape.legs.at(-1)!, document, units.power)}
          </span>
          {positions.map((along, k) => {
            const { watts, others } = planeFigures(solved, k, units.power, stages)
            const last = k === stages.length
            return (
              <span key={k}>
                {planeButton({
                  index: k,
                  label: `Plane ${k}: ${watts} net, ${others.join(', ')}`,
                  selected: isSelected({ kind: 'plane', index: k }, selection),
                  tabIndex: tabIndexOf({ kind: 'plane', index: k }, selection, stages),
                  onSelect: actions.select,
                  left: x(netAt(shape.net, along)),
                  top: TOP + along,
                })}
                <span
                  className="absolute right-2 -translate-y-1/2 text-right leading-tight"
                  style={{ top: TOP + along + (last ? 14 : 0) }}
                >
                  <b className={`block whitespace-nowrap ${last ? 'text-xl' : 'text-sm'}`}>
                    {watts}
                  </b>
                  {others.map((text) => (
                    <span key={text} className="block text-xs whitespace-nowrap text-ink">
                      {text}
                    </span>
                  ))}
                </span>
              </span>
            )
          })}
          {live && (
            <LiveMarks
              around={live}
              solution={solved.solution}
              at={(plane, watts) => ({ left: x(watts), top: TOP + positions[plane]! })}
            />
          )}
        </>
      )}
      {answer && !answer.ok && (
        <p
          role="alert"
          className="absolute text-sm text-danger"
          style={{ left: base, top: TOP + 8, right: 8 }}
        >
          <strong>No figure here.</strong> {answer.message}
        </p>
      )}
      {positions.map((along, k) =>
        insertButton({ index: k, onInsert: actions.insertAt, left: 12, top: TOP + along }),
      )}
      <Row
        item={{ kind: 'transmitter' }}
        place={row(slots.transmitter)}
        width={names}
        selection={selection}
        stages={stages}
        onSelect={actions.select}
        icon={<span className="block h-4 w-6 rounded-[3px] bg-ink" />}
        name={transmitter.name}
        figure={
          solved && solved.solution.foldback < 0.995
            ? `foldback to ${formatPercent(solved.solution.foldback)}`
            : settingText(transmitter, channel, units.power)
        }
      />
      {stages.map((stage, k) => {
        const icon = iconOf(stage)
        return (
          <Row
            key={stage.id}
            item={{ kind: 'stage', id: stage.id }}
            place={row(slots.stages[k]!)}
            width={names}
            selection={selection}
            stages={stages}
            onSelect={actions.select}
            icon={
              icon === null ? (
                <span className="mx-auto block h-8 w-1 rounded bg-current" />
              ) : (
                <StageIcon strokes={icon} />
              )
            }
            name={stage.name}
            figure={
              marks[k] ??
              stageFigure(
                stage,
                channel.frequencyHz,
                units.length,
                solved?.solution.stages[k],
                solved?.spread?.stages[k],
              )
            }
          />
        )
      })}
      <Row
        item={{ kind: 'antenna' }}
        place={{ top: TOP + slots.end + 8, height: ANTENNA - 12 }}
        width={width - figures - 20}
        selection={selection}
        stages={stages}
        onSelect={actions.select}
        icon={
          <svg width="24" height="20" aria-hidden>
            <path d="M12 19V4M3 11l9-7 9 7" fill="none" stroke="currentColor" strokeWidth="1.8" />
          </svg>
        }
        name={load.name}
        figure={
          solved?.spread?.phaseUnknown
            ? 'phase unknown'
            : solved
              ? formatImpedance(solved.solution.planes[stages.length]!.impedanceOhm)
              : 'no figure'
        }
      />
    </div>
  )
}

function Row({
  item,
  place,
  width,
  selection,
  stages,
  onSelect,
  icon,
  name,
  figure,
}: {
  item: Selection
  place: { top: number; height: number }
  width: number
  selection: Selection | null
  stages: readonly StageDocument[]
  onSelect: (selection: Selection) => void
  icon: React.ReactNode
  name: string
  figure: string
}) {
  const selected = isSelected(item, selection)
  return (
    <button
      type="button"
      data-item={writeSelection(item)}
      aria-pressed={selected}
      tabIndex={tabIndexOf(item, selection, stages)}
      onClick={() => onSelect(item)}
      className={`absolute left-1 flex items-center gap-2 rounded pl-1 text-left leading-tight ${
        selected ? 'outline-[1.5px] outline-tide' : ''
      }`}
      style={{ ...place, width: width - 4 }}
    >
      <span className="w-7 shrink-0">{icon}</span>
      <span className="min-w-0">
        <span className="line-clamp-2 text-sm">{name}</span>
        <span className={`block truncate text-xs ${toneOf(figure)}`}>{figure}</span>
      </span>
    </button>
  )
}
