import { address } from '../../platform/base.ts'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useSearchParams } from 'react-router'
import { accessQuery, signIn, signOut, usualDeviceName } from '../../platform/api/accessQueries.ts'
import { owesSignOut } from '../../platform/api/client.ts'
import { errorText } from '../../platform/errorText.ts'
import { TextField } from '../../ui/TextField.tsx'
import { Wire } from './AccessPage.tsx'
import { Gate } from './Gate.tsx'
import { SecretField } from '../../ui/SecretField.tsx'

/** The server is asked so often whether it answers, ms. */
const AGAIN_MS = 3000

/** The passphrase of a station that is open to the network. */
export function SignInPage() {
  const [search] = useSearchParams()
  const { data: access } = useQuery(accessQuery)
  const [passphrase, setPassphrase] = useState('')
  const [device, setDevice] = useState(usualDeviceName)
  const [trouble, setTrouble] = useState<string | null>(null)
  const [busy, setBusy] = useState(false)
  const owed = useOwedSignOut()
  const enter = async () => {
    setBusy(true)
    try {
      await signIn(passphrase, device)
      // A new document: nothing that was refused is held any more.
      location.replace(placeOf(search.get('to')))
    } catch (error) {
      setTrouble(errorText(error))
      setBusy(false)
    }
  }
  return (
    <Gate title="Sign in">
      {owed && (
        <p role="status" className="mb-3 text-sm text-caution">
          ▲ This browser has forgotten the station. The server did not answer, and is told that this
          device is signed out as soon as it does; leave this page open until then.
        </p>
      )}
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault()
          void enter()
        }}
      >
        <SecretField
          label="Passphrase of the station"
          value={passphrase}
          onChange={(text) => {
            setPassphrase(text)
            setTrouble(null)
          }}
          autoComplete="current-password"
          error={trouble}
          autoFocus
        />
        <TextField label="Name of this device" value={device} most={60} onChange={setDevice} />
        <button
          type="submit"
          className="button button-main w-full"
          disabled={passphrase === '' || busy}
        >
          Sign in
        </button>
        <p className="text-sm text-muted">
          Who runs the station’s Salt Line has the passphrase. A phone gets in without it: on a
          device that is signed in, open <i>Network and devices</i> and make a code.
        </p>
        {access?.network && <Wire fingerprint={access.fingerprint} />}
      </form>
    </Gate>
  )
}

/** Tells the server what it could not be told before; true for as long as it does not know. */
function useOwedSignOut(): boolean {
  const [owed, setOwed] = useState(() => owesSignOut.get())
  useEffect(() => {
    if (!owed) return
    const tell = () => void signOut().then((known) => setOwed(!known))
    tell()
    const timer = setInterval(tell, AGAIN_MS)
    return () => clearInterval(timer)
  }, [owed])
  return owed
}

/** Where one was going, if that is a place in here. */
const placeOf = (to: string | null): string =>
  to && to.startsWith('/') && !to.startsWith('//') && !to.includes('\\') ? to : address('/')
