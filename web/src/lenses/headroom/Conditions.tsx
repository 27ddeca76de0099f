import { Fold } from '../../ui/Fold.tsx'
import type { ChainDocument, ChannelDocument } from '@saltline/contract'
import { formatFrequency, formatPower } from '@saltline/core'
import type { Edit } from '../../model/edits.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { PlainField, PowerField } from '../../ui/quantities.tsx'
import { lacksGain, licenceAt, USUAL_AMBIENT_C } from '../../model/headroomWords.ts'
import { BandRows } from '../../ui/BandRows.tsx'

type Licence = NonNullable<ChainDocument['licence']>

const isRadiated = ({ kind }: Licence): boolean => kind === 'EIRP' || kind === 'ERP'

const placeTexts: Record<Licence['kind'], string> = {
  PEP: 'at the output',
  antenna: 'at the antenna',
  EIRP: 'EIRP',
  ERP: 'ERP',
}

/** What it allows on a channel: `100 W PEP at the output`. */
function licenceText(licence: Licence, { frequencyHz }: ChannelDocument): string {
  const { watts } = licenceAt(licence, frequencyHz)!
  return `${formatPower(watts)} ${licence.average ? 'average' : 'PEP'} ${placeTexts[licence.kind]}`
}

/** What the limits are judged under: the heat of the day, the licence, the antenna's gain. */
export function Conditions({
  document,
  channel,
  edit,
}: {
  document: ChainDocument
  channel: ChannelDocument
  edit: (edit: Edit) => void
}) {
  const { ambientC, licence, antennaGainDbi } = document
  const set = (part: Partial<ChainDocument>) => edit((d) => ({ ...d, ...part }))
  return (
    <Fold
      summary={
        <>
          {ambientC ?? USUAL_AMBIENT_C} °C ambient
          {licence ? `, licence ${licenceText(licence, channel)}` : ', no licence limit given'}
          {lacksGain(document, channel) && (
            <span className="text-caution">
              {' '}
              ▲ not judged: the gain of the antenna on {formatFrequency(channel.frequencyHz)} is not
              given
            </span>
          )}
        </>
      }
    >
      <div className="mt-2 grid grid-cols-2 gap-2">
        <PlainField
          label="Ambient"
          unit="°C"
          value={ambientC ?? USUAL_AMBIENT_C}
          step={1}
          min={-60}
          max={75}
          onChange={(celsius) => set({ ambientC: celsius })}
        />
        <ChoiceField<Licence['kind'] | ''>
          label="Licence limits"
          value={licence?.kind ?? ''}
          options={[
            { value: '', label: 'nothing given' },
            { value: 'PEP', label: 'power at the output' },
            { value: 'antenna', label: 'power at the antenna' },
            { value: 'EIRP', label: 'EIRP' },
            { value: 'ERP', label: 'ERP' },
          ]}
          onChange={(kind) =>
            set({ licence: kind ? { ...licence, kind, watts: licence?.watts ?? 400 } : undefined })
          }
        />
        {licence && (
          <PowerField
            label="to"
            value={licence.watts}
            onChange={(watts) => set({ licence: { ...licence, watts } })}
          />
        )}
        {licence && isRadiated(licence) && (
          <OptionalField
            label="Antenna gain"
            unit="dBi"
            value={antennaGainDbi ?? null}
            min={-40}
            max={60}
            onChange={(gain) => set({ antennaGainDbi: gain ?? undefined })}
          />
        )}
      </div>
      {licence && (
        <div className="mt-2 space-y-2">
          <label className="flex items-center gap-2 text-sm">
            <input
              type="checkbox"
              checked={licence.average ?? false}
              onChange={({ target }) =>
                set({ licence: { ...licence, average: target.checked || undefined } })
              }
            />
            average power, over a transmission
          </label>
          <BandRows
            what="limit"
            bands={licence.bands ?? []}
            frequencyHz={channel.frequencyHz}
            fresh={{ watts: licence.watts }}
            onChange={(bands) =>
              set({ licence: { ...licence, bands: bands.length > 0 ? bands : undefined } })
            }
          >
            {(band, label, change) => (
              <PowerField
                label={label}
                value={band.watts}
                onChange={(watts) => change({ watts })}
              />
            )}
          </BandRows>
        </div>
      )}
    </Fold>
  )
}
