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
  /** Neither figure of a shunt may be 0 where the other one is. */
  const short = (other: number) => (ohm: number) =>
    stage.kind === 'shunt' && ohm === 0 && other === 0
      ? 'A shunt of 0 Ω is a short circuit: give it some resistance or reactance.'
      : null
  return (
    <>
      <div className="grid grid-cols-2 gap-2">
        <OhmField
          label="Resistance"
          value={stage.rOhm}
          min={0}
          refuse={short(stage.xOhm)}
          onChange={(rOhm) => change({ rOhm })}
        />
        <OhmField
          label="Reactance"
          within="reactanceOhm"
          value={stage.xOhm}
          refuse={short(stage.rOhm)}
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
