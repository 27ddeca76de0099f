import { GoneParts } from '../../panel/GoneParts.tsx'
import {
  type Alert,
  type ChainDocument,
  type ChannelDocument,
  dayText,
  type Round,
  type Run,
} from '@saltline/contract'
import { type Chain, formatFrequency, standingOf } from '@saltline/core'
import { useMemo } from 'react'
import { Link } from 'react-router'
import { chainAddress } from '../../editor/useChainAddress.ts'
import { answerChannel } from '../../model/answers.ts'
import { headroomText, kindName, partName, standingText } from '../../model/headroomWords.ts'
import { radiatedOf } from '../../model/radiated.ts'
import { levelText, wattsText } from '../../model/wattsText.ts'
import { useUnits } from '../../platform/preferences.ts'
import { Ribbon } from './Ribbon.tsx'
import type { BoardChain } from './useBoard.ts'

interface Props {
  stationId: string
  own: BoardChain
  alerts: readonly Alert[]
  session: Round | undefined
  unfinished: readonly Run[]
  /** Whether an edit of it waits in this browser. */
  unsaved: boolean
}

/** A chain at a glance: every channel as a small band with its watts, and how it is. */
export function ChainCard({ stationId, own, alerts, session, unfinished, unsaved }: Props) {
  const { id, name, document, chain, problem } = own
  const to = chainAddress(stationId, id)
  return (
    <article aria-label={name} className="flex flex-col border border-rule bg-sheet">
      <h3 className="flex items-baseline justify-between gap-3 border-b border-rule bg-paper px-3.5 py-2">
        <Link className="text-base font-bold hover:underline" to={to}>
          {name}
        </Link>
        <Link className="quiet text-sm" to={chainAddress(stationId, id, 'log')}>
          enter a reading
        </Link>
      </h3>
      <ul className="px-1.5 py-1">
        {document?.channels.map((channel) => (
          <li key={channel.id}>
            <ChannelRow
              to={`${to}?channel=${channel.id}`}
              document={document}
              chain={chain}
              channel={channel}
            />
          </li>
        ))}
        {problem && <li className="p-2 text-sm text-danger">⚠ {problem}</li>}
      </ul>
      <GoneParts stationId={stationId} chainId={id} className="px-3.5" />
      <ul className="mt-auto px-3.5 pb-2.5 text-sm [&>li>*]:inline-block [&>li>*]:min-h-6 [&>li>*]:py-[3px]">
        {alerts.map((alert) => (
          <li key={`${alert.kind} ${alert.what}`}>
            <AlertLine stationId={stationId} alert={alert} />
          </li>
        ))}
        {unsaved && (
          <li>
            <Link className="text-caution underline" to={to}>
              ◐ An edit waits in this browser
            </Link>
          </li>
        )}
        {unfinished.map((run) => (
          <li key={run.id}>
            <Link
              className="text-caution underline"
              to={`${chainAddress(stationId, id, 'run')}?run=${run.id}`}
            >
              ◐ {run.title}, step {run.next + 1} of {run.steps.length}
            </Link>
          </li>
        ))}
        <li>
          <Headroom own={own} to={chainAddress(stationId, id, 'headroom')} />
        </li>
        <li>
          {session ? (
            <Link
              className="hover:underline"
              to={`${chainAddress(stationId, id, 'log')}?round=${session.id}`}
            >
              Last measured {dayText(session.lastAt)}, {session.readingCount}{' '}
              {session.readingCount === 1 ? 'reading' : 'readings'}
              {session.outsideCount > 0 && `, ${session.outsideCount} not as expected`}
            </Link>
          ) : (
            <span className="text-muted">Never measured</span>
          )}
        </li>
      </ul>
    </article>
  )
}

function ChannelRow({
  to,
  document,
  chain,
  channel,
}: {
  to: string
  document: ChainDocument
  chain: Chain | null
  channel: ChannelDocument
}) {
  const { transmitter, stages } = document
  const { power } = useUnits()
  const answer = useMemo(
    () => chain && answerChannel(chain, transmitter, channel),
    [chain, transmitter, channel],
  )
  const solution = answer?.ok ? answer.solution : null
  const watts =
    solution && answer?.ok ? wattsText(solution.antennaW, power, answer.spread?.antennaW) : null
  const radiated =
    solution && answer?.ok
      ? radiatedOf(document, channel, solution.antennaW, answer.spread?.antennaW)
      : null
  const radiatedText = radiated
    ? `${radiated.kind} ${wattsText(radiated.watts, power, radiated.range)}`
    : undefined
  const level =
    solution &&
    levelText(
      solution.settingW,
      solution.antennaW,
      answer?.ok ? answer.spread?.antennaW : undefined,
    )
  return (
    <Link
      to={to}
      className="grid grid-cols-[6.2rem_minmax(0,1fr)_minmax(4.2rem,auto)_3.9rem] items-center gap-x-2.5 rounded px-2 py-[3px] hover:bg-paper"
      title={answer && !answer.ok ? answer.message : radiatedText}
    >
      <span className="text-sm whitespace-nowrap">
        {formatFrequency(channel.frequencyHz)}
        <span className="sr-only">: </span>
      </span>
      {solution ? <Ribbon stages={stages} solution={solution} /> : <span className="h-[26px]" />}
      <b className="text-right whitespace-nowrap text-tide">
        {watts ?? (!answer && '…')}
        {watts && <span className="sr-only"> at the antenna, </span>}
        {radiatedText && (
          <span className="block text-xs font-normal text-muted">{radiatedText}</span>
        )}
      </b>
      <span className="text-right text-sm whitespace-nowrap text-muted">
        {level ?? (answer && 'no figure')}
      </span>
    </Link>
  )
}

function Headroom({ own: { document, nearest }, to }: { own: BoardChain; to: string }) {
  if (!document || nearest === undefined)
    return <span className="text-muted">Working out the headroom…</span>
  if (nearest === null) return <span className="text-muted">No limit of a part is known</span>
  const { channelId, stress } = nearest
  const standing = standingOf(stress)
  const channel = document.channels.find(({ id }) => id === channelId)
  const tone = standing === 'over' ? 'text-danger' : standing === 'tight' ? 'text-caution' : ''
  return (
    <Link className={`hover:underline ${tone}`} to={`${to}?channel=${channelId}`}>
      {standingText[standing].slice(0, 1)}{' '}
      {standing === 'over' ? 'Over its limit' : `Least headroom ${headroomText(stress)}`}:{' '}
      {partName(document, stress.part)}, {kindName(stress)}
      {standing === 'over' && ` ${headroomText(stress)}`}
      {channel && document.channels.length > 1 && `, ${formatFrequency(channel.frequencyHz)}`}
    </Link>
  )
}

/** What the record says of a chain. */
function AlertLine({ stationId, alert }: { stationId: string; alert: Alert }) {
  const { chainId, kind, text, since, channelId } = alert
  const outside = kind === 'outside'
  const to = `${chainAddress(stationId, chainId, 'log')}?${new URLSearchParams({
    leaf: outside ? 'round' : 'years',
    ...(channelId && { channel: channelId }),
  })}`
  return (
    <Link to={to} className={`hover:underline ${outside ? 'text-caution' : 'text-danger'}`}>
      {outside ? '◐' : '▲'} {text}
      {since && !outside && `, since about ${dayText(since)}`}
    </Link>
  )
}
