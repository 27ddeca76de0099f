import { clockText } from '@saltline/contract'
import { type Entry, outbox, useOutbox } from '../../platform/outbox/index.ts'

/** Readings of this chain that the server has not taken: those that wait, and those that it refused. */
export function WaitingReadings({
  chainId,
  onTakeUp,
}: {
  chainId: string
  /** Back into the fields. */
  onTakeUp: (entry: Entry) => void
}) {
  const own = useOutbox().filter(
    (entry) =>
      entry.chainId === chainId && (entry.kind === 'reading' || entry.kind === 'correction'),
  )
  const refused = own.filter((entry) => entry.refused !== undefined)
  const waiting = own.filter((entry) => entry.refused === undefined)
  return (
    <>
      {refused.map((entry) => (
        <div key={entry.id} role="alert" className="rounded border border-danger p-2 text-sm">
          <p className="text-danger">⚠ Not saved: {entry.refused}</p>
          <p>
            {entry.said}, {clockText(entry.at)}
          </p>
          <p className="mt-1 flex flex-wrap gap-x-4">
            <button
              type="button"
              className="link min-h-6"
              onClick={() => {
                outbox.again(entry.id)
              }}
            >
              try again
            </button>
            {entry.kind === 'reading' && (
              <button type="button" className="link min-h-6" onClick={() => onTakeUp(entry)}>
                put it back into the fields
              </button>
            )}
            <button type="button" className="link min-h-6" onClick={() => outbox.discard(entry.id)}>
              discard it
            </button>
          </p>
        </div>
      ))}
      {waiting.length > 0 && (
        <div role="status" className="rounded border border-rule p-2 text-sm">
          <p>
            {waiting.length === 1 ? 'One reading waits' : `${waiting.length} readings wait`} to be
            sent. The server does not answer.
          </p>
          <ul className="text-muted">
            {waiting.map(({ id, said, at }) => (
              <li key={id}>
                {said}, {clockText(at)}
              </li>
            ))}
          </ul>
          {!outbox.kept && (
            <p className="text-danger">
              This browser’s storage is full or closed: keep this window open.
            </p>
          )}
        </div>
      )}
    </>
  )
}
