import { Fold } from '../../ui/Fold.tsx'
import {
  type AmplifierDocument,
  amplifierFigures,
  inputFigures,
  limits,
  type Mode,
  tripFigures,
} from '@saltline/contract'
import { driveForW, formatDb, formatFrequency, formatPower, modeTable } from '@saltline/core'
import { Plus, X } from 'lucide-react'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { FigureFields, FrequencyField, OhmField, PowerField } from '../../ui/quantities.tsx'
import { FoldbackFields } from '../FoldbackFields.tsx'

interface Props {
  stage: AmplifierDocument
  change: (part: Partial<AmplifierDocument>) => void
  hz: number
  /** The SWR at its output now. */
  swr: number | null
}

/** A bound as it is shown; the schema leaves a thousandth for this rounding. */
const rounded = (value: number): number => Number(value.toPrecision(6))

/** Gain and drive that fit each other: at least what full output needs. */
const leastGain = (driveW: number, fullW: number): number => 10 * Math.log10(fullW / driveW)

export function AmplifierFields({ stage, change, hz, swr }: Props) {
  const { gainDb, driveW, fullW } = stage
  // With this gain the drive must be able to give full output; each field says how far it may go.
  const gain = 10 ** (gainDb / 10)
  return (
    <>
      <FigureFields
        figures={amplifierFigures}
        values={stage}
        change={change}
        about={{
          fullW: { max: rounded(Math.min(limits.powerW[1], driveW * gain)) },
          driveW: { min: rounded(fullW / gain) },
          gainDb: {
            min: Math.max(limits.gainDb[0], rounded(leastGain(driveW, fullW))),
            hint: `${formatDb(gainDb - leastGain(driveW, fullW))} compressed at full output`,
          },
        }}
      />
      <Ceilings stage={stage} change={change} />
      <ChoiceField
        label="Into a mismatch"
        value={stage.behaviour}
        options={[
          { value: 'levelled', label: 'constant forward power (typical solid-state)' },
          { value: 'peaked', label: 'tuned output (full power into the mismatch)' },
        ]}
        onChange={(behaviour) => change({ behaviour })}
      />
      <FigureFields
        figures={tripFigures}
        values={stage}
        change={change}
        about={{ tripSwr: { hint: 'it switches itself off; empty: it does not' } }}
      />
      <Input stage={stage} change={change} hz={hz} />
      <FoldbackFields
        points={stage.foldback}
        here={swr}
        onChange={(foldback) => change({ foldback })}
      />
    </>
  )
}

/** Less output in modes that heat it more. */
function Ceilings({ stage, change }: Pick<Props, 'stage' | 'change'>) {
  const { ceilings = {}, fullW } = stage
  const listed = Object.entries(ceilings) as [Mode, number][]
  const free = modeTable.filter(({ id }) => ceilings[id] === undefined)
  const set = (next: AmplifierDocument['ceilings']) =>
    change({ ceilings: next && Object.keys(next).length > 0 ? next : undefined })
  return (
    <fieldset className="rounded border border-rule px-3 pt-1 pb-2">
      <legend className="px-1 text-sm text-muted">Most output by mode, PEP</legend>
      {listed.map(([mode, watts]) => (
        <div key={mode} className="mb-1.5 grid grid-cols-[1fr_auto] items-end gap-2">
          <PowerField
            label={modeTable.find(({ id }) => id === mode)!.name}
            value={watts}
            onChange={(next) => set({ ...ceilings, [mode]: next })}
            hint={`at ${formatPower(driveForW(stage, watts))} of drive`}
          />
          <button
            type="button"
            className="quiet mb-5"
            aria-label={`No ceiling of its own for ${mode}`}
            onClick={() => set(Object.fromEntries(listed.filter(([other]) => other !== mode)))}
          >
            <X size={15} aria-hidden />
          </button>
        </div>
      ))}
      <ChoiceField<Mode | ''>
        label={listed.length > 0 ? 'another mode' : `all modes: ${formatPower(fullW)}, but less in`}
        value=""
        options={[
          { value: '', label: 'choose' },
          ...free.map(({ id, name }) => ({ value: id, label: name })),
        ]}
        onChange={(mode) => mode && set({ ...ceilings, [mode]: fullW * 0.6 })}
      />
    </fieldset>
  )
}

/** What the exciter sees, on every band. */
function Input({ stage, change, hz }: Omit<Props, 'swr'>) {
  const { inputOhm, inputBands = [] } = stage
  const set = (i: number, part: Partial<(typeof inputBands)[number]>) =>
    change({ inputBands: inputBands.with(i, { ...inputBands[i]!, ...part }) })
  return (
    <>
      <FigureFields
        figures={inputFigures}
        values={inputOhm}
        change={(part) => change({ inputOhm: { ...inputOhm, ...part } })}
      />
      <Fold
        summary={
          <>Another input on some bands{inputBands.length > 0 && `: ${inputBands.length}`}</>
        }
        startsOpen={inputBands.length > 0}
      >
        <div className="mt-2 space-y-2">
          {inputBands.map((band, i) => (
            <div key={i} className="grid grid-cols-[1fr_1fr_auto] items-end gap-1.5">
              <FrequencyField
                label={`Band ${i + 1} from`}
                value={band.lowHz}
                max={band.highHz - 1}
                onChange={(lowHz) => set(i, { lowHz })}
              />
              <FrequencyField
                label="to"
                value={band.highHz}
                min={band.lowHz + 1}
                onChange={(highHz) => set(i, { highHz })}
              />
              <button
                type="button"
                className="quiet mb-0.5 !px-1"
                aria-label={`Remove the input of band ${i + 1}, ${formatFrequency(band.lowHz)}`}
                onClick={() =>
                  change({
                    inputBands: inputBands.length > 1 ? inputBands.toSpliced(i, 1) : undefined,
                  })
                }
              >
                <X size={15} aria-hidden />
              </button>
              <OhmField
                label="R"
                value={band.rOhm}
                within="inputOhm"
                onChange={(rOhm) => set(i, { rOhm })}
              />
              <OhmField
                label="X"
                within="reactanceOhm"
                value={band.xOhm}
                onChange={(xOhm) => set(i, { xOhm })}
              />
            </div>
          ))}
          <button
            type="button"
            className="quiet -ml-2"
            disabled={inputBands.length >= 20}
            onClick={() =>
              change({
                inputBands: [...inputBands, { lowHz: hz * 0.9, highHz: hz * 1.1, ...inputOhm }],
              })
            }
          >
            <Plus size={15} aria-hidden /> Add a band
          </button>
        </div>
      </Fold>
    </>
  )
}
