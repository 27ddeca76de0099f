import type { StageDocument } from '@saltline/contract'
import { memo, type PointerEvent, useCallback, useEffect, useRef } from 'react'
import { type Selection, writeSelection } from '../model/selection.ts'
import { isSelected, tabIndexOf } from './items.tsx'
import { StageIcon } from './StageIcon.tsx'
import { iconOf, toneOf } from './stageText.ts'
import { shiftsOf, useRowDrag } from './useRowDrag.ts'

/** The transmitter or the antenna in the stage row. */
export function End({
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

/** The stages in a row; each can be dragged to another place. */
export function StageRow({
  stages,
  widths,
  left,
  top,
  selection,
  onSelect,
  onMove,
  small,
  figures,
}: {
  stages: readonly StageDocument[]
  widths: number[]
  left: number
  top: number
  selection: Selection | null
  onSelect: (selection: Selection) => void
  onMove: (id: string, index: number) => void
  small: boolean
  /** Under each name. */
  figures: string[]
}) {
  const { drag, begin } = useRowDrag(widths, (from, to) => onMove(stages[from]!.id, to))
  const shifts = shiftsOf(widths, drag)
  // The same for every render: an edited figure then redraws one stage, not all.
  const now = useRef(begin)
  useEffect(() => {
    now.current = begin
  })
  const onDown = useCallback(
    (k: number, event: PointerEvent<HTMLElement>) => now.current(k, event),
    [],
  )
  return (
    <ol className="absolute flex" style={{ left, top }}>
      {stages.map((stage, k) => (
        <StageItem
          key={stage.id}
          stage={stage}
          index={k}
          width={widths[k]!}
          shift={shifts[k]!}
          dragged={drag?.from === k ? 'this' : drag ? 'other' : null}
          small={small}
          figure={figures[k]!}
          selected={isSelected({ kind: 'stage', id: stage.id }, selection)}
          tabIndex={tabIndexOf({ kind: 'stage', id: stage.id }, selection, stages)}
          onSelect={onSelect}
          onDown={onDown}
        />
      ))}
    </ol>
  )
}

const StageItem = memo(function StageItem({
  stage,
  index,
  width,
  shift,
  dragged,
  small,
  figure,
  selected,
  tabIndex,
  onSelect,
  onDown,
}: {
  stage: StageDocument
  index: number
  width: number
  /** From its place, px. */
  shift: number
  /** Whether this is what is dragged, or makes room for what is. */
  dragged: 'this' | 'other' | null
  small: boolean
  figure: string
  selected: boolean
  tabIndex: 0 | -1
  onSelect: (selection: Selection) => void
  onDown: (index: number, event: PointerEvent<HTMLElement>) => void
}) {
  const icon = iconOf(stage)
  return (
    <li
      style={{ width, transform: shift === 0 ? undefined : `translateX(${shift}px)` }}
      className={
        dragged === 'this'
          ? 'relative z-30 cursor-grabbing rounded bg-paper/90'
          : `relative ${dragged ? 'transition-transform' : ''}`
      }
    >
      <button
        type="button"
        onPointerDown={(event) => onDown(index, event)}
        data-item={writeSelection({ kind: 'stage', id: stage.id })}
        aria-pressed={selected}
        tabIndex={tabIndex}
        onClick={() => onSelect({ kind: 'stage', id: stage.id })}
        className={`block w-full touch-none rounded text-center leading-tight hover:text-tide ${
          stage.bypassed ? 'text-muted' : ''
        }`}
      >
        <span className="flex h-7 items-center">
          {icon === null ? (
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
                <StageIcon strokes={icon} />
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
        <span className={`block truncate px-0.5 text-xs ${toneOf(figure)}`}>{figure}</span>
      </button>
    </li>
  )
})
