import { useQuery } from '@tanstack/react-query'
import { Page } from '../../shell/Page.tsx'
import { accessQuery, signOut } from '../../platform/api/accessQueries.ts'
import { errorText } from '../../platform/errorText.ts'
import { act } from '../../platform/act.ts'
import { Problem } from '../../ui/Problem.tsx'
import { BringPhone } from './BringPhone.tsx'
import { Tokens } from './Tokens.tsx'

/** Who may in: a phone by a code, a script or a meter by a token; and out again. */
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
          <div className="mt-4 grid gap-x-10 gap-y-8 md:grid-cols-2">
            <BringPhone />
            <Tokens />
            <section aria-label="Sign out" className="md:col-span-2">
              <h3 className="border-b border-ink pb-1 font-bold">Sign out</h3>
              <p className="mt-2 flex flex-wrap gap-3">
                <button type="button" className="button" onClick={() => void leave(false)}>
                  This device
                </button>
                <button type="button" className="button" onClick={() => void leave(true)}>
                  Every device
                </button>
              </p>
              <p className="mt-1 text-sm text-muted">
                A device stays signed in for thirty days. Tokens are revoked one by one.
              </p>
            </section>
          </div>
        )}
      </div>
    </Page>
  )
}

const leave = (everywhere: boolean) =>
  act(async () => {
    await signOut(everywhere)
    location.replace('/sign-in')
  })
