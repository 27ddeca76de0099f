import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { FrequencyField, OhmField } from '../../ui/quantities.tsx'
import type { StageFields } from './stageFields.ts'

type Part = StageFields<'series' | 'shunt'>['stage']

interface Props {
  stage: Part
  change: (part: Partial<Pick<Part, 'rOhm' | 'xOhm' | 'atHz'>>) => void
  hz: number
}

/** A coil, capacitor or resistor, in line or across it. */
export function ImpedanceFields({ stage, change, hz }: Props) {
  const part = stage.xOhm >= 0 ? 'coil' : 'capacitor'
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <OhmField
          label="Resistance"
          value={stage.rOhm}
          // A shunt of 0 + j0 Ω is a short circuit.
          min={stage.kind === 'shunt' && stage.xOhm === 0 ? 0.001 : 0}
          onChange={(rOhm) => change({ rOhm })}
          autoFocus
        />
        <OhmField
          label="Reactance"
          within="reactanceOhm"
          value={stage.xOhm}
          onChange={(xOhm) => change({ xOhm })}
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
