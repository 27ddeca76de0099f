import { useQuery, useQueryClient } from '@tanstack/react-query'
import { clockText, dayText } from '@saltline/contract'
import { act } from '../../platform/act.ts'
import { devicesQuery, endDevice } from '../../platform/api/accessQueries.ts'

/** Who is signed in, each ended alone, and who has tried. */
export function Devices() {
  const client = useQueryClient()
  const { data: { devices, events } = { devices: [], events: [] } } = useQuery(devicesQuery)
  return (
    <section aria-label="Devices">
      <h3 className="border-b border-ink pb-1 font-bold">Devices that are signed in</h3>
      <ul className="mt-2 text-sm">
        {devices.map(({ id, name, address, signedInAt, seenAt, here }) => (
          <li
            key={id}
            className="flex items-baseline justify-between gap-3 border-t border-rule py-1 first:border-t-0"
          >
            <span>
              <b>{name}</b>
              {here && ', this one'}
              <span className="block text-muted">
                from {address || 'an unknown address'}, since {dayText(signedInAt)}, last seen{' '}
                {dayText(seenAt)} {clockText(seenAt)}
              </span>
            </span>
            {!here && (
              <button
                type="button"
                className="link min-h-6 shrink-0"
                aria-label={`Sign out ${name}, last seen ${dayText(seenAt)} ${clockText(seenAt)}`}
                onClick={() =>
                  void act(async () => {
                    await endDevice(id)
                    await client.invalidateQueries(devicesQuery)
                    return { said: `${name} is signed out.` }
                  })
                }
              >
                sign out
              </button>
            )}
          </li>
        ))}
      </ul>
      {events.length > 0 && (
        <>
          <h4 className="mt-3 text-sm text-muted">Sign-ins and refusals</h4>
          <ul
            className="max-h-40 overflow-y-auto text-sm"
            tabIndex={0}
            aria-label="Sign-ins and refusals"
          >
            {events.map(({ at, event, address }) => (
              <li key={`${at}${event}`} className={/refused/.test(event) ? 'text-caution' : ''}>
                {/refused/.test(event) && '▲ '}
                {dayText(at)} {clockText(at)}: {event}, from {address}
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  )
}
