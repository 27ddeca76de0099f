import { useQuery } from '@tanstack/react-query'
import { Page } from '../../shell/Page.tsx'
import { accessQuery } from '../../platform/api/accessQueries.ts'
import { errorText } from '../../platform/errorText.ts'
import { Problem } from '../../ui/Problem.tsx'
import { BringPhone } from './BringPhone.tsx'
import { Devices } from './Devices.tsx'
import { NewPassphrase } from './NewPassphrase.tsx'
import { SignOut } from './SignOut.tsx'
import { Tokens } from './Tokens.tsx'

/** Who may in: a phone by a code, a script or a meter by a token; who is in, and out again. */
export function AccessPage() {
  const { data: access, error } = useQuery(accessQuery)
  return (
    <Page title="Network and devices">
      <div className="mx-auto max-w-4xl px-5 py-5">
        <h2 className="text-xl font-bold">Network and devices</h2>
        <Problem text={error && errorText(error)} />
        {access && !access.network && (
          <p className="mt-2 max-w-prose">
            This Salt Line answers this machine alone, and asks nobody. To let a phone or a second
            computer in, start it with <code>npm start -- --network</code>: it then asks for a
            passphrase.
          </p>
        )}
        {access?.network && (
          <>
            <Wire fingerprint={access.fingerprint} />
            <div className="mt-4 grid gap-x-10 gap-y-8 md:grid-cols-2">
              <BringPhone />
              <Tokens />
              <Devices />
              <NewPassphrase />
              <SignOut />
            </div>
          </>
        )}
      </div>
    </Page>
  )
}

/** How what is said crosses the network. */
export function Wire({ fingerprint }: { fingerprint: string | undefined }) {
  if (location.protocol !== 'https:')
    return (
      <p className="mt-2 max-w-prose text-sm text-caution">
        ▲ The passphrase and all figures cross the network in the clear: whoever listens on it reads
        them. Started with <code>--https</code> they do not.
      </p>
    )
  if (fingerprint === undefined) return null
  return (
    <p className="mt-2 max-w-prose text-sm text-muted">
      This Salt Line made its certificate itself, and a browser warns of it once. Compare the
      fingerprint (SHA-256) that it shows with this one before you go on:{' '}
      <code className="break-all">{fingerprint}</code>
    </p>
  )
}
