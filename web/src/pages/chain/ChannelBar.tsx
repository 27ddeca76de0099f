import type { ChannelDocument, TransmitterDocument } from '@saltline/contract'
import { type Chain, formatFrequency, formatPower, modeOf } from '@saltline/core'
import { Pencil, Plus } from 'lucide-react'
import { memo } from 'react'
import { useUnits } from '../../platform/preferences.ts'
import { intoView } from '../../ui/intoView.ts'
import { useRanges } from '../../compute/ranges.ts'
import { withRanges } from '../../model/withRanges.ts'
import { levelText, wattsText } from '../../model/wattsText.ts'
import type { ChannelAnswer } from '../../model/answers.ts'
import type { Selection } from '../../model/selection.ts'
import { useChannelAnswers } from '../../compute/useChannelAnswers.ts'

interface Props {
  channels: readonly ChannelDocument[]
  chain: Chain | null
  transmitter: TransmitterDocument
  current: string
  /** Of the current channel. */
  answer: ChannelAnswer | null
  sweepError: Error | null
  onPick: (id: string, selection?: Selection) => void
  onAdd: () => void
}

/** Made once: an icon is drawn anew for nothing. */
const plus = <Plus size={15} aria-hidden />
const pencil = <Pencil size={13} aria-hidden />

/** Every channel with its watts at the antenna: one glance compares bands. Digits pick one. */
export function ChannelBar(props: Props) {
  const { channels, chain, transmitter, current, answer, sweepError, onPick, onAdd } = props
  const ranges = useRanges()
  const here = { id: current, answer }
  const answers = useChannelAnswers(chain, transmitter, channels, here, sweepError)
  return (
    <nav aria-label="Channels" className="flex overflow-x-auto border-b border-rule bg-paper">
      {channels.map((channel, index) => (
        <Channel
          key={channel.id}
          channel={channel}
          index={index}
          answer={withRanges(answers(channel.id), ranges.of(channel.id))}
          active={channel.id === current}
          onPick={onPick}
        />
      ))}
      <button type="button" className="quiet m-2 min-w-28 self-stretch" onClick={onAdd}>
        {plus} channel
      </button>
    </nav>
  )
}

const Channel = memo(function Channel({
  channel,
  index,
  answer,
  active,
  onPick,
}: {
  channel: ChannelDocument
  index: number
  answer: ChannelAnswer | null
  active: boolean
  onPick: Props['onPick']
}) {
  const { power } = useUnits()
  const solved = answer?.ok ? answer : null
  const fraction = solved ? Math.min(1, solved.solution.antennaW / channel.powerW) : 0
  return (
    <div
      ref={active ? intoView : undefined}
      className={`relative min-w-56 flex-1 border-r border-rule ${active ? 'bg-sheet' : ''}`}
    >
      <button
        type="button"
        aria-current={active ? 'true' : undefined}
        onClick={() => onPick(channel.id)}
        className="grid w-full grid-cols-[auto_1fr_auto] items-center gap-x-2 px-3.5 pt-2 pb-2.5 text-left"
      >
        <span
          aria-hidden
          className="row-span-2 grid size-[18px] self-start place-items-center rounded border border-rule text-xs text-muted"
        >
          {index < 9 ? index + 1 : ''}
        </span>
        <b className="whitespace-nowrap">{formatFrequency(channel.frequencyHz)}</b>
        <b className={`text-right whitespace-nowrap ${solved ? 'text-tide' : 'text-muted'}`}>
          {solved
            ? wattsText(solved.solution.antennaW, power, solved.spread?.antennaW)
            : answer
              ? 'no figure'
              : '…'}
        </b>
        <span className="truncate text-sm text-muted">
          {channel.name || `${modeOf(channel.mode).short}, ${formatPower(channel.powerW, power)}`}
        </span>
        <span className={`text-right text-sm whitespace-nowrap text-muted ${active ? 'pr-5' : ''}`}>
          {solved &&
            levelText(solved.solution.settingW, solved.solution.antennaW, solved.spread?.antennaW)}
        </span>
      </button>
      {active && (
        <button
          type="button"
          className="absolute right-2 bottom-2 grid size-6 place-items-center rounded text-muted hover:text-ink"
          aria-label={`Edit the channel ${formatFrequency(channel.frequencyHz)}`}
          onClick={() => onPick(channel.id, { kind: 'channel' })}
        >
          {pencil}
        </button>
      )}
      <span
        aria-hidden
        className="absolute bottom-0 left-0 h-[3px] bg-tide"
        style={{ width: `${Math.min(1, fraction) * 100}%` }}
      />
    </div>
  )
})
