import type { ChainState } from '@saltline/contract'
import { useEffect, useMemo, useSyncExternalStore } from 'react'
import { ChainEditor, type EditorSnapshot } from './chainEditor.ts'

/** A name for this window that survives a reload. */
function windowName(): string {
  try {
    const KEY = 'saltline.window'
    const known = sessionStorage.getItem(KEY)
    if (known) return known
    const made = String(performance.timeOrigin + performance.now())
    sessionStorage.setItem(KEY, made)
    return made
  } catch {
    return 'unnamed'
  }
}

const nowhere = { getItem: () => null, setItem: () => undefined, removeItem: () => undefined }

function drafts() {
  try {
    return localStorage
  } catch {
    return nowhere
  }
}

/** The editor of a chain for as long as its page is open; saves when the page is left. */
export function useChainEditor(state: ChainState): [ChainEditor, EditorSnapshot] {
  // One editor a chain; a newer state of the same chain reaches it by its own refresh.
  const editor = useMemo(() => new ChainEditor(state, drafts(), windowName()), [state.id]) // eslint-disable-line react-hooks/exhaustive-deps
  const snapshot = useSyncExternalStore(editor.subscribe, editor.getSnapshot)
  useEffect(() => {
    const leave = () => editor.dispose()
    const look = () => void editor.refresh()
    addEventListener('pagehide', leave)
    addEventListener('focus', look)
    return () => {
      removeEventListener('pagehide', leave)
      removeEventListener('focus', look)
      editor.dispose()
    }
  }, [editor])
  return [editor, snapshot]
}
