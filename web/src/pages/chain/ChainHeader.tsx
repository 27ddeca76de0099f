import type { Station } from '@saltline/contract'
import { Redo2, Undo2 } from 'lucide-react'
import { memo } from 'react'
import { Link } from 'react-router'
import { Header } from '../../shell/Header.tsx'
import { Tools } from '../../shell/Tools.tsx'
import { useHelp } from '../../shell/useHelp.ts'
import { ChainMenu } from './ChainMenu.tsx'
import type { ChainEditor } from '../../editor/chainEditor.ts'
import { useEdited } from '../../editor/useChainEditor.ts'
import { SaveState } from './SaveState.tsx'
import type { ChainCommands } from '../../editor/useChainCommands.ts'

interface Props {
  station: Station
  chainId: string
  name: string
  editor: ChainEditor
  onPutBack: () => void
  commands: ChainCommands
  onOpen: (chainId: string) => void
}

/** Where one is, whether it is safe, and the way back. */
export const ChainHeader = memo(function ChainHeader(props: Props) {
  const { station, commands } = props
  const { open } = useHelp()
  return (
    <Header stationId={station.id} tools={<Tools onFind={commands.find} onHelp={open} />}>
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
        onRename={commands.rename}
        onCopy={commands.copy}
        onDelete={commands.remove}
      />
      <SaveState editor={props.editor} onHistory={commands.history} onPutBack={props.onPutBack} />
      <Steps editor={props.editor} commands={commands} />
    </Header>
  )
})

/** Back, and forward again. */
function Steps({ editor, commands }: Pick<Props, 'editor' | 'commands'>) {
  const canUndo = useEdited(editor, (now) => now.canUndo)
  const canRedo = useEdited(editor, (now) => now.canRedo)
  return (
    <>
      <button
        type="button"
        className="quiet shrink-0 !px-1.5"
        disabled={!canUndo}
        onClick={commands.undo}
        aria-label="Undo"
      >
        <Undo2 size={16} aria-hidden />
      </button>
      <button
        type="button"
        className="quiet shrink-0 !px-1.5"
        disabled={!canRedo}
        onClick={commands.redo}
        aria-label="Redo"
      >
        <Redo2 size={16} aria-hidden />
      </button>
    </>
  )
}
