import { useId, useState } from 'react'
import { useSearchParams } from 'react-router'
import { signIn } from '../../platform/api/accessQueries.ts'
import { errorText } from '../../platform/errorText.ts'
import { Gate } from './Gate.tsx'

/** The passphrase of a station that is open to the network. */
export function SignInPage() {
  const id = useId()
  const [search] = useSearchParams()
  const [passphrase, setPassphrase] = useState('')
  const [shown, setShown] = useState(false)
  const [trouble, setTrouble] = useState<string | null>(null)
  const [busy, setBusy] = useState(false)
  const enter = async () => {
    setBusy(true)
    try {
      await signIn(passphrase)
      // A new document: nothing that was refused is held any more.
      location.replace(placeOf(search.get('to')))
    } catch (error) {
      setTrouble(errorText(error))
      setBusy(false)
    }
  }
  return (
    <Gate title="Sign in">
      <form
        onSubmit={(event) => {
          event.preventDefault()
          void enter()
        }}
      >
        <label htmlFor={id} className="mb-0.5 block text-sm text-muted">
          Passphrase of the station
        </label>
        <input
          id={id}
          className="field"
          type={shown ? 'text' : 'password'}
          autoComplete="current-password"
          autoFocus
          value={passphrase}
          aria-invalid={trouble !== null}
          aria-describedby={trouble ? `${id}-trouble` : undefined}
          onChange={({ target }) => setPassphrase(target.value)}
        />
        <label className="mt-1.5 flex min-h-6 items-center gap-2 text-sm text-muted">
          <input
            type="checkbox"
            className="size-4 accent-tide"
            checked={shown}
            onChange={({ target }) => setShown(target.checked)}
          />
          show it
        </label>
        {trouble && (
          <p id={`${id}-trouble`} role="alert" className="mt-2 text-sm text-danger">
            ⚠ {trouble}
          </p>
        )}
        <button
          type="submit"
          className="button button-main mt-4 w-full"
          disabled={passphrase === '' || busy}
        >
          Sign in
        </button>
        <p className="mt-4 text-sm text-muted">
          Who runs the station’s Salt Line has the passphrase. A phone gets in without it: on a
          device that is signed in, open <i>Network and devices</i> and make a code.
        </p>
      </form>
    </Gate>
  )
}

/** Where one was going, if that is a place in here. */
const placeOf = (to: string | null): string =>
  to && to.startsWith('/') && !to.startsWith('//') && !to.includes('\\') ? to : '/'
