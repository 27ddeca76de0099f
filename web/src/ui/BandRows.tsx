import { Plus, X } from 'lucide-react'
import type { ReactNode } from 'react'
import { FrequencyField } from './quantities.tsx'

interface Band {
  lowHz: number
  highHz: number
}

/** A band begins this far to either side of the channel it is made for. */
const BAND_SHARE = 0.03

/** To three digits, as one would type the edge of a band. */
const roundHz = (hz: number): number => Number(hz.toPrecision(3))

/** A band between two frequencies, in whichever order they were typed; as it was where they are one. */
const between = <B extends Band>(band: B, a: number, b: number): B =>
  a === b ? band : { ...band, lowHz: Math.min(a, b), highHz: Math.max(a, b) }

/** A figure that differs from band to band: rows of two edges and a field, one more for the channel on the desk. */
export function BandRows<B extends Band>({
  what,
  bands,
  frequencyHz,
  fresh,
  onChange,
  children,
}: {
  /** In one word, as it stands in labels. */
  what: string
  bands: readonly B[]
  /** The channel on the desk. */
  frequencyHz: number
  /** What a new band begins with. */
  fresh: Omit<B, keyof Band>
  onChange: (bands: B[]) => void
  /** The field of a band. */
  children: (band: B, label: string, change: (part: Partial<B>) => void) => ReactNode
}) {
  return (
    <>
      {bands.map((band, i) => (
        <div key={i} className="grid grid-cols-2 items-end gap-2">
          <FrequencyField
            label={`From, ${what} ${i + 1}`}
            value={band.lowHz}
            onChange={(hz) => onChange(bands.with(i, between(band, hz, band.highHz)))}
          />
          <FrequencyField
            label={`To, ${what} ${i + 1}`}
            value={band.highHz}
            onChange={(hz) => onChange(bands.with(i, between(band, band.lowHz, hz)))}
          />
          {children(band, `${what[0]!.toUpperCase()}${what.slice(1)} ${i + 1}`, (part) =>
            onChange(bands.with(i, { ...band, ...part })),
          )}
          <button
            type="button"
            className="quiet justify-self-start !px-1"
            aria-label={`Remove ${what} ${i + 1}`}
            onClick={() => onChange(bands.toSpliced(i, 1))}
          >
            <X size={15} aria-hidden />
          </button>
        </div>
      ))}
      <button
        type="button"
        className="quiet !px-1 text-sm"
        onClick={() =>
          onChange([
            {
              lowHz: roundHz(frequencyHz * (1 - BAND_SHARE)),
              highHz: roundHz(frequencyHz * (1 + BAND_SHARE)),
              ...fresh,
            } as B,
            ...bands,
          ])
        }
      >
        <Plus size={14} aria-hidden /> another {what} for this channel’s band
      </button>
    </>
  )
}
