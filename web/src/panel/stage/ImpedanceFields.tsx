import type { StageDocument } from '@saltline/contract'
import { ChoiceField } from '../../parts/ChoiceField.tsx'
import { FrequencyField, OhmField } from '../../parts/quantities.tsx'

interface ImpedanceProps {
  stage: Extract<StageDocument, { kind: 'series' | 'shunt' }>
  change: (part: Partial<StageDocument>) => void
  hz: number
}

/** A coil, capacitor or resistor, in line or across it. */
export function ImpedanceFields({ stage, change, hz }: ImpedanceProps) {
  const part = stage.xOhm >= 0 ? 'coil' : 'capacitor'
  // A shunt of 0 + j0 Ω is a short circuit, so the last bit of it stays.
  const keep = (ohm: number, other: number) =>
    stage.kind === 'shunt' && ohm === 0 && other === 0 ? 0.001 : ohm
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <OhmField
          label="Resistance"
          value={stage.rOhm}
          onChange={(r) => change({ rOhm: keep(r, stage.xOhm) })}
          autoFocus
        />
        <OhmField
          label="Reactance"
          signed
          value={stage.xOhm}
          onChange={(x) => change({ xOhm: keep(x, stage.rOhm) })}
        />
      </div>
      <ChoiceField
        label="Over frequency"
        value={stage.atHz === undefined ? 'fixed' : 'part'}
        options={[
          { value: 'fixed', label: 'X is the same everywhere' },
          { value: 'part', label: `behaves as a ${part}` },
        ]}
        onChange={(law) => change({ atHz: law === 'part' ? hz : undefined })}
      />
      {stage.atHz !== undefined && (
        <FrequencyField
          label="Reactance stated at"
          value={stage.atHz}
          onChange={(atHz) => change({ atHz })}
        />
      )}
    </>
  )
}
