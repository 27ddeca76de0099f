import { errorText } from '../../platform/errorText.ts'
import { Plus, X } from 'lucide-react'
import { useMemo, useState } from 'react'
import { useNavigate } from 'react-router'
import { createChain, createStation } from '../../platform/api/queries.ts'
import { Page } from '../../shell/Page.tsx'
import { answerChannel, chainOfDocument } from '../../model/answers.ts'
import { chainAddress } from '../../editor/useChainAddress.ts'
import { CableField } from '../../panel/CableField.tsx'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { FrequencyField, LengthField, PowerField, SwrField } from '../../ui/quantities.tsx'
import { TextField } from '../../ui/TextField.tsx'
import { Spine } from '../../spine/Spine.tsx'
import { stillSpine } from '../../spine/stillSpine.ts'
import { DeletedStations } from '../../shell/DeletedStations.tsx'
import { StationFromFile } from './StationFromFile.tsx'
import { chainOfDraft, firstDraft, type StationDraft } from '../../model/stationDraft.ts'
import { Problem } from '../../ui/Problem.tsx'

interface StepProps {
  draft: StationDraft
  set: (change: Partial<StationDraft>) => void
}

const steps: readonly {
  title: string
  hint: string
  Fields: (props: StepProps) => React.ReactNode
}[] = [
  { title: 'The station', hint: 'A name to know it by.', Fields: StationStep },
  {
    title: 'The transmitter',
    hint: 'What leaves the radio, and what it does when the match is poor.',
    Fields: TransmitterStep,
  },
  {
    title: 'The cable',
    hint: 'From the radio outward. More pieces can be added on the spine.',
    Fields: CableStep,
  },
  {
    title: 'The antenna',
    hint: 'One SWR is enough to begin; a sweep can be imported later.',
    Fields: AntennaStep,
  },
  { title: 'The channels', hint: 'The frequencies you use.', Fields: ChannelStep },
]

/** A new station in the order of the job; it can stop at any step with a chain that solves. */
export function NewStationPage() {
  const [draft, setDraft] = useState(firstDraft)
  const [step, setStep] = useState(0)
  const [problem, setProblem] = useState<string | null>(null)
  const navigate = useNavigate()
  const set = (change: Partial<StationDraft>) => setDraft({ ...draft, ...change })
  const document = useMemo(() => chainOfDraft(draft), [draft])
  const channel = document.channels[0]!
  const answer = useMemo(
    () => answerChannel(chainOfDocument(document, undefined)!, document.transmitter, channel),
    [document, channel],
  )
  const finish = async () => {
    try {
      const station = await createStation({ name: draft.name })
      const chain = await createChain(station.id, document)
      await navigate(chainAddress(station.id, chain.id))
    } catch (error) {
      setProblem(errorText(error))
    }
  }
  const { title, hint, Fields } = steps[step]!
  const last = step === steps.length - 1
  return (
    <Page title="New station">
      <div className="mx-auto max-w-5xl px-5 py-5">
        <ol className="mb-4 flex flex-wrap gap-x-5 gap-y-1 text-sm" aria-label="Steps">
          {steps.map((each, i) => (
            <li key={each.title}>
              <button
                type="button"
                aria-current={i === step ? 'step' : undefined}
                className={`min-h-6 ${i === step ? 'font-bold text-tide' : 'text-muted hover:text-ink'}`}
                onClick={() => setStep(i)}
              >
                {i + 1} {each.title}
              </button>
            </li>
          ))}
        </ol>
        <div className="grid items-start gap-8 md:grid-cols-[minmax(0,36rem)_1fr]">
          <form
            onSubmit={(event) => {
              event.preventDefault()
              if (last) void finish()
              else setStep(step + 1)
            }}
          >
            <h2 className="text-lg font-bold">{title}</h2>
            <p className="mb-3 text-muted">{hint}</p>
            <Fields key={step} draft={draft} set={set} />
            <div className="mt-4 flex flex-wrap gap-2">
              <button type="submit" className="button button-main">
                {last ? 'Finish' : 'Next'}
              </button>
              {!last && (
                <button type="button" className="button" onClick={() => void finish()}>
                  Finish with what there is
                </button>
              )}
            </div>
            <Problem text={problem} />
          </form>
          <div>
            <StationFromFile />
            <DeletedStations />
          </div>
        </div>
      </div>
      <div inert>
        <Spine
          document={document}
          channel={channel}
          answer={answer}
          selection={null}
          topW={draft.powerW}
          actions={stillSpine}
        />
      </div>
    </Page>
  )
}

const Two = ({ children }: { children: React.ReactNode }) => (
  <div className="grid gap-3 sm:grid-cols-2">{children}</div>
)

function StationStep({ draft, set }: StepProps) {
  return (
    <TextField label="Name of the station" value={draft.name} onChange={(name) => set({ name })} />
  )
}

function TransmitterStep({ draft, set }: StepProps) {
  return (
    <Two>
      <TextField
        label="Transmitter"
        value={draft.transmitter}
        onChange={(transmitter) => set({ transmitter })}
      />
      <PowerField
        label="Rated power, PEP"
        value={draft.powerW}
        onChange={(powerW) => set({ powerW })}
      />
      <ChoiceField
        label="Into a poor match it"
        value={draft.foldback}
        options={[
          { value: 'solid-state', label: 'folds back, as solid-state sets do' },
          { value: 'none', label: 'keeps its power' },
        ]}
        onChange={(foldback) => set({ foldback })}
      />
      <ChoiceField
        label="Its output is"
        value={draft.peaked ? 'peaked' : 'levelled'}
        options={[
          { value: 'levelled', label: 'fixed: no tune and load controls' },
          { value: 'peaked', label: 'retuned with tune and load controls' },
        ]}
        onChange={(behaviour) => set({ peaked: behaviour === 'peaked' })}
      />
    </Two>
  )
}

function CableStep({ draft, set }: StepProps) {
  const [first = 7.1e6] = draft.frequenciesHz
  return (
    <div className="space-y-3">
      <Two>
        <LengthField
          label="Patch lead (0 for none)"
          value={draft.leadM}
          onChange={(leadM) => set({ leadM })}
        />
        <CableField
          value={draft.leadCable}
          onChange={(leadCable) => set({ leadCable })}
          frequencyHz={first}
        />
      </Two>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="accent-tide"
          checked={draft.meter}
          onChange={(event) => set({ meter: event.target.checked })}
        />
        a wattmeter stays in line
      </label>
      <Two>
        <LengthField
          label="Run to the antenna"
          value={draft.runM}
          onChange={(runM) => set({ runM })}
        />
        <CableField
          value={draft.runCable}
          onChange={(runCable) => set({ runCable })}
          frequencyHz={first}
        />
      </Two>
    </div>
  )
}

function AntennaStep({ draft, set }: StepProps) {
  return (
    <Two>
      <TextField label="Antenna" value={draft.antenna} onChange={(antenna) => set({ antenna })} />
      <SwrField label="SWR at the antenna" value={draft.swr} onChange={(swr) => set({ swr })} />
    </Two>
  )
}

function ChannelStep({ draft, set }: StepProps) {
  const { frequenciesHz } = draft
  return (
    <div className="max-w-60 space-y-2">
      {frequenciesHz.map((hz, i) => (
        <div key={i} className="grid grid-cols-[1fr_auto] items-end gap-2">
          <FrequencyField
            label={`Channel ${i + 1}`}
            value={hz}
            onChange={(value) => set({ frequenciesHz: frequenciesHz.with(i, value) })}
          />
          <button
            type="button"
            className="quiet mb-0.5"
            disabled={frequenciesHz.length === 1}
            aria-label={`Remove channel ${i + 1}`}
            onClick={() => set({ frequenciesHz: frequenciesHz.toSpliced(i, 1) })}
          >
            <X size={15} aria-hidden />
          </button>
        </div>
      ))}
      <button
        type="button"
        className="quiet -ml-2"
        disabled={frequenciesHz.length >= 40}
        onClick={() => set({ frequenciesHz: [...frequenciesHz, frequenciesHz.at(-1)! * 2] })}
      >
        <Plus size={15} aria-hidden /> Add a channel
      </button>
    </div>
  )
}
