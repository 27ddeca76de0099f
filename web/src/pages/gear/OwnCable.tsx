import { errorText } from '../../platform/errorText.ts'
import {
  attenuationDbPer100m,
  cableFromConstruction,
  type CableConstruction,
  decimals,
  InputError,
} from '@saltline/core'
import { useMemo, useState } from 'react'
import { addGear } from '../../platform/api/queries.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { Dialog } from '../../ui/Dialog.tsx'
import { PlainField } from '../../ui/quantities.tsx'
import { TextField } from '../../ui/TextField.tsx'
import { Problem } from '../../ui/Problem.tsx'
import { type Law, FromSheet } from './FromSheet.tsx'

/** A cable of one's own: from a pasted data sheet, or from what it is made of. */
export function OwnCable({
  stationId,
  onClose,
  onAdded,
}: {
  stationId: string
  onClose: () => void
  onAdded: (id: string) => void
}) {
  const [name, setName] = useState('My cable')
  const [way, setWay] = useState<'sheet' | 'construction'>('sheet')
  const [law, setLaw] = useState<Law | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const keep = async () => {
    if (!law) return
    try {
      onAdded((await addGear(stationId, { kind: 'cable', document: { name, ...law } })).id)
    } catch (error) {
      setProblem(errorText(error))
    }
  }
  return (
    <Dialog title="Custom cable" onClose={onClose}>
      <div className="mb-3 grid gap-3 sm:grid-cols-2">
        <TextField label="Name" value={name} onChange={setName} />
        <ChoiceField
          label="From"
          value={way}
          options={[
            { value: 'sheet', label: 'a data sheet’s table' },
            { value: 'construction', label: 'what it is made of' },
          ]}
          onChange={setWay}
        />
      </div>
      {way === 'sheet' ? <FromSheet onLaw={setLaw} /> : <FromConstruction onLaw={setLaw} />}
      <Problem text={problem} />
      <button
        type="button"
        className="button button-main mt-4"
        disabled={!law}
        onClick={() => void keep()}
      >
        Add to the station
      </button>
    </Dialog>
  )
}

const firstConstruction: CableConstruction = {
  innerMm: 0.9,
  dielectricMm: 2.95,
  epsilonR: 2.28,
  tanDelta: 3e-4,
  innerFactor: 1.2,
  outerFactor: 2,
}

function FromConstruction({ onLaw }: { onLaw: (law: Law | null) => void }) {
  const [made, setMade] = useState(firstConstruction)
  const result = useMemo(() => {
    try {
      return { ok: true as const, cable: cableFromConstruction(made) }
    } catch (error) {
      if (error instanceof InputError) return { ok: false as const, message: error.message }
      throw error
    }
  }, [made])
  const set = (change: Partial<CableConstruction>) => {
    const next = { ...made, ...change }
    setMade(next)
    try {
      onLaw(cableFromConstruction(next))
    } catch {
      onLaw(null)
    }
  }
  return (
    <div className="grid gap-4 sm:grid-cols-2">
      <div className="grid grid-cols-2 content-start gap-2">
        <PlainField
          label="Inner conductor"
          unit="mm"
          value={made.innerMm}
          step={0.05}
          min={0.05}
          max={30}
          onChange={(innerMm) => set({ innerMm })}
        />
        <PlainField
          label="Over the dielectric"
          unit="mm"
          value={made.dielectricMm}
          step={0.05}
          min={0.1}
          max={80}
          onChange={(dielectricMm) => set({ dielectricMm })}
        />
        <PlainField
          label="Permittivity εr"
          value={made.epsilonR}
          step={0.01}
          min={1}
          max={5}
          onChange={(epsilonR) => set({ epsilonR })}
        />
        <PlainField
          label="Loss angle tan δ, 10⁻⁴"
          value={made.tanDelta * 1e4}
          step={0.1}
          min={0}
          max={100}
          onChange={(v) => set({ tanDelta: v / 1e4 })}
        />
        <PlainField
          label="Inner, over solid copper"
          unit="×"
          value={made.innerFactor}
          step={0.05}
          min={0.9}
          max={5}
          onChange={(innerFactor) => set({ innerFactor })}
        />
        <PlainField
          label="Braid, over solid copper"
          unit="×"
          value={made.outerFactor}
          step={0.05}
          min={0.9}
          max={8}
          onChange={(outerFactor) => set({ outerFactor })}
        />
      </div>
      <div className="text-sm">
        {!result.ok && (
          <p role="alert" className="text-danger">
            ⚠ {result.message}
          </p>
        )}
        {result.ok && (
          <p>
            Z₀ {decimals(result.cable.z0Ohm, 1)} Ω, velocity factor{' '}
            {decimals(result.cable.velocityFactor, 3)},{' '}
            {decimals(attenuationDbPer100m(result.cable, 10e6), 2)} dB per 100 m at 10 MHz and{' '}
            {decimals(attenuationDbPer100m(result.cable, 145e6), 2)} dB at 145 MHz.
          </p>
        )}
        <p className="mt-2 text-muted">
          Computed from surface resistance and dielectric loss; a figure to start from, not a
          measurement.
        </p>
      </div>
    </div>
  )
}
