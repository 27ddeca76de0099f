import { useSyncExternalStore } from 'react'
import { type Selection, writeSelection } from '../model/selection.ts'

/** To land in the side panel about this item, once it is there. */
interface PanelWish {
  item: string
  part: 'field' | 'insert'
}

let wish: PanelWish | null = null
const listeners = new Set<() => void>()

const change = (next: PanelWish | null): void => {
  wish = next
  for (const listener of listeners) listener()
}

/**
 * The focus shall go into the panel about this, because somebody picked it just now. A panel that is there when the page
 * loads takes no focus: somebody may have begun elsewhere already.
 */
export const wantPanel = (selection: Selection, part: PanelWish['part'] = 'field'): void =>
  change({ item: writeSelection(selection), part })

/** Called when the focus has gone there. */
export const forgetPanelWish = (): void => change(null)

const subscribe = (listener: () => void) => {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

export const usePanelWish = (): PanelWish | null => useSyncExternalStore(subscribe, () => wish)
