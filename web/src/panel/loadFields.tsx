import type { ChainDocument, LoadDocument } from '@saltline/contract'
import { decimals, formatFrequency } from '@saltline/core'
import { useState } from 'react'
import { feedPointWords, keptSwr, placeRead, placesOfSwr, swrLoad } from '../model/swrRead.ts'
import { ChoiceField } from '../ui/ChoiceField.tsx'
import { Problem } from '../ui/Problem.tsx'
import { FrequencyField, OhmField, PlainField, span, SwrField } from '../ui/quantities.tsx'

type Of<K extends LoadDocument['kind']> = Extract<LoadDocument, { kind: K }>

export interface LoadFields<K extends LoadDocument['kind']> {
  load: Of<K>
  onChange: (load: LoadDocument) => void
  /** What an SWR may have been read in front of, and on which frequency it is. */
  stages: ChainDocument['stages']
  hz: number
}

/** One impedance, the same on every frequency. */
export const FixedFields = ({ load, onChange }: LoadFields<'fixed'>) => (
  <div className="grid grid-cols-2 gap-2">
    <OhmField
      label="Resistance"
      value={load.rOhm}
      onChange={(rOhm) => onChange({ ...load, rOhm })}
    />
    <OhmField
      label="Reactance"
      within="reactanceOhm"
      value={load.xOhm}
      onChange={(xOhm) => onChange({ ...load, xOhm })}
    />
  </div>
)

/** One SWR, and where it was read. */
export function SwrFields({ load, onChange, stages, hz }: LoadFields<'swr'>) {
  const [problem, setProblem] = useState<string | null>(null)
  const way = { stages, load }
  const place = placeRead(load)
  const keep = (swr: number, at: string) => {
    const kept = keptSwr(way, swr, at, hz)
    setProblem('problem' in kept ? kept.problem : null)
    if ('problem' in kept) return
    onChange(swrLoad(load.name, kept, hz))
  }
  const typed = load.read?.swr ?? load.swr
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-2 gap-2">
        <SwrField label="SWR as read" value={typed} onChange={(swr) => keep(swr, place)} />
        <SwrPlaceField way={way} value={place} onChange={(at) => keep(typed, at)} />
      </div>
      <p className="text-xs text-muted">
        {load.read &&
          `Read on ${formatFrequency(load.read.frequencyHz)}. ${feedPointWords(way, load, load.read.frequencyHz)} `}
        The phase is not known, so figures that depend on it are given as ranges.
      </p>
      <Problem text={problem} />
    </div>
  )
}

/** Where an SWR was read: at the radio, in front of a part, or at the antenna. */
export const SwrPlaceField = ({
  way,
  value,
  onChange,
}: {
  way: Pick<ChainDocument, 'stages' | 'load'>
  value: string
  onChange: (place: string) => void
}) => {
  const places = placesOfSwr(way)
  const gone = { value, label: 'in front of a part that is gone' }
  return (
    <ChoiceField
      label="Where it was read"
      value={value}
      options={places.some((place) => place.value === value) ? places : [...places, gone]}
      onChange={onChange}
    />
  )
}

/** A resonance that is known as such: where it is, its resistance there, and how sharp it is. */
export function ResonatorFields({ load, onChange }: LoadFields<'resonator'>) {
  const set = (part: Partial<Of<'resonator'>>) => onChange({ ...load, ...part })
  return (
    <div className="grid grid-cols-2 gap-2">
      <FrequencyField
        label="Resonant on"
        value={load.resonanceHz}
        onChange={(resonanceHz) => set({ resonanceHz })}
      />
      <OhmField
        label="Resistance there"
        value={load.rOhm}
        within="resonanceOhm"
        onChange={(rOhm) => set({ rOhm })}
      />
      <PlainField
        label="Q"
        value={load.q}
        step={1}
        {...span('resonanceQ')}
        onChange={(q) => set({ q })}
      />
      <p className="col-span-2 text-xs text-muted">
        Holds near this resonance only. Known by a few SWR readings, choose “SWR readings, band by
        band”: they are kept, and fitted.
      </p>
    </div>
  )
}

/** A dummy load: equal resistors in parallel, and the strays that spoil it at high frequency. */
export function ResistorFields({ load, onChange }: LoadFields<'resistors'>) {
  const set = (part: Partial<Of<'resistors'>>) => onChange({ ...load, ...part })
  return (
    <div className="grid grid-cols-2 gap-2">
      <PlainField
        label="Resistors in parallel"
        value={load.count}
        step={1}
        whole
        {...span('resistorCount')}
        onChange={(count) => set({ count })}
      />
      <OhmField
        label="Each"
        value={load.ohmEach}
        within="resistorOhm"
        onChange={(ohmEach) => set({ ohmEach })}
      />
      <PlainField
        label="Stray inductance"
        unit="nH"
        value={load.strayInductanceH * 1e9}
        step={1}
        {...span('strayInductanceH', 1e9)}
        onChange={(nH) => set({ strayInductanceH: nH / 1e9 })}
      />
      <PlainField
        label="Stray capacitance"
        unit="pF"
        value={load.strayCapacitanceF * 1e12}
        step={0.5}
        {...span('strayCapacitanceF', 1e12)}
        onChange={(pF) => set({ strayCapacitanceF: pF / 1e12 })}
      />
      <p className="col-span-2 text-sm text-muted">
        {decimals(load.ohmEach / load.count, 1)} Ω at low frequency.
      </p>
    </div>
  )
}
