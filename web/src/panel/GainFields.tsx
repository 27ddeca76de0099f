import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import { formatPower } from '@saltline/core'
import { dbwText, radiatedOf } from '../model/radiated.ts'
import { BandRows } from '../ui/BandRows.tsx'
import { MaybeField, PlainField, span } from '../ui/quantities.tsx'

const USUAL_DBI = 2.15

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
      <BandRows
        what="gain"
        bands={antennaGains}
        frequencyHz={frequencyHz}
        fresh={{ dbi: antennaGainDbi ?? USUAL_DBI }}
        onChange={(bands) => set({ antennaGains: bands.length > 0 ? bands : undefined })}
      >
        {(band, label, change) => (
          <PlainField
            label={label}
            unit="dBi"
            value={band.dbi}
            step={0.1}
            {...span('antennaGainDbi')}
            onChange={(dbi) => change({ dbi })}
          />
        )}
      </BandRows>
      {radiated && (
        <p className="text-sm">
          {radiated.kind} {formatPower(radiated.watts)} ({dbwText(radiated.watts)}) on this channel.
        </p>
      )}
    </div>
  )
}
