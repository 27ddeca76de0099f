import { Fold } from '../../ui/Fold.tsx'
import type { ChainDocument } from '@saltline/contract'
import type { Edit } from '../../model/edits.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { PlainField, PowerField } from '../../ui/quantities.tsx'
import { USUAL_AMBIENT_C } from '../../model/headroomWords.ts'

type Licence = NonNullable<ChainDocument['licence']>

/** What the limits are judged under: the heat of the day, the licence, the antenna's gain. */
export function Conditions({
  document,
  edit,
}: {
  document: ChainDocument
  edit: (edit: Edit) => void
}) {
  const { ambientC, licence, antennaGainDbi } = document
  const set = (part: Partial<ChainDocument>) => edit((d) => ({ ...d, ...part }))
  return (
    <Fold
      summary={
        <>
          {ambientC ?? USUAL_AMBIENT_C} °C ambient
          {licence ? `, licence ${licence.watts} W ${licence.kind}` : ', no licence limit given'}
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
            { value: 'PEP', label: 'PEP at the output' },
            { value: 'EIRP', label: 'EIRP' },
            { value: 'ERP', label: 'ERP' },
          ]}
          onChange={(kind) =>
            set({ licence: kind ? { kind, watts: licence?.watts ?? 400 } : undefined })
          }
        />
        {licence && (
          <PowerField
            label="to"
            value={licence.watts}
            onChange={(watts) => set({ licence: { ...licence, watts } })}
          />
        )}
        {licence && licence.kind !== 'PEP' && (
          <PlainField
            label="Antenna gain"
            unit="dBi"
            value={antennaGainDbi ?? 0}
            step={0.1}
            min={-40}
            max={60}
            onChange={(gain) => set({ antennaGainDbi: gain })}
          />
        )}
      </div>
    </Fold>
  )
}
