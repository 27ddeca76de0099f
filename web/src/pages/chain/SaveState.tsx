import type { ChainEditor } from '../../editor/chainEditor.ts'
import { useEdited } from '../../editor/useChainEditor.ts'

/** Whether what is on the screen is safe; press it for the revisions. */
export function SaveState({
  editor,
  onHistory,
  onPutBack,
}: {
  editor: ChainEditor
  onHistory: () => void
  onPutBack: () => void
}) {
  const status = useEdited(editor, (now) => now.status)
  const refusedEdit = useEdited(editor, (now) => now.refusedEdit)
  const revision = useEdited(editor, (now) => now.revision)
  if (status.kind === 'refused') {
    return (
      <span role="alert" className="text-sm text-danger">
        ⚠ not saved: {status.message}{' '}
        <button type="button" className="link text-sm" onClick={onPutBack}>
          put it back
        </button>
      </span>
    )
  }
  if (status.kind === 'waiting')
    return (
      <span role="alert" className="text-sm text-caution">
        ⚠ {status.message}{' '}
        {status.kept
          ? 'Your edits are kept in this browser and are sent again.'
          : 'This browser’s storage is full or closed: keep this window open; your edits are sent again.'}
      </span>
    )
  return (
    <span className="flex items-center gap-2">
      {refusedEdit !== null && (
        <span role="alert" className="text-sm text-danger">
          ⚠ not changed: {refusedEdit}
        </span>
      )}
      <span role="status">
        <button
          type="button"
          className="quiet shrink-0 !px-1.5 text-sm whitespace-nowrap"
          onClick={onHistory}
          title="Show the revisions"
        >
          {status.kind === 'saving' ? (
            'saving…'
          ) : (
            <span>
              saved<span className="max-sm:hidden">, revision {revision}</span>
            </span>
          )}
        </button>
      </span>
    </span>
  )
}
