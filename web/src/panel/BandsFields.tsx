import { type ChainDocument, limits, type LoadDocument } from '@saltline/contract'
import {
  decimals,
  fitOfBand,
  formatFrequency,
  formatSwr,
  parseQuantity,
  rangeOfBand,
  REFERENCE_OHM,
  type SwrBand,
  withReading,
} from '@saltline/core'
import { Plus, X } from 'lucide-react'
import { useId, useRef, useState } from 'react'
import { feedPointWords, keptSwr, placeRead, placesOfSwr } from '../model/swrRead.ts'
import { Problem } from '../ui/Problem.tsx'
import { FrequencyField, SwrField } from '../ui/quantities.tsx'
import { type LoadFields, SwrPlaceField } from './loadFields.tsx'

type Bands = Extract<LoadDocument, { kind: 'bands' }>
type Band = Bands['bands'][number]
type Reading = Band['readings'][number]
type Way = Pick<ChainDocument, 'stages' | 'load'>

const placeName = (way: Way, place: string): string =>
  placesOfSwr(way).find(({ value }) => value === place)?.label ?? 'elsewhere'

/**
 * What an SWR meter showed, band by band, and where. One reading makes a band of its own; two are joined
 * by a line; three and more are fitted by a resonance where they fit one.
 */
export function BandsFields({ load, onChange, stages }: LoadFields<'bands'>) {
  const way = { stages, load }
  const all = load.bands.flatMap(({ readings }) => readings)
  const [chosen, choose] = useState<string | null>(null)
  const place = chosen ?? placeRead(all.at(-1) ?? {})
  const setBands = (bands: readonly SwrBand<Reading>[]) =>
    onChange({ ...load, bands: bands.map((band) => ({ ...band, readings: [...band.readings] })) })
  const change = (b: number, readings: readonly Reading[]) =>
    setBands(
      readings.length === 0
        ? load.bands.toSpliced(b, 1)
        : load.bands.with(b, { ...load.bands[b]!, readings: [...readings] }),
    )
  return (
    <fieldset className="space-y-3 rounded border border-rule px-3 pt-1 pb-3">
      <legend className="px-1 text-sm text-muted">SWR that was read</legend>
      {load.bands.length === 0 && (
        <p className="text-sm">
          No reading yet. Enter one for every band, or several across a band; outside of them there
          is no figure.
        </p>
      )}
      {load.bands.map((band, b) => (
        <BandRows
          key={b}
          number={b + 1}
          band={band}
          way={way}
          onChange={(readings) => change(b, readings)}
        />
      ))}
      <SwrPlaceField way={way} value={place} onChange={choose} />
      <NewReading
        keep={(swr, hz) => keptSwr(way, swr, place, hz)}
        onAdd={(reading) => setBands(withReading(load.bands, reading))}
      />
    </fieldset>
  )
}

function BandRows({
  number,
  band,
  way,
  onChange,
}: {
  /** Of the band, from 1. */
  number: number
  band: Band
  way: Way
  onChange: (readings: Reading[]) => void
}) {
  const { readings } = band
  const [problem, setProblem] = useState<string | null>(null)
  const set = (i: number, { swr, frequencyHz }: { swr?: number; frequencyHz?: number }) => {
    const old = readings[i]!
    const hz = frequencyHz ?? old.frequencyHz
    const kept = keptSwr(way, swr ?? old.read?.swr ?? old.swr, placeRead(old), hz)
    setProblem('problem' in kept ? kept.problem : null)
    if (!('problem' in kept)) onChange(readings.with(i, { frequencyHz: hz, ...kept }))
  }
  return (
    <div className="border-b border-rule pb-2">
      <div className="space-y-1.5">
        {readings.map(({ frequencyHz, swr, read }, i) => (
          <div key={i} className="grid grid-cols-[1.3fr_1fr_auto] items-start gap-2">
            <FrequencyField
              label={`Frequency, band ${number}, reading ${i + 1}`}
              bare
              value={frequencyHz}
              onChange={(value) => set(i, { frequencyHz: value })}
            />
            <SwrField
              label={`SWR on ${formatFrequency(frequencyHz)}`}
              bare
              value={read?.swr ?? swr}
              onChange={(value) => set(i, { swr: value })}
            />
            <button
              type="button"
              className="quiet !px-1"
              aria-label={`Remove the reading on ${formatFrequency(frequencyHz)}`}
              onClick={() => onChange(readings.toSpliced(i, 1))}
            >
              <X size={15} aria-hidden />
            </button>
            {read && (
              <p className="col-span-3 text-xs text-muted">
                Read {placeName(way, placeRead({ read }))}.{' '}
                {feedPointWords(way, { read }, frequencyHz)}
              </p>
            )}
          </div>
        ))}
      </div>
      <Problem text={problem} />
      <p className="mt-1 text-xs text-muted">{bandText(band)}</p>
    </div>
  )
}

/** Worked out from readings: a kilohertz is as close as it is known. */
const toKilohertz = (hz: number): string => formatFrequency(Math.round(hz / 1e3) * 1e3)

/** What a band's readings say, and where. */
function bandText(band: SwrBand): string {
  const [low, high] = rangeOfBand(band)
  const where = `${toKilohertz(low)} to ${toKilohertz(high)}`
  const different = new Set(band.readings.map(({ frequencyHz }) => frequencyHz)).size
  if (different === 1) return `Taken as the SWR from ${where}. Its phase is not known.`
  const fit = fitOfBand(band, REFERENCE_OHM)
  if (!fit)
    return (
      `From ${where}, ${different === 2 ? 'on a line between the two' : 'on lines between them: they fit no single resonance'}. ` +
      'The phase is not known.'
    )
  const { resonanceHz, rOhm, q } = fit.load
  return (
    `From ${where}: resonant on ${toKilohertz(resonanceHz)} with ${decimals(rOhm, 0)} Ω, Q ${decimals(q, 1)}; ` +
    `readings and fit differ by ${decimals(fit.rms * 100, 1)} %. SWR alone cannot tell ${decimals(rOhm, 0)} Ω from ${decimals(fit.alternative.rOhm, 0)} Ω.`
  )
}

/** One more reading: both figures, then Enter. */
function NewReading({
  keep,
  onAdd,
}: {
  keep: (swr: number, hz: number) => ReturnType<typeof keptSwr>
  onAdd: (reading: Reading) => void
}) {
  const id = useId()
  const first = useRef<HTMLInputElement>(null)
  const [text, setText] = useState({ frequency: '', swr: '' })
  const [problem, setProblem] = useState<string | null>(null)
  const add = () => {
    const frequency = parseQuantity(text.frequency, 'frequency', 'MHz', {
      min: limits.frequencyHz[0],
      max: limits.frequencyHz[1],
      show: formatFrequency,
    })
    const swr = parseQuantity(text.swr, 'swr', '', {
      min: limits.swr[0],
      max: limits.swr[1],
      show: formatSwr,
    })
    if (!frequency.ok) return setProblem(frequency.message)
    if (!swr.ok) return setProblem(swr.message)
    const kept = keep(swr.value, frequency.value)
    if ('problem' in kept) return setProblem(kept.problem)
    onAdd({ frequencyHz: frequency.value, ...kept })
    setText({ frequency: '', swr: '' })
    setProblem(null)
    first.current?.focus()
  }
  const input = (key: 'frequency' | 'swr', label: string) => (
    <div>
      <label htmlFor={`${id}-${key}`} className="mb-0.5 block text-xs text-muted">
        {label}
      </label>
      <input
        ref={key === 'frequency' ? first : undefined}
        id={`${id}-${key}`}
        className="field"
        inputMode="decimal"
        autoComplete="off"
        value={text[key]}
        onChange={({ target }) => setText((old) => ({ ...old, [key]: target.value }))}
        onKeyDown={(event) => {
          if (event.key !== 'Enter') return
          event.preventDefault()
          add()
        }}
      />
    </div>
  )
  return (
    <div>
      <div className="grid grid-cols-[1.3fr_1fr_auto] items-end gap-2">
        {input('frequency', 'Another reading, MHz')}
        {input('swr', 'SWR')}
        <button type="button" className="button" aria-label="Add the reading" onClick={add}>
          <Plus size={15} aria-hidden />
        </button>
      </div>
      {problem && (
        <p role="alert" className="mt-0.5 text-xs text-danger">
          ⚠ {problem}
        </p>
      )}
    </div>
  )
}
