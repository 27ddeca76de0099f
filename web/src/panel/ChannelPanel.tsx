import type { Mode } from '@saltline/contract'
import { modeTable } from '@saltline/core'
import { Trash2 } from 'lucide-react'
import { ChoiceField } from '../parts/ChoiceField.tsx'
import { FrequencyField, PowerField } from '../parts/quantities.tsx'
import { TextField } from '../parts/TextField.tsx'
import type { PanelProps } from './SidePanel.tsx'

export function ChannelPanel({ document, channel, actions }: PanelProps) {
  return (
    <div className="space-y-3">
      <FrequencyField
        key={`f-${channel.id}`}
        label="Frequency"
        value={channel.frequencyHz}
        onChange={(frequencyHz) => actions.changeChannel(channel.id, { frequencyHz })}
        autoFocus
      />
      <PowerField
        key={`p-${channel.id}`}
        label="Set power, PEP"
        value={channel.powerW}
        onChange={(powerW) => actions.changeChannel(channel.id, { powerW })}
        {...(channel.powerW > document.transmitter.ratedW && {
          hint: `More than the ${document.transmitter.ratedW} W that ${document.transmitter.name} is rated for.`,
        })}
      />
      <ChoiceField<Mode>
        label="Mode"
        value={channel.mode}
        options={modeTable.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={(mode) => actions.changeChannel(channel.id, { mode })}
      />
      <TextField
        label="Name (may stay empty)"
        value={channel.name ?? ''}
        optional
        onChange={(name) =>
          actions.changeChannel(channel.id, { name: name.slice(0, 40) || undefined })
        }
      />
      <button
        type="button"
        className="button"
        disabled={document.channels.length === 1}
        onClick={() => actions.removeChannel(channel.id)}
      >
        <Trash2 size={14} aria-hidden /> Remove channel
      </button>
    </div>
  )
}
