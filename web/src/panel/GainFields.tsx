import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import { formatPower } from '@saltline/core'
import { Plus, X } from 'lucide-react'
import { dbwText, radiatedOf } from '../model/radiated.ts'
import { FrequencyField, MaybeField, PlainField, span } from '../ui/quantities.tsx'

/** A gain holds so far to either side of the channel it is given for. */
const BAND_SHARE = 0.03
const USUAL_DBI = 2.15

/** To three digits, as one would type the edge of a band. */
const roundHz = (hz: number): number => Number(hz.toPrecision(3))

type GainBand = NonNullable<ChainDocument['antennaGains']>[number]

/** A band between two frequencies, in whichever order they were typed; as it was where they are one. */
const between = (band: GainBand, a: number, b: number): GainBand =>
  a === b ? band : { ...band, lowHz: Math.min(a, b), highHz: Math.max(a, b) }

/** What the antenna gains over isotropic, and what it radiates then. */
export function GainFields({
  document,
  channel,
  antennaW,
  set,
}: {
  document: ChainDocument
  channel: ChannelDocument
  /** Null where there is no figure. */
  antennaW: number | null
  set: (part: Partial<ChainDocument>) => void
}) {
  const { antennaGainDbi, antennaGains = [] } = document
  const radiated = antennaW === null ? null : radiatedOf(document, channel, antennaW)
  const setBands = (bands: typeof antennaGains) =>
    set({ antennaGains: bands.length > 0 ? bands : undefined })
  const { frequencyHz } = channel
  return (
    <div className="space-y-2 rounded border border-rule px-3 py-2">
      <MaybeField
        label="Gain is known"
        value={antennaGainDbi}
        usual={USUAL_DBI}
        onChange={(dbi) => set({ antennaGainDbi: dbi })}
      >
        {(dbi) => (
          <PlainField
            label="Gain"
            unit="dBi"
            hint="Over isotropic: a figure in dBd plus 2.15."
            value={dbi}
            step={0.1}
            {...span('antennaGainDbi')}
            onChange={(value) => set({ antennaGainDbi: value })}
          />
        )}
      </MaybeField>
      {antennaGains.map((band, i) => (
        <div key={i} className="grid grid-cols-2 items-end gap-2">
          <FrequencyField
            label={`From, gain ${i + 1}`}
            value={band.lowHz}
            onChange={(hz) => setBands(antennaGains.with(i, between(band, hz, band.highHz)))}
          />
          <FrequencyField
            label={`To, gain ${i + 1}`}
            value={band.highHz}
            onChange={(hz) => setBands(antennaGains.with(i, between(band, band.lowHz, hz)))}
          />
          <PlainField
            label={`Gain ${i + 1}`}
            unit="dBi"
            value={band.dbi}
            step={0.1}
            {...span('antennaGainDbi')}
            onChange={(dbi) => setBands(antennaGains.with(i, { ...band, dbi }))}
          />
          <button
            type="button"
            className="quiet justify-self-start !px-1"
            aria-label={`Remove gain ${i + 1}`}
            onClick={() => setBands(antennaGains.toSpliced(i, 1))}
          >
            <X size={15} aria-hidden />
          </button>
        </div>
      ))}
      <button
        type="button"
        className="quiet !px-1 text-sm"
        onClick={() =>
          setBands([
            {
              lowHz: roundHz(frequencyHz * (1 - BAND_SHARE)),
              highHz: roundHz(frequencyHz * (1 + BAND_SHARE)),
              dbi: antennaGainDbi ?? USUAL_DBI,
            },
            ...antennaGains,
          ])
        }
      >
        <Plus size={14} aria-hidden /> another gain for this channel’s band
      </button>
      {radiated && (
        <p className="text-sm">
          {radiated.kind} {formatPower(radiated.watts)} ({dbwText(radiated.watts)}) on this channel.
        </p>
      )}
    </div>
  )
}
