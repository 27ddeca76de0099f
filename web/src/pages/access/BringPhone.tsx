import type { JoinCode } from '@saltline/contract'
import { useEffect, useState } from 'react'
import { makeCode } from '../../platform/api/accessQueries.ts'
import { act, copyText } from '../../platform/act.ts'
import { QrCode } from '../../ui/QrCode.tsx'

/** A code that brings a phone in, as a picture and as an address. */
export function BringPhone() {
  const [made, setMade] = useState<JoinCode | null>(null)
  const [which, setWhich] = useState(0)
  const [left, setLeft] = useState(0)
  useEffect(() => {
    if (!made) return
    const tell = () =>
      setLeft(Math.max(0, Math.ceil((Date.parse(made.expiresAt) - Date.now()) / 1000)))
    tell()
    const timer = setInterval(tell, 1000)
    return () => clearInterval(timer)
  }, [made])
  const link = made?.links[which] ?? made?.links[0]
  return (
    <section aria-label="Bring a phone in">
      <h3 className="border-b border-ink pb-1 font-bold">Bring a phone in</h3>
      {made && link && left > 0 ? (
        <div className="mt-3">
          <QrCode text={link} />
          <p className="mt-2 break-all">{link}</p>
          <p role="status" className="text-sm text-muted">
            Good once, for another {left} s. Whoever opens it is in.
          </p>
          {made.links.length > 1 && (
            <label className="mt-2 block text-xs text-muted">
              Address of this machine
              <select
                className="field"
                value={which}
                onChange={({ target }) => setWhich(Number(target.value))}
              >
                {made.links.map((each, i) => (
                  <option key={each} value={i}>
                    {new URL(each).host}
                  </option>
                ))}
              </select>
            </label>
          )}
          <p className="mt-2">
            <button
              type="button"
              className="button"
              onClick={() =>
                void act(async () => {
                  await copyText(link)
                  return { said: 'Address copied.' }
                })
              }
            >
              Copy the address
            </button>
          </p>
        </div>
      ) : (
        <>
          <p className="mt-2 text-sm text-muted">
            {made
              ? 'That code has run out.'
              : 'A code that the phone’s camera reads; it works once, for two minutes.'}
          </p>
          <button
            type="button"
            className="button button-main mt-3"
            onClick={() =>
              void act(async () => {
                setMade(await makeCode())
              })
            }
          >
            Make a code
          </button>
        </>
      )}
    </section>
  )
}
