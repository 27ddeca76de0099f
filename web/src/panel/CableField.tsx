import type { Gear } from '@saltline/contract'
import {
  attenuationDbPer100m,
  cableClasses,
  decimals,
  formatFrequency,
  isExtrapolated,
} from '@saltline/core'
import { Search } from 'lucide-react'
import { TypedEarly } from '../ui/TypedEarly.tsx'
import { lazy, memo, Suspense, useId, useRef, useState } from 'react'

const CableFinder = lazy(() => import('./CableFinder.tsx'))

/** The catalogue as a list to choose from; it never changes, so it is drawn once. */
const Catalogue = memo(function Catalogue() {
  return [50, 75].map((z0) => (
    <optgroup key={z0} label={`${z0} Ω, thin to thick`}>
      {cableClasses
        .filter(({ z0Ohm }) => z0Ohm === z0)
        .map(({ id, name, jacketMarkings }) => (
          <option key={id} value={id}>
            {name}
            {jacketMarkings[0] && ` (as ${jacketMarkings[0]})`}
          </option>
        ))}
    </optgroup>
  ))
})

/** Made once: it never changes. */
const searchIcon = <Search size={12} aria-hidden />

/** A cable by its class or of the station's own, with what it loses on this frequency. */
export function CableField({
  value,
  onChange,
  frequencyHz,
  own = [],
  fallback,
}: {
  value: string
  onChange: (id: string) => void
  frequencyHz: number
  own?: readonly (Gear & { kind: 'cable' })[]
  /** Shown where the cable is neither in the catalogue nor the station's own. */
  fallback?:
    | {
        name: string
        z0Ohm: number
        velocityFactor: number
        k1DbPer100m: number
        k2DbPer100m: number
      }
    | undefined
}) {
  const id = useId()
  const [finding, setFinding] = useState(false)
  const button = useRef<HTMLButtonElement>(null)
  const found =
    cableClasses.find((cable) => cable.id === value) ??
    own.find((cable) => cable.id === value)?.document
  const cable = found ?? fallback
  return (
    <div>
      <div className="mb-0.5 flex items-end justify-between">
        <label htmlFor={id} className="block text-xs text-muted">
          Cable
        </label>
        <button
          ref={button}
          type="button"
          className="quiet !min-h-6 !px-1 text-xs"
          aria-haspopup="dialog"
          aria-expanded={finding}
          onClick={() => setFinding(true)}
        >
          {searchIcon} find by marking or size
        </button>
        {finding && (
          <Suspense fallback={<TypedEarly />}>
            <CableFinder
              {...{ own, frequencyHz }}
              beside={button}
              onClose={() => setFinding(false)}
              onPick={onChange}
            />
          </Suspense>
        )}
      </div>
      <select
        id={id}
        className="field"
        value={found ? value : ''}
        onChange={(event) => onChange(event.target.value)}
      >
        {!found && <option value="">{fallback?.name ?? 'choose'}</option>}
        {own.length > 0 && (
          <optgroup label="Of this station">
            {own.map(({ id: key, document }) => (
              <option key={key} value={key}>
                {document.name}
              </option>
            ))}
          </optgroup>
        )}
        <Catalogue />
      </select>
      {cable && (
        <p className="mt-0.5 text-xs text-muted">
          {decimals(attenuationDbPer100m(cable, frequencyHz), 2)} dB per 100 m at{' '}
          {formatFrequency(frequencyHz)}
          {isExtrapolated(cable, frequencyHz) && ', extrapolated'}
          {'id' in cable && '; typical of its class'}
        </p>
      )}
    </div>
  )
}
