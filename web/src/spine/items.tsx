import type { StageDocument } from '@saltline/contract'
import {
  formatAmpere,
  formatImpedance,
  formatSwr,
  formatVolt,
  type PowerUnit,
} from '@saltline/core'
import { DropdownMenu } from 'radix-ui'
import { Plus } from 'lucide-react'
import { memo } from 'react'
import { beyondTuner, type ChannelAnswer } from '../model/answers.ts'
import { type StageChoice, stageChoices } from '../model/stages/index.ts'
import { type Selection, writeSelection } from '../model/selection.ts'
import { rangeText, wattsText } from '../model/wattsText.ts'

/** One tab stop for the whole spine: the selected item, or the first. */
export function tabIndexOf(
  item: Selection,
  selection: Selection | null,
  stages: readonly StageDocument[],
): 0 | -1 {
  const known =
    selection &&
    selection.kind !== 'channel' &&
    (selection.kind !== 'stage' || stages.some(({ id }) => id === selection.id))
  const stop = known ? writeSelection(selection) : 'transmitter'
  return writeSelection(item) === stop ? 0 : -1
}

export const isSelected = (item: Selection, selection: Selection | null): boolean =>
  selection !== null && writeSelection(item) === writeSelection(selection)

/** Watts at a plane, and a line or two of what else counts there, as text. */
export interface PlaneFigures {
  watts: string
  /** The SWR; behind the last tuner with no line left, R ± jX, volts and amperes instead. */
  others: string[]
}

/** Ranges where there are; of the SWR only where its phase is not known. */
export function planeFigures(
  answer: ChannelAnswer & { ok: true },
  plane: number,
  unit: PowerUnit,
  stages: readonly StageDocument[],
): PlaneFigures {
  const state = answer.solution.planes[plane]!
  const spread = answer.spread?.planes[plane]
  const watts = wattsText(state.netW, unit, spread?.netW)
  const phaseUnknown = answer.spread?.phaseUnknown
  if (beyondTuner(stages, plane))
    return {
      watts,
      others: phaseUnknown
        ? [rangeText(state.voltageRms, spread?.voltageRms, formatVolt)]
        : [
            formatImpedance(state.impedanceOhm),
            `${formatVolt(state.voltageRms)}, ${formatAmpere(state.currentRms)}`,
          ],
    }
  const swr = rangeText(state.swr, phaseUnknown ? spread?.swr : undefined, formatSwr)
  return { watts, others: [`SWR ${swr}`] }
}

/**
 * A ring on a plane: press it for all figures there. Drawn in place, as what follows every key is: a component of its own
 * would be one more to look at and never be spared.
 */
export function planeButton({
  index,
  label,
  selected,
  tabIndex,
  onSelect,
  left,
  top,
}: {
  index: number
  label: string
  selected: boolean
  tabIndex: 0 | -1
  onSelect: (selection: Selection) => void
  left: number
  top: number
}) {
  const item: Selection = { kind: 'plane', index }
  return (
    <button
      key={index}
      type="button"
      data-item={writeSelection(item)}
      aria-label={label}
      aria-pressed={selected}
      tabIndex={tabIndex}
      onClick={() => onSelect(item)}
      className="group absolute z-10 grid size-6 -translate-x-1/2 -translate-y-1/2 place-items-center rounded-full"
      style={{ left, top }}
    >
      <span
        className={`block rounded-full border-2 border-tide transition-[width,height] group-hover:size-3.5 ${
          selected ? 'size-3.5 bg-tide' : 'size-2.5 bg-sheet'
        }`}
      />
    </button>
  )
}

/** The gap between two stages: a plus that asks what to put in. Drawn in place. */
export function insertButton({
  index,
  onInsert,
  left,
  top,
}: {
  index: number
  onInsert: (index: number, choice: StageChoice) => void
  left: number
  top: number
}) {
  return (
    <span
      key={index}
      className="absolute z-20 -translate-x-1/2 -translate-y-1/2 in-[[inert]]:hidden"
      style={{ left, top }}
    >
      <InsertMenu index={index} onInsert={onInsert} />
    </span>
  )
}

/** Apart from its place, so that a number being typed moves it without drawing it anew. */
const InsertMenu = memo(function InsertMenu({
  index,
  onInsert,
}: {
  index: number
  onInsert: (index: number, choice: StageChoice) => void
}) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>
        <button
          type="button"
          tabIndex={-1}
          aria-label={`Insert a stage at plane ${index}`}
          className="group/insert grid size-6 place-items-center rounded-full"
        >
          <span className="grid size-4 place-items-center rounded-full border border-edge bg-sheet text-muted group-hover/insert:border-tide group-hover/insert:bg-tide group-hover/insert:text-sheet group-data-[state=open]/insert:bg-tide group-data-[state=open]/insert:text-sheet">
            <Plus size={11} aria-hidden />
          </span>
        </button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="menu" sideOffset={6} collisionPadding={8}>
          <DropdownMenu.Label className="px-3 pt-1 pb-1.5 text-xs text-muted">
            Insert here
          </DropdownMenu.Label>
          {stageChoices.map(({ choice, label, hint }) => (
            <DropdownMenu.Item
              key={choice}
              className="menu-item"
              onSelect={() => onInsert(index, choice)}
            >
              <span>{label}</span>
              <span className="ml-auto pl-4 text-xs text-muted">{hint}</span>
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
})
