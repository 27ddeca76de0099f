import type { RunSheetDocument } from '@saltline/contract'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { TextField } from '../../ui/TextField.tsx'

type Step = Exclude<RunSheetDocument['steps'][number], { over: string }>

/** Words, limits and powers of one step. */
export function StepFields({ step, onChange }: { step: Step; onChange: (step: Step) => void }) {
  const put = (change: Partial<Step>) => onChange({ ...step, ...change })
  const { state = {} } = step
  return (
    <div className="space-y-2">
      <TextField
        label={step.kind === 'caution' ? '▲ Caution' : `Step (${step.kind})`}
        value={step.title}
        most={160}
        onChange={(title) => put({ title })}
      />
      <TextField
        label="More words"
        value={step.text ?? ''}
        optional
        most={1000}
        onChange={(text) => put({ text: text || undefined })}
      />
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
        {(step.state !== undefined || step.kind === 'read') && (
          <OptionalField
            label="Power, % of what is set"
            min={0.1}
            max={100}
            value={state.share === undefined ? null : Math.round(state.share * 1000) / 10}
            onChange={(percent) =>
              put({ state: { ...state, share: percent === null ? undefined : percent / 100 } })
            }
          />
        )}
        {step.kind === 'read' && (
          <ChoiceField
            label="Read"
            value={step.place ?? 'meter'}
            options={[
              { value: 'radio', label: 'at the radio' },
              { value: 'output', label: 'at the output' },
              { value: 'meter', label: 'at the wattmeter' },
              { value: 'tuner', label: 'in front of the tuner' },
              { value: 'antenna', label: 'at the antenna' },
            ]}
            onChange={(place) => put({ place })}
          />
        )}
        {step.kind === 'read' && (
          <OptionalField
            label="Stop over an SWR of"
            min={1}
            max={1000}
            value={step.mostSwr ?? null}
            onChange={(mostSwr) => put({ mostSwr: mostSwr ?? undefined })}
          />
        )}
        {step.kind !== 'check' && step.kind !== 'caution' && step.kind !== 'decide' && (
          <OptionalField
            label={step.rest ? 'Rest' : 'Key down, at most'}
            unit="s"
            min={0.1}
            max={86_400}
            value={step.seconds ?? null}
            onChange={(seconds) => put({ seconds: seconds ?? undefined })}
          />
        )}
      </div>
    </div>
  )
}
