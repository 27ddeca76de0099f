import type { ChainDocument } from '@saltline/contract'
import { limits } from '@saltline/contract'
import { type Priors, usualPriors } from '@saltline/core'
import { useState } from 'react'
import type { Edit } from '../../model/edits.ts'
import { Dialog } from '../../ui/Dialog.tsx'
import { PlainField } from '../../ui/quantities.tsx'

const fields: readonly [keyof Priors, label: string, hint?: string][] = [
  ['none', 'Nothing is wrong'],
  ['transmitter', 'Transmitter, on every channel'],
  ['transmitterOnChannel', 'Transmitter, on one channel'],
  ['loss', 'A loss in a part', 'joint, connector, water'],
  ['aged', 'An aged cable'],
  ['antenna', 'Antenna, on every channel'],
  ['antennaOnChannel', 'Antenna, on one channel'],
  ['meter', 'A meter that is off', 'or read on another scale'],
  ['averaging', 'A meter that shows the average', 'where it should show peaks'],
  ['common mode', 'Common-mode current'],
  ['slip', 'A slip in a reading'],
]

/** How likely each cause is before anything is read: one table, the same for every round of this chain. */
export function PriorsLink({
  document,
  edit,
}: {
  document: ChainDocument
  edit: (edit: Edit) => void
}) {
  const [open, setOpen] = useState(false)
  const now = document.priors ?? usualPriors
  const [least, most] = limits.prior
  return (
    <>
      <button type="button" className="link" onClick={() => setOpen(true)}>
        {document.priors
          ? 'How likely each is beforehand, changed'
          : 'How likely each is beforehand'}
      </button>
      {open && (
        <Dialog title="How likely before anything is read" onClose={() => setOpen(false)}>
          <p className="mb-3 text-sm text-muted">
            These count against each other, and need not add up to 100 %. The usual ones are rules
            of practice. Readings soon outweigh them; where readings tell little, they decide.
          </p>
          <div className="grid gap-3 sm:grid-cols-2">
            {fields.map(([name, label, hint]) => (
              <PlainField
                key={name}
                label={label}
                {...(hint && { hint })}
                unit="%"
                value={now[name] * 100}
                step={1}
                min={least * 100}
                max={most * 100}
                onChange={(percent) =>
                  edit((d) => ({
                    ...d,
                    priors: { ...usualPriors, ...d.priors, [name]: percent / 100 },
                  }))
                }
              />
            ))}
          </div>
          {document.priors && (
            <button
              type="button"
              className="link mt-3 text-sm"
              onClick={() => edit(({ priors: _, ...d }) => d)}
            >
              back to the defaults
            </button>
          )}
        </Dialog>
      )}
    </>
  )
}
