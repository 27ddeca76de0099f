import { beyondTuner, type ChannelAnswer } from '../model/answers.ts'
import { wattsText } from '../model/wattsText.ts'
import {
  formatImpedance,
  formatPercent,
  formatPower,
  powerFigure,
  type PowerUnit,
} from '@saltline/core'
import type { StageDocument } from '@saltline/contract'
import { useUnits } from '../platform/preferences.ts'
import type { Selection } from '../model/selection.ts'
import {
  axisTicks,
  legsOf,
  netBand,
  outlineBand,
  planePositions,
  returnedBand,
} from './geometry.ts'
import { insertButton, isSelected, planeButton, planeFigures, tabIndexOf } from './items.tsx'
import {
  atAntenna,
  heatLabels,
  writtenLabels,
  heldBack,
  PlaneLabels,
  returning,
} from './LyingLabels.tsx'
import { LiveMarks } from './LiveMarks.tsx'
import { End, StageRow } from './LyingStages.tsx'
import {
  ANTENNA,
  AXIS,
  BAND,
  isCrowded,
  lyingSlots,
  RETURNED_GAP,
  RETURNED_MOST,
  ROW,
  TOP,
} from './lyingSizes.ts'
import { marksOf } from './marks.ts'
import type { SpineViewProps } from './spineProps.ts'
import { netAt, type Projection, SpineBand } from './SpineBand.tsx'
import { saltText, settingText, stageFigure } from './stageText.ts'

/** The spine lying: transmitter on the left, antenna on the right. */
export function SpineLying({
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
  const crowded = isCrowded(stages)
  const height = TOP + BAND + RETURNED_GAP + RETURNED_MOST + ROW + (crowded ? 2 : 0)
  const slots = lyingSlots(stages, width)
  const total = Math.max(width, AXIS + slots.end + ANTENNA)
  const positions = planePositions(slots)
  const solved = answer?.ok ? answer : null
  const rowTop = TOP + BAND + RETURNED_GAP + RETURNED_MOST + 6
  const shape = solved && {
    net: netBand(stages, solved.solution, slots),
    returned: returnedBand(solved.solution, slots, stages),
    planes: positions,
    end: slots.end,
    legs: legsOf(solved.solution, slots),
    outline: outline && outlineBand(outline, lyingSlots(outline.document.stages, width), slots.end),
  }
  const last = shape ? shape.legs.at(-1)! : null
  const marks = solved ? marksOf(document, channel, solved.solution) : []
  const scale = BAND / topW
  const mostReturned = Math.max(0, ...(shape?.returned.map((p) => p.watts) ?? []))
  const returnedScale = Math.min(scale, RETURNED_MOST / Math.max(mostReturned, 1e-12))
  const projection: Projection = {
    vertical: false,
    scale,
    topW,
    base: TOP + BAND,
    origin: AXIS,
    returnedBase: TOP + BAND + RETURNED_GAP,
    returnedScale,
  }
  const y = (watts: number) => TOP + BAND - Math.min(watts, topW) * scale
  const heat = solved && shape ? heatLabels(solved, slots.stages, shape.legs, y, topW) : []
  const ticks = axisTicks(topW)
  const selectedSlot = slotOfSelection(selection, stages, slots.stages, slots.transmitter)
  return (
    <div className="group/spine overflow-x-auto overflow-y-hidden">
      <div className="relative" style={{ width: total, height: height }}>
        <svg width={total} height={height} className="absolute inset-0" aria-hidden>
          {shape && <SpineBand shape={shape} at={projection} ticks={ticks} />}
          {selectedSlot && (
            <rect
              x={AXIS + selectedSlot.start + 1}
              y={8}
              width={selectedSlot.end - selectedSlot.start - 2}
              height={height - 12}
              rx={6}
              fill="none"
              stroke="var(--tide)"
              strokeWidth="1.5"
            />
          )}
        </svg>
        {ticks.map((w) => (
          <span
            key={w}
            className="absolute -translate-y-1/2 text-right text-xs text-muted"
            style={{ top: y(w), right: total - AXIS + 9 }}
          >
            {tickText(w, w === ticks[ticks.length - 1], units.power)}
          </span>
        ))}
        {shape && solved && last && (
          <>
            <span
              className="absolute -translate-y-full pb-1 text-xs"
              style={{
                top: y(last.settingW) - (last.settingW > topW * 1.001 ? 9 : 0),
                right: ANTENNA - 4,
              }}
            >
              {saltText(last, document, units.power)}
              {last.settingW > topW * 1.001 && ', above this scale'}
            </span>
            {heldBack({ solved: solved, y: y, left: AXIS + 8 })}
            {writtenLabels({ labels: heat })}
            <PlaneLabels
              stages={stages}
              solved={solved}
              positions={positions}
              surface={{
                edge: shape.net.map(({ along, watts }) => [AXIS + along, y(watts)]),
                floor: TOP + BAND,
                ceiling: 2,
                right: AXIS + slots.end + 4,
              }}
              taken={[
                ...heat,
                // What stands over the dashed lines.
                { left: total - ANTENNA - 190, top: y(last.settingW) - 20, width: 190, height: 19 },
                { left: AXIS, top: TOP - 20, width: 130, height: 19 },
              ]}
              lines={shape.legs.map(({ settingW }) => y(settingW))}
              unit={units.power}
            />
            {returning({
              watts0: reflectedText(solved, 0, units.power, 0.0005),
              wattsN: beyondTuner(stages, stages.length)
                ? null
                : reflectedText(solved, stages.length, units.power, 0),
              shrunk: returnedScale < scale * 0.999 ? scale / returnedScale : 1,
              endX: AXIS + slots.end,
            })}
            {positions.map((along, k) => {
              const { watts, others } = planeFigures(solved, k, units.power, stages)
              return planeButton({
                index: k,
                label: `Plane ${k}: ${watts} net, ${others.join(', ')}`,
                selected: isSelected({ kind: 'plane', index: k }, selection),
                tabIndex: tabIndexOf({ kind: 'plane', index: k }, selection, stages),
                onSelect: actions.select,
                left: AXIS + along,
                top: y(netAt(shape.net, along)),
              })
            })}
            {live && (
              <LiveMarks
                around={live}
                solution={solved.solution}
                at={(plane, watts) => ({ left: AXIS + positions[plane]!, top: y(watts) })}
              />
            )}
            {atAntenna({
              ...planeFigures(solved, stages.length, units.power, stages),
              left: AXIS + slots.end,
              top: y(solved.solution.antennaW),
            })}
          </>
        )}
        {answer && !answer.ok && (
          <p
            role="alert"
            className="absolute max-w-xl text-base text-danger"
            style={{ left: AXIS + 12, top: TOP + 30 }}
          >
            <strong>No figure here.</strong> {answer.message}
          </p>
        )}
        {positions.map((along, k) =>
          insertButton({
            index: k,
            onInsert: actions.insertAt,
            left: AXIS + along,
            top: rowTop + 14,
          }),
        )}
        <End
          item={{ kind: 'transmitter' }}
          selection={selection}
          stages={stages}
          onSelect={actions.select}
          slot={{ left: AXIS, top: rowTop, width: slots.transmitter.end }}
          name={transmitter.name}
          figure={
            solved && solved.solution.foldback < 0.995
              ? `foldback to ${formatPercent(solved.solution.foldback)}`
              : settingText(transmitter, channel, units.power)
          }
        >
          <span className="mx-2 flex h-[18px] items-center justify-end rounded-[3px] bg-ink pr-1.5 text-sheet">
            <svg width="9" height="10" aria-hidden>
              <path d="M0 0 9 5 0 10z" fill="currentColor" />
            </svg>
          </span>
        </End>
        <StageRow
          stages={stages}
          widths={slots.stages.map(({ start, end }) => end - start)}
          left={AXIS + slots.transmitter.end}
          top={rowTop}
          selection={selection}
          onSelect={actions.select}
          onMove={actions.moveTo}
          small={crowded}
          figures={stages.map(
            (stage, k) =>
              marks[k] ??
              stageFigure(
                stage,
                channel.frequencyHz,
                units.length,
                solved?.solution.stages[k],
                solved?.spread?.stages[k],
              ),
          )}
        />
        <End
          item={{ kind: 'antenna' }}
          selection={selection}
          stages={stages}
          onSelect={actions.select}
          slot={{ left: AXIS + slots.end, top: rowTop, width: ANTENNA }}
          name={load.name}
          figure={
            solved?.spread?.phaseUnknown
              ? 'phase unknown'
              : solved
                ? formatImpedance(solved.solution.planes[stages.length]!.impedanceOhm)
                : 'no figure'
          }
        >
          <svg height="28" width={ANTENNA} className="-mt-2.5 block" aria-hidden>
            <path
              d={`M0 19.500H${ANTENNA / 2}V4M${ANTENNA / 2 - 20} 13L${ANTENNA / 2} 4l20 9`}
              fill="none"
              stroke="currentColor"
              strokeWidth="1.8"
            />
          </svg>
        </End>
      </div>
    </div>
  )
}

/** The unit stands at the top of the axis alone, or above the drawing; in dBm there is no zero. */
function tickText(w: number, top: boolean, unit: PowerUnit): string {
  if (unit === 'dBm') return w > 0 ? powerFigure(w, unit).number : ''
  return top ? formatPower(w) : String(Number(w.toPrecision(4)))
}

/** Reflected power, unless it is less than a share of the forward power. */
function reflectedText(
  { solution, spread }: ChannelAnswer & { ok: true },
  plane: number,
  unit: PowerUnit,
  least: number,
): string | null {
  const { reflectedW, forwardW } = solution.planes[plane]!
  return reflectedW < forwardW * least
    ? null
    : wattsText(reflectedW, unit, spread?.planes[plane]!.reflectedW)
}

function slotOfSelection(
  selection: Selection | null,
  stages: readonly StageDocument[],
  slots: readonly { start: number; end: number }[],
  transmitter: { start: number; end: number },
) {
  if (selection?.kind === 'transmitter') return transmitter
  if (selection?.kind !== 'stage') return null
  return slots[stages.findIndex(({ id }) => id === selection.id)] ?? null
}
