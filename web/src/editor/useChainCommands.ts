import type { Station } from '@saltline/contract'
import { useMemo } from 'react'
import { act } from '../platform/act.ts'
import { address } from '../platform/base.ts'
import { createChain, deleteChain, restoreChain } from '../platform/api/queries.ts'
import type { ChainEditor } from './chainEditor.ts'
import type { ChainView } from './useChainView.ts'

export interface ChainCommands {
  undo: () => void
  redo: () => void
  copy: () => void
  remove: () => void
  spine: () => void
  table: () => void
  zoom: () => void
  find: () => void
  history: () => void
  rename: () => void
}

/** What can be done on a chain's page besides editing; stable, so that typing does not redraw the menus. */
export function useChainCommands(
  editor: ChainEditor,
  station: Station,
  chainId: string,
  openChain: (id: string) => void,
  { show, toggleTable, toggleZoom }: Pick<ChainView, 'show' | 'toggleTable' | 'toggleZoom'>,
): ChainCommands {
  return useMemo(() => {
    const copy = async () => {
      const { document } = editor.getSnapshot()
      const name = `${document.name}, copy`.slice(0, 80)
      const made = await createChain(station.id, { ...document, name })
      openChain(made.id)
      return { said: `Copied. You are now in “${name}”.` }
    }
    const remove = async () => {
      await editor.flush()
      await deleteChain(chainId)
      const next = station.chains.find(({ id }) => id !== chainId)
      if (next) openChain(next.id)
      else location.assign(address(`/station/${station.id}`))
      return {
        said: `“${editor.getSnapshot().document.name}” is in the station’s bin.`,
        undo: async () => openChain((await restoreChain(chainId)).id),
      }
    }
    return {
      undo: () => void editor.step('undo'),
      redo: () => void editor.step('redo'),
      copy: () => void act(copy),
      remove: () => void act(remove),
      spine: () => window.document.querySelector<HTMLElement>('[data-item][tabindex="0"]')?.focus(),
      table: toggleTable,
      zoom: toggleZoom,
      find: () => show('find'),
      history: () => show('history'),
      rename: () => show('rename'),
    }
  }, [editor, station, chainId, openChain, show, toggleTable, toggleZoom])
}
