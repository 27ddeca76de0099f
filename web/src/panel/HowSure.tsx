import type { ChainDocument } from '@saltline/contract'
import { type ToleranceName, toleranceNames, usualTolerances } from '@saltline/core'
import { type ReactNode, useState } from 'react'
import type { Edit } from '../model/edits.ts'
import { Dialog } from '../ui/Dialog.tsx'
import { PlainField } from '../ui/quantities.tsx'
import { ProgressBar } from '../compute/ProgressBar.tsx'
import { type RangesRun, useRanges } from '../compute/ranges.ts'

const fields: Record<ToleranceName, [label: string, hint: string]> = {
  source: ['Transmitter power, ±', 'its own meter, its supply, the band'],
  length: ['Lengths, ±', 'paced out or measured'],
  cable: ['Cable loss, ±', 'data sheets state typical cables'],
  parts: ['Loss of connectors and other small parts, ±', 'rules of thumb, mostly'],
  reflection: ['Antenna’s reflection, ±', 'how old the sweep is, and the weather'],
}

/**
 * How far the truth may lie from the figures of a view: computed when asked for, then shown with all of them.
 *
 * @param run of the view's own ranges; what it comes to is for the view to say, as children
 */
export function HowSure({
  document,
  edit,
  run,
  samples,
  children,
}: {
  document: ChainDocument
  edit: (edit: Edit) => void
  run: RangesRun
  /** How many a channel, in words. */
  samples: string
  children?: ReactNode
}) {
  const { on, setOn } = useRanges()
  const [open, setOpen] = useState(false)
  if (!on)
    return (
      <button type="button" className="link text-sm" onClick={() => setOn(true)}>
        uncertainty
      </button>
    )
  return (
    <div className="mt-2 basis-full border-t border-rule pt-2 text-sm text-muted">
      {run.running && (
        <p className="flex items-center gap-2">
          Monte Carlo, {samples} samples
          <ProgressBar className="h-1.5 min-w-16 flex-1 accent-tide" of={run.progress} />
          <button type="button" className="quiet !min-h-6 text-sm" onClick={run.stop}>
            stop
          </button>
        </p>
      )}
      {run.problem && <p className="text-caution">▲ {run.problem}</p>}
      {children}
      <p className="mt-1 flex gap-4">
        <button type="button" className="link" onClick={() => setOpen(true)}>
          tolerances
        </button>
        <button type="button" className="link" onClick={() => setOn(false)}>
          without ranges
        </button>
      </p>
      {open && <Tolerances document={document} edit={edit} onClose={() => setOpen(false)} />}
    </div>
  )
}

function Tolerances({
  document,
  edit,
  onClose,
}: {
  document: ChainDocument
  edit: (edit: Edit) => void
  onClose: () => void
}) {
  const now = document.tolerances ?? usualTolerances
  return (
    <Dialog title="Tolerances" onClose={onClose}>
      <p className="mb-3 text-sm text-muted">
        Each holds nineteen times in twenty. The usual ones are rules of practice; a piece that was
        measured on the bench is known better.
      </p>
      <div className="grid gap-3 sm:grid-cols-2">
        {toleranceNames.map((name) => (
          <PlainField
            key={name}
            label={fields[name][0]}
            hint={fields[name][1]}
            unit="%"
            value={now[name] * 100}
            step={1}
            min={0}
            max={name === 'parts' ? 200 : name === 'source' || name === 'length' ? 50 : 100}
            onChange={(percent) =>
              edit((d) => ({
                ...d,
                tolerances: { ...usualTolerances, ...d.tolerances, [name]: percent / 100 },
              }))
            }
          />
        ))}
      </div>
      {document.tolerances && (
        <button
          type="button"
          className="link mt-3 text-sm"
          onClick={() => edit(({ tolerances: _, ...d }) => d)}
        >
          back to the defaults
        </button>
      )}
    </Dialog>
  )
}
