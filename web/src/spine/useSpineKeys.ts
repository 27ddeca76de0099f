import { type KeyboardEvent, useCallback } from 'react'
import { readSelection, writeSelection } from '../model/selection.ts'
import { wantPanel } from '../editor/panelFocus.ts'
import type { SpineActions } from './spineProps.ts'

const focusItem = (root: HTMLElement, item: string) =>
  root.querySelector<HTMLElement>(`[data-item="${item}"]`)?.focus()

/**
 * Keys on the spine. Arrows along it go from stage to stage, or from plane to plane; arrows across
 * change between the two rows. On a stage: Alt + arrow moves it, D doubles, B bypasses, I inserts
 * behind it, Delete removes.
 */
export function useSpineKeys(
  stageIds: readonly string[],
  vertical: boolean,
  actions: SpineActions,
) {
  return useCallback(
    (event: KeyboardEvent<HTMLElement>) => {
      const root = event.currentTarget
      const item = (event.target as HTMLElement).closest<HTMLElement>('[data-item]')?.dataset[
        'item'
      ]
      if (!item || event.ctrlKey || event.metaKey) return
      const [back, forward] = vertical ? ['ArrowUp', 'ArrowDown'] : ['ArrowLeft', 'ArrowRight']
      const [toPlanes, toStages] = vertical ? ['ArrowRight', 'ArrowLeft'] : ['ArrowUp', 'ArrowDown']
      const stages = [
        'transmitter',
        ...stageIds.map((id) => writeSelection({ kind: 'stage', id })),
        'antenna',
      ]
      const planes = [...stageIds, ''].map((_, index) => writeSelection({ kind: 'plane', index }))
      const row = item.startsWith('plane') ? planes : stages
      const index = row.indexOf(item)
      const stageId = item.startsWith('stage:') ? item.slice('stage:'.length) : null
      const done = () => event.preventDefault()

      if (event.key === back || event.key === forward) {
        const by = event.key === back ? -1 : 1
        if (event.altKey) {
          if (stageId) actions.move(stageId, by)
        } else {
          const next = row[index + by]
          if (next) focusItem(root, next)
        }
        return done()
      }
      if (event.altKey) return
      if (event.key === toPlanes && row === stages) {
        focusItem(root, planes[Math.min(index, planes.length - 1)]!)
        return done()
      }
      if (event.key === toStages && row === planes) {
        focusItem(root, stages[index + 1] ?? 'antenna')
        return done()
      }
      if (event.key === 'Enter' || event.key === ' ') {
        const chosen = readSelection(item)
        return chosen ? wantPanel(chosen) : undefined
      }
      if (event.key.toLowerCase() === 'i' && item.startsWith('plane')) {
        const plane = { kind: 'plane', index } as const
        wantPanel(plane, 'insert')
        actions.select(plane)
        return done()
      }
      if (!stageId) return
      const key = event.key.toLowerCase()
      if (key === 'delete' || key === 'backspace') {
        focusItem(root, stages[index - 1] ?? 'transmitter')
        actions.remove(stageId)
      } else if (key === 'd') actions.duplicate(stageId)
      else if (key === 'b') actions.toggleBypass(stageId)
      else if (key === 'i') actions.insertAfter(stageId)
      else return
      done()
    },
    [stageIds, vertical, actions],
  )
}
