import { useUnits } from '../platform/preferences.ts'
import { type Mode, textLimits } from '@saltline/contract'
import { formatPower, heatShareOf, meanToPeakOf, modeOf, modeTable } from '@saltline/core'
import { Trash2 } from 'lucide-react'
import { ChoiceField } from '../ui/ChoiceField.tsx'
import { ratedOn } from '../model/answers.ts'
import { FigureList } from '../ui/FigureList.tsx'
import { FrequencyField, MaybeField, PlainField, LevelField, span } from '../ui/quantities.tsx'
import { TextField } from '../ui/TextField.tsx'
import type { PanelProps } from './panelProps.ts'

export function ChannelPanel({ document, channel, actions }: PanelProps) {
  const { power } = useUnits()
  const mode = modeOf(channel.mode)
  const rated = ratedOn(document.transmitter, channel.frequencyHz)
  return (
    <div className="space-y-3">
      <FrequencyField
        key={`f-${channel.id}`}
        label="Frequency"
        value={channel.frequencyHz}
        onChange={(frequencyHz) => actions.changeChannel(channel.id, { frequencyHz })}
      />
      <LevelField
        key={`p-${channel.id}`}
        label="Set power, PEP"
        value={channel.powerW}
        onChange={(powerW) => actions.changeChannel(channel.id, { powerW })}
        {...(channel.powerW > rated && {
          hint: `More than the ${formatPower(rated, power)} that ${document.transmitter.name} is rated for.`,
        })}
      />
      <ChoiceField<Mode>
        label="Mode"
        value={channel.mode}
        options={modeTable.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={(mode) =>
          actions.changeChannel(channel.id, { mode, meanToPeak: undefined, keyDown: undefined })
        }
        hint={mode.source}
      />
      <div className="grid grid-cols-2 gap-2">
        <PlainField
          label="Average over PEP"
          unit="%"
          value={meanToPeakOf(channel) * 100}
          step={1}
          {...span('meanToPeak', 100)}
          onChange={(percent) => actions.changeChannel(channel.id, { meanToPeak: percent / 100 })}
        />
        <PlainField
          label="Duty cycle of a transmission"
          unit="%"
          value={(channel.keyDown ?? mode.keyDown) * 100}
          step={1}
          {...span('keyDown', 100)}
          onChange={(percent) => actions.changeChannel(channel.id, { keyDown: percent / 100 })}
        />
      </div>
      <FigureList
        rows={[
          ['PEP', formatPower(channel.powerW, power)],
          ['Average while keyed', formatPower(channel.powerW * meanToPeakOf(channel), power)],
          [
            'Average over a transmission',
            formatPower(channel.powerW * heatShareOf(channel), power),
          ],
        ]}
      />
      <MaybeField
        label="The longest transmission is known"
        value={channel.longestOverS}
        usual={180}
        onChange={(longestOverS) => actions.changeChannel(channel.id, { longestOverS })}
      >
        {(seconds) => (
          <PlainField
            label="lasts"
            unit="min"
            value={seconds / 60}
            step={1}
            {...span('longestOverS', 1 / 60)}
            onChange={(minutes) =>
              actions.changeChannel(channel.id, { longestOverS: minutes * 60 })
            }
          />
        )}
      </MaybeField>
      <TextField
        label="Name (may stay empty)"
        value={channel.name ?? ''}
        optional
        most={textLimits.channelName}
        onChange={(name) => actions.changeChannel(channel.id, { name: name || undefined })}
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
