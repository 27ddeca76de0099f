/** The outbox of this browser, and when it is sent. */
import type { Run } from '@saltline/contract'
import { useSyncExternalStore } from 'react'
import { toast } from 'sonner'
import { send } from '../api/client.ts'
import { clockOffset } from '../clock.ts'
import { queryClient } from '../api/queries.ts'
import { browserStore } from '../storage.ts'
import { type Entry, Outbox } from './outbox.ts'

export type { Entry } from './outbox.ts'

/** A network that swallows a request must not hold the others up, ms. */
const GIVE_UP_MS = 20_000

export const outbox = new Outbox(
  browserStore(),
  (path, body) => send('PUT', path, body, { signal: AbortSignal.timeout(GIVE_UP_MS) }),
  {
    taken({ kind, path, shown }, answer) {
      if (shown !== undefined && !outbox.waiting(path))
        void showRun(path.split('/').at(-1)!, answer as Run)
      if (kind === 'attempt') return
      for (const queryKey of [['log'], ['bin'], ['runs'], ['things']])
        void queryClient.invalidateQueries({ queryKey })
    },
    late({ said }) {
      toast(`Sent: ${said}.`)
    },
  },
  serverClock,
)

/** Shows a run as it stands now: an answer that was asked for before would show the step that was left. */
export async function showRun(id: string, run: Run): Promise<void> {
  const queryKey = ['run', id]
  await queryClient.cancelQueries({ queryKey })
  queryClient.setQueryData(queryKey, run)
}

/** Asked of the server itself, where no answer has told it yet. */
async function serverClock(): Promise<number | null> {
  if (clockOffset() === null)
    await send('GET', '/health', undefined, { cache: 'no-store' }).catch(() => null)
  return clockOffset()
}

/** Sends what waited from last time, and whatever waits when the network may be back. */
export function startOutbox(): void {
  const wake = () => void outbox.wake()
  addEventListener('online', wake)
  addEventListener('storage', outbox.look)
  document.addEventListener('visibilitychange', wake)
  // Where the browser’s storage is full, what waits lasts as long as this window.
  addEventListener('beforeunload', (event) => {
    if (!outbox.kept) event.preventDefault()
  })
  wake()
}

/** What waits, oldest first. */
export const useOutbox = (): readonly Entry[] =>
  useSyncExternalStore(outbox.subscribe, outbox.getSnapshot)
