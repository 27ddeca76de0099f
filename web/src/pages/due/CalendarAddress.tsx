import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { act, copyText } from '../../platform/act.ts'
import { accessQuery, makeToken } from '../../platform/api/accessQueries.ts'
import { zone } from '../../platform/api/dutyQueries.ts'
import { address } from '../../platform/base.ts'
import { SecretField } from '../../ui/SecretField.tsx'

/** The duties as a calendar: a file, or an address that a calendar program looks at again and again. */
export function CalendarAddress({ stationId }: { stationId: string }) {
  const { data: access } = useQuery(accessQuery)
  const [passphrase, setPassphrase] = useState('')
  const [key, setKey] = useState<string | null>(null)
  const path = address(`/api/stations/${stationId}/calendar.ics?zone=${encodeURIComponent(zone())}`)
  const whole = new URL(path, window.location.href).href + (key === null ? '' : `&key=${key}`)
  const asksForKey = access?.network === true && key === null
  return (
    <section aria-label="Calendar">
      <h3 className="border-b border-ink pb-1 font-bold">In your calendar</h3>
      <p className="py-1.5 text-sm">
        <a className="link" href={path} download>
          As a file (.ics)
        </a>
        , for once; or as an address that a calendar program subscribes to, where duties move with
        what is done.
      </p>
      {asksForKey ? (
        <form
          className="grid gap-2 sm:grid-cols-2"
          aria-label="Make an address"
          onSubmit={(event) => {
            event.preventDefault()
            void act(async () => {
              const made = await makeToken({ name: 'calendar', scope: 'calendar', passphrase })
              setPassphrase('')
              setKey(made.token)
            })
          }}
        >
          <SecretField
            label="Passphrase again"
            value={passphrase}
            onChange={setPassphrase}
            autoComplete="current-password"
          />
          <div className="self-end">
            <button type="submit" className="button" disabled={passphrase === ''}>
              Make an address
            </button>
          </div>
          <p className="text-sm text-muted sm:col-span-2">
            Its token gives the calendar alone. It is ended under{' '}
            <Link className="link" to="/access">
              network and devices
            </Link>
            .
          </p>
        </form>
      ) : (
        <>
          {key !== null && <p className="text-sm text-caution">▲ Shown this once. Copy it now.</p>}
          <p className="text-sm break-all">
            <code>{whole}</code>
          </p>
          <button
            type="button"
            className="button mt-1"
            onClick={() =>
              void act(async () => {
                await copyText(whole)
                return { said: 'Address copied.' }
              })
            }
          >
            Copy the address
          </button>
          {access?.network === false && (
            <p className="mt-1 text-sm text-muted">
              This server answers this machine alone. For a phone, start it with{' '}
              <span className="whitespace-nowrap">--network</span>.
            </p>
          )}
        </>
      )}
    </section>
  )
}
