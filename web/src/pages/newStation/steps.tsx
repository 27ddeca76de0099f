/** What a new station is asked for, one step at a time. */
import { limits } from '@saltline/contract'
import { modeTable } from '@saltline/core'
import { Plus, X } from 'lucide-react'
import { chainOfDraft, retuned, type StationDraft, whyNotDraft } from '../../model/stationDraft.ts'
import { AT_ANTENNA, AT_RADIO, feedPointWords } from '../../model/swrRead.ts'
import { CableField } from '../../panel/CableField.tsx'
import { ChoiceField } from '../../ui/ChoiceField.tsx'
import { Problem } from '../../ui/Problem.tsx'
import { FrequencyField, LengthField, LevelField, SwrField } from '../../ui/quantities.tsx'
import { TextField } from '../../ui/TextField.tsx'

interface StepProps {
  /** Where the chain goes; a station of its own without one. */
  stationId: string | undefined
  draft: StationDraft
  set: (change: Partial<StationDraft>) => void
}

export const steps: readonly {
  title: string
  hint: string
  Fields: (props: StepProps) => React.ReactNode
}[] = [
  { title: 'The name', hint: 'A name to know it by.', Fields: NameStep },
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

/** The step that the SWR is asked for in. */
export const ANTENNA = steps.findIndex(({ Fields }) => Fields === AntennaStep)

/** A mode of one's own needs figures of its own: it is chosen in the channel's panel. */
const MODES = modeTable
  .filter(({ id }) => id !== 'own')
  .map(({ id, name }) => ({ value: id, label: name }))

const Two = ({ children }: { children: React.ReactNode }) => (
  <div className="grid gap-3 sm:grid-cols-2">{children}</div>
)

function NameStep({ stationId, draft, set }: StepProps) {
  return (
    <Two>
      {!stationId && (
        <TextField
          label="Name of the station"
          value={draft.name}
          onChange={(name) => set({ name })}
        />
      )}
      <TextField
        label="Name of the chain"
        value={draft.chain}
        onChange={(chain) => set({ chain })}
      />
    </Two>
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
      <LevelField
        label="Rated power, PEP"
        value={draft.powerW}
        onChange={(powerW) => set({ powerW })}
      />
      <ChoiceField
        label="Into a poor match it"
        value={draft.foldback}
        options={[
          { value: 'typical', label: 'folds back; where is not known: typical' },
          { value: 'from', label: 'folds back from an SWR that is known' },
          { value: 'none', label: 'keeps its power' },
        ]}
        onChange={(foldback) => set({ foldback })}
      />
      {draft.foldback === 'from' && (
        <SwrField
          label="Full power up to SWR"
          value={draft.fullPowerToSwr}
          onChange={(fullPowerToSwr) => set({ fullPowerToSwr })}
        />
      )}
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
  const first = draft.channels[0]!.frequencyHz
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
  const { load, stages } = chainOfDraft(draft)
  const words =
    load.kind === 'swr' && feedPointWords({ stages, load }, load, draft.channels[0]!.frequencyHz)
  return (
    <div className="space-y-3">
      <TextField label="Antenna" value={draft.antenna} onChange={(antenna) => set({ antenna })} />
      <Two>
        <SwrField label="SWR as read" value={draft.swr} onChange={(swr) => set({ swr })} />
        <ChoiceField
          label="Where it was read"
          value={draft.swrAt}
          options={[
            { value: AT_RADIO, label: 'at the radio' },
            { value: AT_ANTENNA, label: 'at the antenna' },
          ]}
          onChange={(swrAt) => set({ swrAt })}
        />
      </Two>
      <Two>
        <ChannelFrequency draft={draft} set={set} index={0} label="Read on" />
      </Two>
      <p className="text-sm text-muted">
        {words ||
          'Loss in the cable hides the antenna: what a meter at the radio shows is better than what is there.'}
      </p>
      <Problem text={whyNotDraft(draft)} />
    </div>
  )
}

function ChannelFrequency({
  draft,
  set,
  index,
  label,
}: Pick<StepProps, 'draft' | 'set'> & { index: number; label: string }) {
  const { channels } = draft
  return (
    <FrequencyField
      label={label}
      value={channels[index]!.frequencyHz}
      onChange={(hz) => set({ channels: channels.with(index, retuned(channels[index]!, hz)) })}
    />
  )
}

function ChannelStep({ draft, set }: StepProps) {
  const { channels } = draft
  return (
    <div className="space-y-2">
      {channels.map((channel, i) => (
        <div key={i} className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
          <ChannelFrequency draft={draft} set={set} index={i} label={`Channel ${i + 1}`} />
          <ChoiceField
            label={`Mode of channel ${i + 1}`}
            value={channel.mode}
            options={MODES}
            onChange={(mode) => set({ channels: channels.with(i, { ...channel, mode }) })}
          />
          <button
            type="button"
            className="quiet mb-0.5"
            disabled={channels.length === 1}
            aria-label={`Remove channel ${i + 1}`}
            onClick={() => set({ channels: channels.toSpliced(i, 1) })}
          >
            <X size={15} aria-hidden />
          </button>
        </div>
      ))}
      <button
        type="button"
        className="quiet -ml-2"
        disabled={channels.length >= 40}
        onClick={() =>
          set({
            channels: [
              ...channels,
              retuned(
                channels.at(-1)!,
                Math.min(limits.frequencyHz[1], channels.at(-1)!.frequencyHz * 2),
              ),
            ],
          })
        }
      >
        <Plus size={15} aria-hidden /> Add a channel
      </button>
    </div>
  )
}
