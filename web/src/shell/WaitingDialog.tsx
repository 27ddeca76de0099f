import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { chainAddress } from '../editor/useChainAddress.ts'
import { clockText, dayText } from '@saltline/contract'
import { stationsQuery } from '../platform/api/queries.ts'
import { useReach } from '../platform/api/reach.ts'
import { type Entry, outbox, useOutbox } from '../platform/outbox/index.ts'
import { Dialog } from '../ui/Dialog.tsx'

/** What was entered and not yet taken, with why; and how old what is shown is. */
export default function WaitingDialog({ onClose }: { onClose: () => void }) {
  const entries = useOutbox()
  const { answers, asOf } = useReach()
  const { data: stations = [] } = useQuery(stationsQuery)
  const pageOf = ({ chainId, kind, path }: Entry): string | null => {
    const station = stations.find(({ chains }) => chains.some(({ id }) => id === chainId))
    if (!station || chainId === null) return null
    return kind === 'step'
      ? `${chainAddress(station.id, chainId, 'run')}?run=${path.split('/').at(-1)}`
      : chainAddress(station.id, chainId, 'log')
  }
  return (
    <Dialog title="Waiting to be sent" onClose={onClose}>
      <p className="max-w-lg text-sm">
        {answers
          ? 'The server answers.'
          : 'The server does not answer. It is asked again by itself; readings, steps of run sheets and drills are kept in this browser and sent in order.'}
        {asOf !== null && ` What is shown is as of ${dayText(asOf)}, ${clockText(asOf)}.`}
      </p>
      {entries.length === 0 ? (
        <p className="py-3 text-muted">Nothing waits.</p>
      ) : (
        <ul className="mt-2 max-h-[50vh] min-w-72 overflow-y-auto">
          {entries.map((entry) => {
            const page = pageOf(entry)
            return (
              <li key={entry.id} className="border-t border-rule py-2 text-sm">
                <p>{entry.said}</p>
                <p className="text-muted">
                  {kindWords[entry.kind]}, {dayText(entry.at)}, {clockText(entry.at)}
                </p>
                {entry.refused !== undefined && (
                  <p className="text-danger">⚠ Not taken: {entry.refused}</p>
                )}
                <p className="mt-1 flex flex-wrap gap-x-4">
                  {page !== null && (
                    <Link className="link min-h-6" to={page} onClick={onClose}>
                      {entry.kind === 'step' ? 'to the run' : 'to its log'}
                    </Link>
                  )}
                  {entry.shiftMs !== undefined ? (
                    <>
                      <button
                        type="button"
                        className="link min-h-6"
                        onClick={() => outbox.dated(entry.id, true)}
                      >
                        send it as of {dayText(entry.at + entry.shiftMs)},{' '}
                        {clockText(entry.at + entry.shiftMs)}
                      </button>
                      <button
                        type="button"
                        className="link min-h-6"
                        onClick={() => outbox.dated(entry.id, false)}
                      >
                        the date is right as it is
                      </button>
                    </>
                  ) : (
                    entry.refused !== undefined && (
                      <button
                        type="button"
                        className="link min-h-6"
                        onClick={() => outbox.again(entry.id)}
                      >
                        try again
                      </button>
                    )
                  )}
                  <button
                    type="button"
                    className="link min-h-6"
                    onClick={() => outbox.discard(entry.id)}
                  >
                    discard it
                  </button>
                </p>
              </li>
            )
          })}
        </ul>
      )}
      {!outbox.kept && (
        <p className="mt-2 text-sm text-danger">
          ▲ This browser’s storage is full or closed: what waits is lost with this window.
        </p>
      )}
      <button type="button" className="button mt-3" onClick={() => void outbox.wake()}>
        Ask the server now
      </button>
    </Dialog>
  )
}

const kindWords: Record<Entry['kind'], string> = {
  reading: 'reading',
  correction: 'corrected reading',
  step: 'run sheet',
  attempt: 'drill',
  mark: 'duty',
  note: 'note on a thing',
  sweep: 'sweep',
}
