import {
  closestCenter,
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import { restrictHorizontally } from './restrictHorizontally.ts'
import { horizontalListSortingStrategy, SortableContext, useSortable } from '@dnd-kit/sortable'
import type { StageDocument } from '@saltline/contract'
import { formatImpedance, formatPercent, formatPower } from '@saltline/core'
import { useUnits } from '../app/preferences.ts'
import { type Selection, writeSelection } from '../chain/selection.ts'
import {
  axisTicks,
  layOut,
  netBand,
  planePositions,
  planesWithRoom,
  returnedBand,
} from './geometry.ts'
import { InsertButton, isSelected, PlaneButton, planeFigures, tabIndexOf } from './items.tsx'
import type { SpineViewProps } from './Spine.tsx'
import { netAt, type Projection, SpineBand } from './SpineBand.tsx'
import { StageIcon } from './StageIcon.tsx'
import { iconOf, stageFigure } from './stageText.ts'

const AXIS = 62
const ANTENNA = 132
const TOP = 32
const BAND = 132
const RETURNED_GAP = 7
const RETURNED_MOST = 26
const ROW = 96
/** More than this many stages stand closer, in smaller type. */
const CROWD = 9
/** Room that a plane's two lines of figures need, px. */
const FIGURES_ROOM = 70

/** The spine lying: transmitter on the left, antenna on the right. */
export function SpineLying({
  width,
  document,
  channel,
  answer,
  selection,
  topW,
  actions,
}: SpineViewProps) {
  const units = useUnits()
  const { stages, transmitter, load } = document
  const crowded = stages.length > CROWD
  const height = TOP + BAND + RETURNED_GAP + RETURNED_MOST + ROW + (crowded ? 2 : 0)
  const slots = layOut(stages, {
    available: width - AXIS - ANTENNA,
    transmitter: crowded ? 84 : 112,
    least: 60,
    device: crowded ? 62 : 88,
  })
  const total = Math.max(width, AXIS + slots.end + ANTENNA)
  const positions = planePositions(slots)
  const solved = answer?.ok ? answer : null
  const rowTop = TOP + BAND + RETURNED_GAP + RETURNED_MOST + 6
  const shape = solved && {
    net: netBand(stages, solved.solution, slots),
    returned: returnedBand(solved.solution, slots),
    planes: positions,
    end: slots.end,
    output: slots.transmitter.end,
    settingW: solved.solution.settingW,
  }
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
            {w === ticks[ticks.length - 1] ? formatPower(w) : Number(w.toPrecision(4))}
          </span>
        ))}
        {shape && solved && (
          <>
            <span
              className="absolute -translate-y-full pb-1 text-xs"
              style={{ top: TOP - (shape.settingW > topW * 1.001 ? 9 : 0), right: ANTENNA - 4 }}
            >
              salt line, {formatPower(shape.settingW, units.power)} set
              {shape.settingW > topW * 1.001 && ', above this scale'}
            </span>
            <HeldBack solved={solved} y={y} left={AXIS + 8} unit={units.power} />
            <HeatLabels solved={solved} slots={slots.stages} y={y} topW={topW} unit={units.power} />
            <PlaneLabels
              solved={solved}
              positions={positions}
              y={y}
              net={(along) => netAt(shape.net, along)}
              unit={units.power}
            />
            <Returning
              watts0={solved.solution.planes[0]!.reflectedW}
              wattsN={solved.solution.planes[stages.length]!.reflectedW}
              shrunk={returnedScale < scale * 0.999 ? scale / returnedScale : 1}
              endX={AXIS + slots.end}
              unit={units.power}
            />
            {positions.map((along, k) => {
              const { watts, swr } = planeFigures(solved, k, units.power)
              return (
                <PlaneButton
                  key={k}
                  index={k}
                  label={`Plane ${k}: ${watts} net, SWR ${swr}`}
                  selection={selection}
                  stages={stages}
                  onSelect={actions.select}
                  style={{ left: AXIS + along, top: y(netAt(shape.net, along)) }}
                />
              )
            })}
            <AtAntenna
              {...planeFigures(solved, stages.length, units.power)}
              left={AXIS + slots.end}
              top={y(solved.solution.antennaW)}
            />
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
        {positions.map((along, k) => (
          <InsertButton
            key={k}
            index={k}
            onInsert={actions.insertAt}
            style={{ left: AXIS + along, top: rowTop + 14 }}
          />
        ))}
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
              : formatPower(channel.powerW, units.power)
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
          figure={(stage) => stageFigure(stage, channel.frequencyHz, units.length)}
        />
        <End
          item={{ kind: 'antenna' }}
          selection={selection}
          stages={stages}
          onSelect={actions.select}
          slot={{ left: AXIS + slots.end, top: rowTop, width: ANTENNA }}
          name={load.name}
          figure={
            load.kind === 'swr'
              ? `SWR ${load.swr}, phase unknown`
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

type Solved = NonNullable<SpineViewProps['answer']> & { ok: true }
type Unit = ReturnType<typeof useUnits>['power']

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

/** What the radio keeps back, named in its hatched strip where the strip is tall enough. */
function HeldBack({
  solved,
  y,
  left,
  unit,
}: {
  solved: Solved
  y: (w: number) => number
  left: number
  unit: Unit
}) {
  const { settingW, transmitterNetW } = solved.solution
  const height = y(transmitterNetW) - y(settingW)
  const held = settingW - transmitterNetW
  if (held < settingW * 0.02) return null
  const inside = height >= 20
  return (
    <span
      className={`absolute whitespace-nowrap text-xs font-bold text-returned ${inside ? 'bg-sheet/85 px-1 rounded' : ''}`}
      style={{ left, top: inside ? y(settingW) + Math.min(height / 2, 60) - 9 : TOP - 20 }}
    >
      {formatPower(held, unit)} never leaves the radio
    </span>
  )
}

/** Heat, named in the tint above the band where it is tall and wide enough to be read. */
function HeatLabels({
  solved,
  slots,
  y,
  topW,
  unit,
}: {
  solved: Solved
  slots: readonly { start: number; end: number }[]
  y: (w: number) => number
  topW: number
  unit: Unit
}) {
  const { solution } = solved
  const worst = Math.max(...solution.stages.map((s) => s.lossW), 0)
  return solution.stages.map((stage, k) => {
    const { start, end } = slots[k]!
    const wide = end - start
    // The label stands over the middle; the band must already be low at its left end.
    const atLeft = solution.planes[k]!.netW - stage.lossW * Math.max(0, 0.5 - 55 / wide)
    const ceiling = y(Math.min(solution.transmitterNetW, topW))
    const tall = y(atLeft) - ceiling
    if (stage.lossW < worst * 0.3 || wide < 110 || tall < 20) return null
    return (
      <span
        key={k}
        className="absolute -translate-x-1/2 whitespace-nowrap text-sm font-bold text-heat"
        style={{
          left: AXIS + start + wide / 2,
          top: ceiling + tall / 2 - 9,
        }}
      >
        {formatPower(stage.lossW, unit)} into heat
      </span>
    )
  })
}

function PlaneLabels({
  solved,
  positions,
  y,
  net,
  unit,
}: {
  solved: Solved
  positions: readonly number[]
  y: (w: number) => number
  net: (along: number) => number
  unit: Unit
}) {
  const losses = solved.solution.stages.map((s) => s.lossW)
  const shown = planesWithRoom(positions, losses, FIGURES_ROOM)
  return positions.map((along, k) => {
    if (!shown.has(k)) return null
    const { watts, swr } = planeFigures(solved, k, unit)
    // Below the band's edge as far as the text reaches, since the edge may step down under it.
    const edge = Math.max(y(net(along)), y(net(along + FIGURES_ROOM - 14)))
    // Inside the band where it is thick enough, else above it.
    const inside = TOP + BAND - edge >= 46
    return (
      <span
        key={k}
        className="absolute whitespace-nowrap pl-2 leading-tight"
        style={{ left: AXIS + along, top: inside ? edge + 7 : edge - 40 }}
      >
        <b className="block text-sm">{watts}</b>
        <span className="block text-xs text-ink/80">SWR {swr}</span>
      </span>
    )
  })
}

/** The returning current in words at both ends; says so where it is drawn smaller than the band. */
function Returning({
  watts0,
  wattsN,
  shrunk,
  endX,
  unit,
}: {
  watts0: number
  wattsN: number
  shrunk: number
  endX: number
  unit: Unit
}) {
  const top = TOP + BAND + RETURNED_GAP - 3
  return (
    <>
      <span
        className="absolute text-xs whitespace-nowrap text-returned"
        style={{ left: AXIS + 8, top }}
      >
        {formatPower(watts0, unit)} back here
      </span>
      <span
        className="absolute whitespace-nowrap pl-2 text-xs text-returned"
        style={{ left: endX, top }}
      >
        ◂ {formatPower(wattsN, unit)} back
        {shrunk > 1 && <span className="block">drawn at 1 : {Math.ceil(shrunk)}</span>}
      </span>
    </>
  )
}

function AtAntenna({
  watts,
  swr,
  left,
  top,
}: {
  watts: string
  swr: string
  left: number
  top: number
}) {
  const [number, unit] = watts.split('\u00a0')
  return (
    <div
      className="absolute pl-3.5 leading-none"
      style={{ left, top: Math.min(Math.max(top - 14, TOP - 6), TOP + BAND - 58) }}
    >
      <span
        className={`font-bold whitespace-nowrap ${number!.length > 6 ? 'text-lg' : 'text-2xl'}`}
      >
        {number} <span className="text-base">{unit}</span>
      </span>
      <span className="mt-1 block whitespace-nowrap text-sm text-muted">SWR {swr}</span>
    </div>
  )
}

/** The transmitter or the antenna in the stage row. */
function End({
  item,
  selection,
  stages,
  onSelect,
  slot,
  name,
  figure,
  children,
}: {
  item: Selection
  selection: Selection | null
  stages: readonly StageDocument[]
  onSelect: (selection: Selection) => void
  slot: { left: number; top: number; width: number }
  name: string
  figure: string
  children: React.ReactNode
}) {
  return (
    <button
      type="button"
      data-item={writeSelection(item)}
      aria-pressed={isSelected(item, selection)}
      tabIndex={tabIndexOf(item, selection, stages)}
      onClick={() => onSelect(item)}
      className="absolute rounded text-center leading-tight hover:text-tide"
      style={slot}
    >
      <span className="block pt-[5px]">{children}</span>
      <span className="mt-1.5 block truncate px-1 text-sm">{name}</span>
      <span className="block truncate px-1 text-xs text-muted">{figure}</span>
    </button>
  )
}

function StageRow({
  stages,
  widths,
  left,
  top,
  selection,
  onSelect,
  onMove,
  small,
  figure,
}: {
  stages: readonly StageDocument[]
  widths: number[]
  left: number
  top: number
  selection: Selection | null
  onSelect: (selection: Selection) => void
  onMove: (id: string, index: number) => void
  small: boolean
  figure: (stage: StageDocument) => string
}) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }))
  const drop = ({ active, over }: DragEndEvent) => {
    if (over && over.id !== active.id)
      onMove(
        String(active.id),
        stages.findIndex(({ id }) => id === over.id),
      )
  }
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      modifiers={[restrictHorizontally]}
      onDragEnd={drop}
    >
      <SortableContext items={stages.map(({ id }) => id)} strategy={horizontalListSortingStrategy}>
        <ol className="absolute flex" style={{ left, top }}>
          {stages.map((stage, k) => (
            <StageItem
              key={stage.id}
              stage={stage}
              width={widths[k]!}
              small={small}
              figure={figure(stage)}
              selected={isSelected({ kind: 'stage', id: stage.id }, selection)}
              tabIndex={tabIndexOf({ kind: 'stage', id: stage.id }, selection, stages)}
              onSelect={onSelect}
            />
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  )
}

function StageItem({
  stage,
  width,
  small,
  figure,
  selected,
  tabIndex,
  onSelect,
}: {
  stage: StageDocument
  width: number
  small: boolean
  figure: string
  selected: boolean
  tabIndex: 0 | -1
  onSelect: (selection: Selection) => void
}) {
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: stage.id })
  const icon = iconOf(stage)
  return (
    <li
      ref={setNodeRef}
      style={{
        width,
        transform: transform ? `translateX(${transform.x}px)` : undefined,
        transition,
        zIndex: isDragging ? 30 : undefined,
      }}
      className={isDragging ? 'relative cursor-grabbing rounded bg-paper/90' : 'relative'}
    >
      <button
        type="button"
        {...listeners}
        data-item={writeSelection({ kind: 'stage', id: stage.id })}
        aria-pressed={selected}
        tabIndex={tabIndex}
        onClick={() => onSelect({ kind: 'stage', id: stage.id })}
        className={`block w-full touch-none rounded text-center leading-tight hover:text-tide ${
          stage.bypassed ? 'text-muted' : ''
        }`}
      >
        <span className="flex h-7 items-center">
          {icon === 'line' ? (
            <span className="mx-1 h-1 flex-1 rounded-full bg-current" />
          ) : (
            <>
              <span
                className={`h-[1.8px] flex-1 bg-current ${stage.bypassed ? 'opacity-40' : ''}`}
              />
              <span
                className={`rounded border-[1.6px] border-current bg-sheet px-0.5 ${
                  stage.bypassed ? 'border-dashed' : ''
                }`}
              >
                <StageIcon kind={icon} />
              </span>
              <span
                className={`h-[1.8px] flex-1 bg-current ${stage.bypassed ? 'opacity-40' : ''}`}
              />
            </>
          )}
        </span>
        <span
          className={`mt-0.5 line-clamp-2 break-words ${small ? '-mx-1 text-xs' : 'text-sm'} ${selected ? 'font-bold' : ''}`}
        >
          {stage.name}
        </span>
        <span className="block truncate px-0.5 text-xs text-muted">{figure}</span>
      </button>
    </li>
  )
}
