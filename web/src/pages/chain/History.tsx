import type { ChainDocument } from '@saltline/contract'
import { useQuery } from '@tanstack/react-query'
import type { ChainEditor } from '../../editor/chainEditor.ts'
import { useEdited } from '../../editor/useChainEditor.ts'
import { act } from '../../platform/act.ts'
import { readRevision, revisionsQuery } from '../../platform/api/queries.ts'
import { Dialog } from '../../ui/Dialog.tsx'

const when = new Intl.DateTimeFormat(undefined, { dateStyle: 'medium', timeStyle: 'short' })

/** Every revision of the chain; going back to one makes it the newest. */
export default function History({
  chainId,
  editor,
  onClose,
  onTake,
}: {
  chainId: string
  editor: ChainEditor
  onClose: () => void
  onTake: (document: ChainDocument) => void
}) {
  const revision = useEdited(editor, (now) => now.revision)
  const { data, error } = useQuery(revisionsQuery(chainId, revision))
  const take = (wanted: number) =>
    act(async () => {
      onTake(await readRevision(chainId, wanted))
      onClose()
    })
  return (
    <Dialog title="Revisions" onClose={onClose}>
      {error && <p className="text-danger">{error.message}</p>}
      <ol className="divide-y divide-rule">
        {data?.map((entry) => (
          <li key={entry.revision} className="flex items-baseline gap-3 py-1.5 text-sm">
            <b className="w-8 text-right">{entry.revision}</b>
            <span className="flex-1">
              {entry.summary || 'edited'}
              {entry.aside && <span className="text-muted">, kept aside when two edits met</span>}
            </span>
            <span className="text-xs whitespace-nowrap text-muted">
              {when.format(new Date(entry.savedAt))}
            </span>
            {entry.revision === revision ? (
              <span className="w-16 text-right text-xs text-muted">now</span>
            ) : (
              <button
                type="button"
                className="link w-16 text-right text-xs"
                onClick={() => void take(entry.revision)}
              >
                go back
              </button>
            )}
          </li>
        ))}
      </ol>
    </Dialog>
  )
}
