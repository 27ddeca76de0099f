import type { Station } from '@saltline/contract'
import { Redo2, Undo2 } from 'lucide-react'
import { memo } from 'react'
import { Link } from 'react-router'
import { Header } from '../app/Header.tsx'
import { Tools } from '../app/Tools.tsx'
import { ChainMenu } from './ChainMenu.tsx'
import type { SaveStatus } from './chainEditor.ts'
import { SaveState } from './SaveState.tsx'
import type { ChainDeeds } from './useChainDeeds.ts'

interface Props {
  station: Station
  chainId: string
  name: string
  status: SaveStatus
  refusedEdit: string | null
  onPutBack: () => void
  revision: number
  canUndo: boolean
  canRedo: boolean
  deeds: ChainDeeds
  onOpen: (chainId: string) => void
}

/** Where one is, whether it is safe, and the way back. */
export const ChainHeader = memo(function ChainHeader(props: Props) {
  const { station, deeds } = props
  return (
    <Header stationId={station.id} tools={<Tools onFind={deeds.find} onHelp={deeds.help} />}>
      <Link
        to={`/station/${station.id}`}
        className="truncate text-muted hover:text-ink max-sm:hidden"
      >
        {station.name}
      </Link>
      <span className="text-muted max-sm:hidden">/</span>
      <ChainMenu
        station={station}
        chainId={props.chainId}
        name={props.name}
        onOpen={props.onOpen}
        onRename={deeds.rename}
        onCopy={deeds.copy}
        onDelete={deeds.remove}
      />
      <SaveState
        status={props.status}
        refusedEdit={props.refusedEdit}
        revision={props.revision}
        onHistory={deeds.history}
        onPutBack={props.onPutBack}
      />
      <button
        type="button"
        className="quiet !px-1.5"
        disabled={!props.canUndo}
        onClick={deeds.undo}
        aria-label="Undo"
      >
        <Undo2 size={16} aria-hidden />
      </button>
      <button
        type="button"
        className="quiet !px-1.5"
        disabled={!props.canRedo}
        onClick={deeds.redo}
        aria-label="Redo"
      >
        <Redo2 size={16} aria-hidden />
      </button>
    </Header>
  )
})
