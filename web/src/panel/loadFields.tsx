import type { LoadDocument } from '@saltline/contract'
import {
  decimals,
  fitResonator,
  formatFrequency,
  formatSwr,
  InputError,
  REFERENCE_OHM,
  type SwrReading,
} from '@saltline/core'
import { Plus, X } from 'lucide-react'
import { useState } from 'react'
import { FrequencyField, OhmField, PlainField, span, SwrField } from '../parts/quantities.tsx'

type Of<K extends LoadDocument['kind']> = Extract<LoadDocument, { kind: K }>

/** Readings of an SWR meter at the antenna, and the resonator that explains them. */
export function ResonatorFields({
  load,
  onChange,
}: {
  load: Of<'resonator'>
  onChange: (load: LoadDocument) => void
}) {
  const [readings, setReadings] = useState<SwrReading[]>(() => firstReadings(load))
  const [told, setTold] = useState<Told | null>(null)
  const change = (next: SwrReading[]) => {
    setReadings(next)
    const result = explain(next)
    setTold(result)
    if (result.ok) onChange({ ...load, ...result.fit.load, name: load.name })
  }
  const set = (i: number, part: Partial<SwrReading>) =>
    change(readings.with(i, { ...readings[i]!, ...part }))
  return (
    <fieldset className="rounded border border-rule px-3 pt-1 pb-3">
      <legend className="px-1 text-sm text-muted">SWR read at the antenna</legend>
      <div className="space-y-1.5">
        {readings.map(({ frequencyHz, swr }, i) => (
          <div key={i} className="grid grid-cols-[1.3fr_1fr_auto] items-end gap-2">
            <FrequencyField
              label={`Frequency, reading ${i + 1}`}
              bare={i > 0}
              value={frequencyHz}
              onChange={(value) => set(i, { frequencyHz: value })}
            />
            <SwrField
              label={`SWR, reading ${i + 1}`}
              bare={i > 0}
              value={swr}
              onChange={(value) => set(i, { swr: value })}
            />
            <button
              type="button"
              className="quiet mb-0.5 !px-1"
              disabled={readings.length <= 3}
              aria-label={`Remove reading ${i + 1}`}
              onClick={() => change(readings.toSpliced(i, 1))}
            >
              <X size={15} aria-hidden />
            </button>
          </div>
        ))}
      </div>
      <button
        type="button"
        className="quiet mt-1 -ml-2"
        onClick={() =>
          change([
            ...readings,
            { ...readings.at(-1)!, frequencyHz: readings.at(-1)!.frequencyHz * 1.01 },
          ])
        }
      >
        <Plus size={15} aria-hidden /> Add a reading
      </button>
      <p className="mt-1 text-sm">
        Resonant on {formatFrequency(load.resonanceHz)} with {decimals(load.rOhm, 0)} Ω, Q{' '}
        {decimals(load.q, 1)}.
      </p>
      {told && !told.ok && (
        <p role="alert" className="text-sm text-danger">
          ⚠ {told.message}
        </p>
      )}
      {told?.ok && <Doubt {...told} />}
    </fieldset>
  )
}

function Doubt({ fit, lowHz, highHz }: Told & { ok: true }) {
  const range = (hz: number) => {
    const { low, high } = fit.rangeAt(hz)
    return `${formatSwr(low)} to ${formatSwr(high)}`
  }
  return (
    <p className="mt-1 text-xs text-muted">
      Readings and fit part by {decimals(fit.rms * 100, 1)} %. At {formatFrequency(lowHz)} the SWR
      is likely {range(lowHz)}, at {formatFrequency(highHz)} {range(highHz)}. SWR alone cannot tell{' '}
      {decimals(fit.load.rOhm, 0)} Ω from {decimals(fit.alternative.rOhm, 0)} Ω at resonance.
    </p>
  )
}

type Told =
  | { ok: true; fit: ReturnType<typeof fitResonator>; lowHz: number; highHz: number }
  | { ok: false; message: string }

function explain(readings: readonly SwrReading[]): Told {
  try {
    const frequencies = readings.map((r) => r.frequencyHz)
    const fit = fitResonator(readings, REFERENCE_OHM)
    return { ok: true, fit, lowHz: Math.min(...frequencies), highHz: Math.max(...frequencies) }
  } catch (error) {
    if (error instanceof InputError) return { ok: false, message: error.message }
    throw error
  }
}

const firstReadings = ({ resonanceHz }: Of<'resonator'>): SwrReading[] =>
  [0.985, 1, 1.015].map((factor, i) => ({
    frequencyHz: Math.round((resonanceHz * factor) / 1e3) * 1e3,
    swr: i === 1 ? 1.2 : 1.6,
  }))

/** A dummy load: equal resistors in parallel, and the strays that spoil it at high frequency. */
export function ResistorFields({
  load,
  onChange,
}: {
  load: Of<'resistors'>
  onChange: (load: LoadDocument) => void
}) {
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
