import type { SaveStatus } from './chainEditor.ts'

/** Whether what is on the screen is safe; press it for the revisions. */
export function SaveState({
  status,
  revision,
  onHistory,
}: {
  status: SaveStatus
  revision: number
  onHistory: () => void
}) {
  if (status.kind === 'refused') {
    return (
      <span role="alert" className="text-sm text-danger">
        ⚠ not saved: {status.message}
      </span>
    )
  }
  return (
    <span role="status">
      <button
        type="button"
        className="quiet !px-1.5 text-sm"
        onClick={onHistory}
        title="Show the revisions"
      >
        {status.kind === 'saving' && 'saving…'}
        {status.kind === 'offline' && '⚠ the server does not answer; kept in this browser'}
        {status.kind === 'saved' && (
          <span>
            saved<span className="max-sm:hidden">, revision {revision}</span>
          </span>
        )}
      </button>
    </span>
  )
}
