import { address } from '../../platform/base.ts'
import { useState } from 'react'
import { act } from '../../platform/act.ts'
import { signOut, signOutEverywhere } from '../../platform/api/accessQueries.ts'
import { outbox, useOutbox } from '../../platform/outbox/index.ts'
import { forgetKept } from '../../platform/useKept.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { TokensToo } from './NewPassphrase.tsx'

type Asked = 'here' | 'everywhere'

const leave = async (which: Asked, tokens: boolean) => {
  if (which === 'everywhere') await signOutEverywhere(tokens)
  else await signOut()
  forgetKept()
  location.replace(address('/sign-in'))
}

/** Out again, with what waits to be sent asked about first. */
export function SignOut() {
  const entries = useOutbox()
  const [tokens, setTokens] = useState(false)
  const [asked, setAsked] = useState<Asked | null>(null)
  const ask = (which: Asked) => {
    if (entries.length > 0) setAsked(which)
    else void act(() => leave(which, tokens))
  }
  return (
    <section aria-label="Sign out">
      <h3 className="border-b border-ink pb-1 font-bold">Sign out</h3>
      <p className="mt-2 flex flex-wrap gap-3">
        <button type="button" className="button" onClick={() => ask('here')}>
          This device
        </button>
        <button type="button" className="button" onClick={() => ask('everywhere')}>
          Every device
        </button>
      </p>
      <div className="mt-2">
        <TokensToo
          label="with every device, tokens of scripts and meters end too"
          checked={tokens}
          onChange={setTokens}
        />
      </div>
      <p className="mt-1 text-sm text-muted">
        A device stays signed in for thirty days, and for fourteen without being used. What this
        browser keeps for reading without the server goes with signing out.
      </p>
      {asked && (
        <Unsent
          count={entries.length}
          onClose={() => setAsked(null)}
          onLeave={() => void act(() => leave(asked, tokens))}
        />
      )}
    </section>
  )
}

/** What was entered here and is not at the server. */
function Unsent({
  count,
  onClose,
  onLeave,
}: {
  count: number
  onClose: () => void
  onLeave: () => void
}) {
  const many = count === 1 ? 'One entry is' : `${count} entries are`
  return (
    <Dialog title="Not everything was sent" onClose={onClose}>
      <p className="max-w-md">
        {many} in this browser alone. Kept, they are sent by whoever signs in here next.
      </p>
      <p className="mt-3 flex flex-wrap gap-3">
        <button
          type="button"
          className="button button-main"
          onClick={() =>
            void act(async () => {
              await outbox.wake()
              if (outbox.getSnapshot().length > 0)
                return { said: 'Not all of it could be sent. Nobody is signed out.' }
              onLeave()
            })
          }
        >
          Send first
        </button>
        <button type="button" className="button" onClick={onLeave}>
          Keep and sign out
        </button>
        <button
          type="button"
          className="button"
          onClick={() => {
            for (const { id } of outbox.getSnapshot()) outbox.discard(id)
            onLeave()
          }}
        >
          Throw away and sign out
        </button>
      </p>
    </Dialog>
  )
}
