import type { RunSheetDocument } from '@saltline/contract'
import { isKeyed, runConditions } from '@saltline/core'
import { type Change, changeOf, changes, makesOf } from '../../model/ownSheets.ts'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { OptionalField } from '../../ui/OptionalField.tsx'
import { TextField } from '../../ui/TextField.tsx'

type Step = Exclude<RunSheetDocument['steps'][number], { over: string }>
type State = NonNullable<Step['state']>

/** As the chain has it, where a step says nothing. */
const ASIS = 'asIs' as const
const orAsIs = <T extends string>(value: T | undefined): T | typeof ASIS => value ?? ASIS
const unlessAsIs = <T extends string>(value: T | typeof ASIS): T | undefined =>
  value === ASIS ? undefined : value

/** Words, limits, powers of one step; how the station stands while it is keyed, or what it changes. */
export function StepFields({ step, onChange }: { step: Step; onChange: (step: Step) => void }) {
  const put = (change: Partial<Step>) => onChange({ ...step, ...change })
  const { state = {} } = step
  const putState = (change: Partial<State>) => put({ state: { ...state, ...change } })
  const keyed = isKeyed(step)
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
          <ChoiceField<'share' | 'tuning'>
            label="Power"
            value={state.window ? 'tuning' : 'share'}
            options={[
              { value: 'share', label: 'a share' },
              { value: 'tuning', label: 'for tuning' },
            ]}
            onChange={(power) =>
              putState(
                power === 'tuning' ? { window: true, share: undefined } : { window: undefined },
              )
            }
          />
        )}
        {(step.state !== undefined || step.kind === 'read') && !state.window && (
          <OptionalField
            label="Share of the permitted, %"
            min={0.1}
            max={100}
            value={state.share === undefined ? null : Math.round(state.share * 1000) / 10}
            onChange={(percent) =>
              putState({ share: percent === null ? undefined : percent / 100 })
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
        {keyed && (
          <>
            <ChoiceField
              label="Into"
              value={state.load ?? 'antenna'}
              options={[
                { value: 'antenna', label: 'the antenna' },
                { value: 'dummy', label: 'the dummy load' },
                { value: 'cable', label: 'the cable under test' },
              ]}
              onChange={(load) => putState({ load })}
            />
            <ChoiceField
              label="Tuner"
              value={orAsIs(state.tuner)}
              options={[
                { value: ASIS, label: 'as the chain has it' },
                { value: 'set', label: 'in circuit' },
                { value: 'bypass', label: 'in bypass' },
              ]}
              onChange={(tuner) => putState({ tuner: unlessAsIs(tuner) })}
            />
            <ChoiceField
              label="Amplifier"
              value={orAsIs(state.amplifier)}
              options={[
                { value: ASIS, label: 'as the chain has it' },
                { value: 'on', label: 'on' },
                { value: 'bypass', label: 'in bypass' },
              ]}
              onChange={(amplifier) => putState({ amplifier: unlessAsIs(amplifier) })}
            />
            <ChoiceField
              label="Keyed, it sets"
              value={orAsIs(step.tunes)}
              options={[
                { value: ASIS, label: 'nothing' },
                { value: 'tuner', label: 'the tuner' },
                { value: 'amplifier', label: 'the amplifier’s output' },
              ]}
              onChange={(tunes) => put({ tunes: unlessAsIs(tunes) })}
            />
          </>
        )}
        {!keyed && (step.kind === 'do' || step.kind === 'check') && (
          <ChoiceField<Change>
            label="Once it is done"
            value={changeOf(step.makes)}
            options={changes.map(({ id, label }) => ({ value: id, label }))}
            onChange={(change) => put({ makes: makesOf(change) })}
          />
        )}
        <ChoiceField
          label="On"
          value={orAsIs(step.when)}
          options={[
            { value: ASIS, label: 'every chain' },
            ...runConditions.map((when) => ({
              value: when,
              label: `chains with ${conditionWords[when]}`,
            })),
          ]}
          onChange={(when) => put({ when: unlessAsIs(when) })}
        />
      </div>
    </div>
  )
}

const conditionWords: Record<(typeof runConditions)[number], string> = {
  tuner: 'a tuner',
  'tuner in use': 'a tuner in use',
  'tuner not in use': 'a tuner that is not in use',
  amplifier: 'an amplifier',
  'amplifier in use': 'an amplifier in use',
  'amplifier not in use': 'an amplifier that is not in use',
  'tuned amplifier': 'an amplifier of tuned output',
  'tuned amplifier in use': 'an amplifier of tuned output in use',
}
