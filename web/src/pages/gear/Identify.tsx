import { type CableClues, identifyCable } from '@saltline/core'
import { useState } from 'react'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { Dialog } from '../../ui/Dialog.tsx'
import { PlainField } from '../../ui/quantities.tsx'
import { TextField } from '../../ui/TextField.tsx'

const unknown = { value: '', label: 'not known' } as const
const option = (value: string) => ({ value, label: value })

/** "I do not know what I have": what can be seen of it, and what it most likely is. */
export function Identify({
  onClose,
  onPick,
}: {
  onClose: () => void
  onPick: (id: string) => void
}) {
  const [clues, setClues] = useState<CableClues>({})
  const set = (change: Partial<CableClues>) => setClues({ ...clues, ...change })
  const candidates = identifyCable(clues).slice(0, 6)
  return (
    <Dialog title="Identify a cable" onClose={onClose}>
      <div className="grid gap-x-3 gap-y-2 sm:grid-cols-3">
        <TextField
          label="Printed on the jacket"
          optional
          value={clues.marking ?? ''}
          onChange={(marking) => set({ marking })}
        />
        <PlainField
          label="Outer diameter (0 = not known)"
          unit="mm"
          value={clues.outerMm ?? 0}
          step={0.1}
          min={0}
          max={60}
          onChange={(mm) => set({ outerMm: mm > 0 ? mm : undefined })}
        />
        <ChoiceField
          label="Impedance"
          value={clues.z0Ohm === undefined ? '' : String(clues.z0Ohm)}
          options={[unknown, { value: '50', label: '50 Ω' }, { value: '75', label: '75 Ω' }]}
          onChange={(z) => set({ z0Ohm: z ? Number(z) : undefined })}
        />
        <ChoiceField
          label="Between the conductors"
          value={clues.dielectric ?? ''}
          options={[
            unknown,
            ...['clear or milky, solid', 'white, soft foam', 'white, hard, slippery'].map(option),
          ]}
          onChange={(look) => set({ dielectric: (look || undefined) as CableClues['dielectric'] })}
        />
        <ChoiceField
          label="Shield"
          value={clues.shield ?? ''}
          options={[
            unknown,
            ...['braid', 'double braid', 'foil and braid', 'corrugated', 'solid'].map(option),
          ]}
          onChange={(shield) => set({ shield: (shield || undefined) as CableClues['shield'] })}
        />
      </div>
      <ol className="mt-4 divide-y divide-rule border-t border-rule" aria-label="Candidates">
        {candidates.map(({ cable, fit, reasons }) => (
          <li key={cable.id} className="grid grid-cols-[5rem_1fr_auto] items-center gap-3 py-2">
            <span aria-hidden className="h-2 bg-rule">
              <span className="block h-2 bg-tide" style={{ width: `${fit * 100}%` }} />
            </span>
            <span>
              {cable.name} <span className="text-sm text-muted">{cable.jacketMarkings[0]}</span>
              <span className="block text-xs text-muted">{reasons.join(' · ')}</span>
            </span>
            <button type="button" className="button" onClick={() => onPick(cable.id)}>
              This one
            </button>
          </li>
        ))}
      </ol>
      {candidates.length === 0 && (
        <p className="py-3 text-muted">
          Tell what you can see: the diameter, or a few characters of the marking.
        </p>
      )}
    </Dialog>
  )
}
