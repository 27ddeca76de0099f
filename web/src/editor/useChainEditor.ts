import { onChainChanged } from '../platform/api/changes.ts'
import type { ChainState } from '@saltline/contract'
import { useEffect, useMemo, useSyncExternalStore } from 'react'
import { browserStore } from '../platform/storage.ts'
import { ChainEditor, type EditorSnapshot } from './chainEditor.ts'

const KEY = 'saltline.window'
const makeName = (): string => `${Date.now().toString(36)}${Math.random().toString(36).slice(2, 8)}`

/**
 * A name for this window that survives a reload. A window that was duplicated begins with the name of the
 * other; it asks around, and takes a new one where that is in use.
 */
const windowName = (() => {
  let name: string
  try {
    name = sessionStorage.getItem(KEY) ?? makeName()
    sessionStorage.setItem(KEY, name)
  } catch {
    name = makeName()
  }
  if (typeof BroadcastChannel !== 'undefined') {
    const own = makeName()
    const channel = new BroadcastChannel(KEY)
    channel.onmessage = ({ data }: MessageEvent<{ asks?: string; taken?: string; by: string }>) => {
      if (data.by === own) return
      if (data.asks === name) channel.postMessage({ taken: name, by: own })
      if (data.taken === name) {
        name = makeName()
        try {
          sessionStorage.setItem(KEY, name)
        } catch {
          // Closed storage: the name lives as long as this page.
        }
      }
    }
    channel.postMessage({ asks: name, by: own })
  }
  return () => name
})()

/** The editor of a chain for as long as its page is open; saves when the page is left. */
export function useChainEditor(state: ChainState): ChainEditor {
  // One editor a chain; a newer state of the same chain reaches it by its own refresh.
  const editor = useMemo(() => new ChainEditor(state, browserStore(), windowName), [state.id]) // oxlint-disable-line react/exhaustive-deps
  useEffect(() => {
    const leave = () => editor.leave()
    const look = () => void editor.refresh()
    addEventListener('pagehide', leave)
    addEventListener('focus', look)
    const unwatch = onChainChanged((id) => (id === null || id === state.id) && look())
    return () => {
      removeEventListener('pagehide', leave)
      removeEventListener('focus', look)
      unwatch()
      editor.dispose()
    }
  }, [editor, state.id])
  return editor
}

/** One thing that an editor says of itself: whoever reads it is rendered when it is another one. */
export const useEdited = <T>(editor: ChainEditor, read: (snapshot: EditorSnapshot) => T): T =>
  useSyncExternalStore(editor.subscribe, () => read(editor.getSnapshot()))
